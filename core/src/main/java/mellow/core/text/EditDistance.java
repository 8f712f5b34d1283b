package mellow.core.text;

import com.ibm.icu.text.BreakIterator;
import com.ibm.icu.util.ULocale;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/**
 * How much one text was changed into another: the least number of characters replaced, put in or left out (Levenshtein 1966), where a character is
 * what a reader takes for one (extended grapheme cluster, UAX #29).
 */
public final class EditDistance {

    /** What differs of longer texts counts as replaced whole; in characters, after the equal beginnings and ends. */
    public static final int LONGEST = 2_000;

    /** Below this, every UTF-16 unit is a character, but for a carriage return before a line feed. */
    private static final int FIRST_COMBINING = 0x300;

    private EditDistance() {}

    /**
     * A distance.
     *
     * @param changed characters changed
     * @param of characters of the longer text
     */
    public record Changed(int changed, int of) {}

    /** The distance between two texts; symmetric. Cost: product of the lengths of what differs. */
    public static Changed between(String one, String other) {
        String[] a = characters(one);
        String[] b = characters(other);
        int from = 0;
        while (from < a.length && from < b.length && a[from].equals(b[from])) {
            from++;
        }
        int endA = a.length;
        int endB = b.length;
        while (endA > from && endB > from && a[endA - 1].equals(b[endB - 1])) {
            endA--;
            endB--;
        }
        int longest = Math.max(endA, endB) - from;
        int changed = longest > LONGEST
                ? longest
                : distance(Arrays.copyOfRange(a, from, endA), Arrays.copyOfRange(b, from, endB));
        return new Changed(changed, Math.max(a.length, b.length));
    }

    /** The sum over the forms of two texts; a form that one of them lacks was put in or left out whole. */
    public static Changed between(Text one, Text other) {
        Set<String> forms = new TreeSet<>(one.forms().keySet());
        forms.addAll(other.forms().keySet());
        int changed = 0;
        int of = 0;
        for (String form : forms) {
            Changed part =
                    between(one.forms().getOrDefault(form, ""), other.forms().getOrDefault(form, ""));
            changed += part.changed();
            of += part.of();
        }
        return new Changed(changed, of);
    }

    private static String[] characters(String text) {
        if (text.chars().allMatch(c -> c < FIRST_COMBINING && c != '\r')) {
            return text.chars().mapToObj(Character::toString).toArray(String[]::new);
        }
        // By ICU, whose characters are the same on every Java.
        BreakIterator breaks = BreakIterator.getCharacterInstance(ULocale.ROOT);
        breaks.setText(text);
        List<String> characters = new ArrayList<>();
        int start = breaks.first();
        for (int end = breaks.next(); end != BreakIterator.DONE; end = breaks.next()) {
            characters.add(text.substring(start, end));
            start = end;
        }
        return characters.toArray(String[]::new);
    }

    private static int distance(String[] a, String[] b) {
        int[] row = new int[b.length + 1];
        for (int j = 0; j < row.length; j++) {
            row[j] = j;
        }
        for (int i = 1; i <= a.length; i++) {
            int diagonal = row[0];
            row[0] = i;
            for (int j = 1; j < row.length; j++) {
                int replaced = diagonal + (a[i - 1].equals(b[j - 1]) ? 0 : 1);
                diagonal = row[j];
                row[j] = Math.min(replaced, 1 + Math.min(row[j], row[j - 1]));
            }
        }
        return row[b.length];
    }
}
