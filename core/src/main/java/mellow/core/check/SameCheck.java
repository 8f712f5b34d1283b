package mellow.core.check;

import java.util.Locale;
import mellow.core.placeholder.Placeholder;

/**
 * A text that is its source. Names, numbers, short and international words are the same in many languages; only words that look like a sentence, or Latin
 * words in a language of another script, tell that nobody translated them.
 */
final class SameCheck implements Check {

    private static final int SHORT_WORD = 4;
    /** Languages near to each other share words; there more of them must be the same. */
    private static final int WORDS = 2;

    private static final int WORDS_OF_NEAR = 3;

    @Override
    public void lookAt(Form form, Found found) {
        if (form.pattern() || !form.source().strip().equals(form.text().strip()) || form.message() != null) {
            return;
        }
        Facts facts = form.ground().facts();
        Facts source = form.ground().source();
        if (facts.language().equals(source.language())) {
            return;
        }
        if (form.ground().terms().agreedAsIs(form.text())) {
            return;
        }
        String words = bare(form);
        int small = 0;
        int all = 0;
        boolean longWord = false;
        for (String word : words.split("[^\\p{L}’'-]+")) {
            if (word.length() < SHORT_WORD - 1) {
                continue;
            }
            all++;
            if (Character.isLowerCase(word.charAt(0))) {
                small++;
            }
            longWord |= word.length() >= SHORT_WORD && !word.equals(word.toUpperCase(Locale.ROOT)) && plain(word);
        }
        boolean otherScript = !facts.script().equals(source.script());
        // "Ostrel: parking" is a name and a word that both languages have.
        boolean titled = form.text().indexOf(':') >= 0;
        boolean sentence = all >= (near(facts, source) || titled ? WORDS_OF_NEAR : WORDS) && small > 0 && longWord;
        if (sentence || (otherScript && longWord && all == 1 && dictionaryWord(words))) {
            found.add("same-as-source", form.name(), "The text is the same as the source.");
        }
    }

    private static String bare(Form form) {
        StringBuilder bare = new StringBuilder(form.text());
        for (Placeholder one : form.ground().settings().placeholders().in(form.text())) {
            for (int at = one.start(); at < one.end(); at++) {
                bare.setCharAt(at, ' ');
            }
        }
        for (Tag tag : Tag.in(form.text(), form.source())) {
            for (int at = tag.start(); at < tag.end(); at++) {
                bare.setCharAt(at, ' ');
            }
        }
        // A link, an address, a file, an option or a name in code is no word.
        return bare.toString().replaceAll("\\S*(?:@|\\\\|\\w\\.\\w|/|_|=|--|\\d)\\S*", " ");
    }

    /** Capitals or digits inside make a name of it. */
    private static boolean plain(String word) {
        return word.substring(1).equals(word.substring(1).toLowerCase(Locale.ROOT));
    }

    /** A single word in small letters is no name. */
    private static boolean dictionaryWord(String words) {
        String word = words.strip();
        return !word.isEmpty() && Character.isLowerCase(word.charAt(0));
    }

    private static boolean near(Facts one, Facts other) {
        return other.among("en")
                && one.among(
                        "de", "nl", "fr", "da", "sv", "nb", "nn", "no", "af", "fy", "sco", "es", "it", "pt", "ca",
                        "ro");
    }
}
