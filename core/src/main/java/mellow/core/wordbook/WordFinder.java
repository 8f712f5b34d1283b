package mellow.core.wordbook;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Finds words in a text as people mean them: whatever the case, and only where a word begins. A word may be followed by up to three more letters, so
 * that "ramp" is found in "ramps" and "Rampe" in "Rampen"; scripts without spaces between words are searched everywhere.
 */
public final class WordFinder {

    /** Endings of a word that are still the word; longer ones make another of it. */
    private static final int LONGEST_ENDING = 3;
    /** Words as short as that have no endings: "to" is not in "toe". */
    private static final int TOO_SHORT = 3;

    private WordFinder() {}

    /** A place in a text, in UTF-16 units. */
    public record Place(int start, int end) {}

    /** Where {@code word} stands in {@code text}, endings included; nowhere for an empty word. */
    public static List<Place> in(String text, String word) {
        List<Place> found = new ArrayList<>();
        String wanted = word.strip().toLowerCase(Locale.ROOT);
        String searched = text.toLowerCase(Locale.ROOT);
        if (wanted.isEmpty() || searched.length() != text.length()) {
            // A language whose lower case has other lengths is searched as it is written.
            searched = text;
            wanted = word.strip();
        }
        if (wanted.isEmpty()) {
            return found;
        }
        for (int at = searched.indexOf(wanted); at >= 0; at = searched.indexOf(wanted, at + 1)) {
            int end = at + wanted.length();
            if (Unspaced.is(wanted.codePointAt(0))) {
                found.add(new Place(at, end));
            } else if (at == 0 || !Character.isLetterOrDigit(searched.codePointBefore(at))) {
                int after = end;
                while (after < searched.length() && Character.isLetterOrDigit(searched.charAt(after))) {
                    after++;
                }
                int most = wanted.length() <= TOO_SHORT ? 0 : LONGEST_ENDING;
                if (after - end <= most) {
                    found.add(new Place(at, after));
                }
            }
        }
        return found;
    }
}
