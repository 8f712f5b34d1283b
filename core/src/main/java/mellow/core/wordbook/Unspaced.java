package mellow.core.wordbook;

import java.lang.Character.UnicodeScript;

/** Where a term stands in a script that has no spaces between words: not within a run of the same letters that makes another word of it. */
final class Unspaced {

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
            boolean before = at > 0 && goesOn(text.charAt(at - 1), term.charAt(0), term);
            boolean after = end < text.length() && goesOn(text.charAt(end), term.charAt(term.length() - 1), term);
            if (!before && !after) {
                return at;
            }
        }
        return -1;
    }

    /** Katakana are words from end to end; a single Chinese character is a part of the word that it stands in. */
    private static boolean goesOn(char beside, char own, String term) {
        if (katakana(own)) {
            return katakana(beside);
        }
        return term.length() == 1
                && UnicodeScript.of(own) == UnicodeScript.HAN
                && UnicodeScript.of(beside) == UnicodeScript.HAN;
    }

    private static boolean katakana(char letter) {
        return letter == 'ー' || UnicodeScript.of(letter) == UnicodeScript.KATAKANA;
    }
}
