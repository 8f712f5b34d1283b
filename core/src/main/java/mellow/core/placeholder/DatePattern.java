package mellow.core.placeholder;

/**
 * Patterns of dates and times: strftime of ISO C §7.27.3.5 with the extensions of glibc and Ruby ({@code %-d.%m.%Y}), and fields of CLDR (UTS #35 part 4,
 * {@code dd.MM.y}). Other languages write them in another order and with other words, so none of their directives is a placeholder.
 */
public final class DatePattern {

    private static final String DIRECTIVES = "aAbBcCdDeFgGhHIjklmMnNpPrRStTuUvVwWxXyYzZ%";
    /** Directives that printf does not know: where one stands, the others are directives too. */
    private static final String ONLY_TIME = "bBDhHIjklmMNPrRtTUvVwWyYzZ";

    private static final String FIELDS = "GyYuUrQqMLwWdDFgEecabBhHKkjJCmsSAzZOvVXx";
    private static final int SHORTEST = 4;

    private DatePattern() {}

    /** Whether {@code text} is nothing but directives and separators. */
    public static boolean is(String text) {
        return text.indexOf('%') >= 0 ? directives(text, false) : fields(text);
    }

    /** Whether it has words and directives of a time: "at %H:%M". */
    public static boolean inWords(String text) {
        return text.indexOf('%') >= 0 && directives(text, true);
    }

    /** Whether every per cent sign begins a directive, and one at least is only a time's. */
    private static boolean directives(String text, boolean withWords) {
        boolean time = false;
        int at = 0;
        while (at < text.length()) {
            char c = text.charAt(at);
            if (c == '%') {
                int letter = at + 1;
                while (letter < text.length() && "-_0^#EO".indexOf(text.charAt(letter)) >= 0) {
                    letter++;
                }
                if (letter >= text.length() || DIRECTIVES.indexOf(text.charAt(letter)) < 0) {
                    return false;
                }
                if (longer(text, letter)) {
                    return false;
                }
                time |= ONLY_TIME.indexOf(text.charAt(letter)) >= 0;
                at = letter + 1;
            } else if (!withWords && Character.isLetterOrDigit(c)) {
                return false;
            } else {
                at++;
            }
        }
        return time;
    }

    /** Whether it is the length of a printf placeholder: "%ld". */
    private static boolean longer(String text, int letter) {
        return "hljtz".indexOf(text.charAt(letter)) >= 0
                && letter + 1 < text.length()
                && "diouxXeEfFgGhl".indexOf(text.charAt(letter + 1)) >= 0;
    }

    /** Runs of one letter each that are fields, two at least, with separators between them; words in apostrophes are literal. */
    private static boolean fields(String text) {
        if (text.length() < SHORTEST || text.length() > 60) {
            return false;
        }
        int runs = 0;
        boolean certain = false;
        int at = 0;
        while (at < text.length()) {
            char c = text.charAt(at);
            if (c == '\'') {
                int end = text.indexOf('\'', at + 1);
                if (end < 0) {
                    return false;
                }
                at = end + 1;
            } else if (Character.isLetter(c)) {
                if (FIELDS.indexOf(c) < 0 || (at > 0 && Character.isLetter(text.charAt(at - 1)))) {
                    return false;
                }
                int end = at;
                while (end < text.length() && text.charAt(end) == c) {
                    end++;
                }
                certain |= "yMdHhm".indexOf(c) >= 0;
                runs++;
                at = end;
            } else if (Character.isDigit(c)) {
                return false;
            } else {
                at++;
            }
        }
        return runs >= 2 && certain;
    }

    /** Whether a text in the place of a pattern is one: its directives are known ones, and there is one. */
    public static boolean sound(String source, String text) {
        return source.indexOf('%') < 0 || (text.indexOf('%') >= 0 && directives(text, true));
    }
}
