package mellow.core.check;

import java.util.List;
import java.util.Locale;
import mellow.core.placeholder.Placeholder;
import org.jspecify.annotations.Nullable;

/**
 * Finds a placeholder that was spelled almost right: spaces inside ({@code { n}}, {@code % s}), full-width characters ({@code ｛n｝}, {@code ％s}), another case
 * ({@code {Name}}), a brace too few. Compares characters one by one and takes time linear in the text for each placeholder.
 */
final class NearMiss {

    private NearMiss() {}

    /** The one place in {@code text} that is meant to be {@code lost}; null where there is none, or more than one. */
    static int @Nullable [] of(Placeholder lost, String text, List<Placeholder> given) {
        int[] only = null;
        String wanted = lost.spelled();
        char opening = wanted.charAt(0);
        if (opening != '%' && opening != '{' && opening != '$') {
            return null;
        }
        for (int at = 0; at < text.length(); at++) {
            if (narrow(text.charAt(at)) != opening) {
                continue;
            }
            int end = match(wanted, text, at);
            if (end < 0 || text.substring(at, end).equals(wanted) || right(given, at, end, lost)) {
                continue;
            }
            if (only != null) {
                return null;
            }
            only = new int[] {at, end};
            at = end - 1;
        }
        return only;
    }

    /** Whether what stands there is a placeholder that is right as it is. */
    private static boolean right(List<Placeholder> given, int start, int end, Placeholder lost) {
        return given.stream()
                .anyMatch(one -> one.start() < end
                        && one.end() > start
                        && !one.spelled().equalsIgnoreCase(lost.spelled())
                        && !one.identity().equalsIgnoreCase(lost.identity()));
    }

    /** End of what spells {@code wanted} at {@code at}, however it is spaced, wide or cased; -1 for something else. */
    private static int match(String wanted, String text, int at) {
        int i = 0;
        int j = at;
        while (i < wanted.length()) {
            if (j < text.length() && same(wanted.charAt(i), text.charAt(j))) {
                i++;
                j++;
            } else if (i == wanted.length() - 1 && wanted.charAt(i) == '}' && boundary(text, j) && !closes(text, j)) {
                // The name is whole and its brace is missing.
                return j;
            } else if (j < text.length() && j > at && blank(text.charAt(j))) {
                j++;
            } else if (blank(wanted.charAt(i))) {
                i++;
            } else {
                return -1;
            }
        }
        char last = wanted.charAt(wanted.length() - 1);
        return Character.isLetterOrDigit(last) && !boundary(text, j) ? -1 : j;
    }

    /** Whether no Latin letter or digit goes on there; other scripts are written right after placeholders. */
    private static boolean boundary(String text, int at) {
        return at >= text.length() || text.charAt(at) >= 0x250 || !Character.isLetterOrDigit(text.charAt(at));
    }

    private static boolean closes(String text, int at) {
        int brace = at;
        while (brace < text.length() && blank(text.charAt(brace))) {
            brace++;
        }
        return brace < text.length() && narrow(text.charAt(brace)) == '}';
    }

    private static boolean blank(char c) {
        return c == ' ' || c == '\u00A0' || c == '\u202F' || c == '\u3000';
    }

    private static boolean same(char wanted, char there) {
        char narrow = narrow(there);
        return wanted == narrow
                || String.valueOf(wanted)
                        .toLowerCase(Locale.ROOT)
                        .equals(String.valueOf(narrow).toLowerCase(Locale.ROOT));
    }

    /** The plain form of a full-width character (U+FF01 to U+FF5E), or of a per cent sign or digit of another script. */
    private static char narrow(char c) {
        if (c >= '\uFF01' && c <= '\uFF5E') {
            return (char) (c - 0xFEE0);
        }
        if (c == '٪' || c == '﹪') {
            return '%';
        }
        return c > 127 && Character.isDigit(c) ? (char) ('0' + Character.digit(c, 10)) : c;
    }
}
