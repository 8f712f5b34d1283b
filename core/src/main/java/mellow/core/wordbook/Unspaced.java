package mellow.core.wordbook;

import java.lang.Character.UnicodeScript;

/** Where a term stands in a script that has no spaces between words: not within a run of the same letters that makes another word of it. */
final class Unspaced {

    /** Letters of another word that is written together with one. */
    private static final int PART = 2;
    /** Letters of a word that is looked for in such. */
    private static final int LEAST = 3;
    /** Signs that belong to the letter before. */
    private static final String GOES_ON = "ーァィゥェォッャュョ";

    private Unspaced() {}

    /** Whether words of that letter's script stand without spaces. */
    static boolean is(int letter) {
        return switch (UnicodeScript.of(letter)) {
            case HAN, HIRAGANA, KATAKANA, THAI, LAO, KHMER, MYANMAR -> true;
            default -> false;
        };
    }

    /** Whether {@code term} stands in {@code text} as a word: "港" is not in "空港", and "ランプ" not in "トランプ". */
    static boolean has(String text, String term) {
        return next(text, term, 0) >= 0;
    }

    /** Where it stands next, from {@code from} on; -1 for nowhere. */
    static int next(String text, String term, int from) {
        for (int at = text.indexOf(term, from); at >= 0; at = text.indexOf(term, at + 1)) {
            int end = at + term.length();
            if (katakana(term.charAt(0)) ? isPart(text, at, end, term) : isWord(text, at, end, term)) {
                return at;
            }
        }
        return -1;
    }

    /** A single Chinese character is a part of the word that it stands in. */
    private static boolean isWord(String text, int at, int end, String term) {
        return term.length() > 1
                || !han(term.charAt(0))
                || !(at > 0 && han(text.charAt(at - 1))) && !(end < text.length() && han(text.charAt(end)));
    }

    /** Words in katakana are written together, so beside one stands nothing of them, or enough for a word. */
    private static boolean isPart(String text, int at, int end, String term) {
        int before = at;
        while (before > 0 && at - before < PART && katakana(text.charAt(before - 1))) {
            before--;
        }
        int after = end;
        while (after < text.length() && after - end < PART && katakana(text.charAt(after))) {
            after++;
        }
        boolean goesOn = end < text.length() && GOES_ON.indexOf(text.charAt(end)) >= 0;
        return !goesOn
                && (before == at || at - before == PART && term.length() >= LEAST)
                && (after == end || after - end == PART && term.length() >= LEAST);
    }

    private static boolean han(char letter) {
        return UnicodeScript.of(letter) == UnicodeScript.HAN;
    }

    private static boolean katakana(char letter) {
        return letter == 'ー' || UnicodeScript.of(letter) == UnicodeScript.KATAKANA;
    }
}
