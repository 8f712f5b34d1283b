package mellow.core.format.po;

/** Strings of PO: those of C, with the escapes that gettext knows. */
final class PoStrings {

    private PoStrings() {}

    /**
     * What stands between two quotes, escapes replaced.
     *
     * @throws IllegalArgumentException naming an escape that is none
     */
    static void unescape(String text, int start, int end, StringBuilder to) {
        for (int i = start; i < end; i++) {
            char c = text.charAt(i);
            if (c != '\\') {
                to.append(c);
                continue;
            }
            i++;
            if (i >= end) {
                throw new IllegalArgumentException("\\");
            }
            char escaped = text.charAt(i);
            switch (escaped) {
                case 'n' -> to.append('\n');
                case 't' -> to.append('\t');
                case 'r' -> to.append('\r');
                case 'a' -> to.append('\u0007');
                case 'b' -> to.append('\b');
                case 'f' -> to.append('\f');
                case 'v' -> to.append('\u000B');
                case '\\', '"', '\'', '?' -> to.append(escaped);
                case 'x' -> i = number(text, i + 1, end, 16, 2, to);
                default -> {
                    if (escaped < '0' || escaped > '7') {
                        throw new IllegalArgumentException("\\" + escaped);
                    }
                    i = number(text, i, end, 8, 3, to);
                }
            }
        }
    }

    private static int number(String text, int start, int end, int radix, int most, StringBuilder to) {
        int value = 0;
        int i = start;
        while (i < end && i - start < most && Character.digit(text.charAt(i), radix) >= 0) {
            value = value * radix + Character.digit(text.charAt(i), radix);
            i++;
        }
        if (i == start) {
            throw new IllegalArgumentException("\\x");
        }
        to.append((char) value);
        return i - 1;
    }

    /**
     * A text in quotes: on one line, or when it has line breaks inside, from the next line on with a line per line of the text.
     *
     * @param lineEnd the file's line end
     */
    static String quote(String text, String lineEnd) {
        int inner = text.indexOf('\n');
        if (inner < 0 || inner == text.length() - 1) {
            return '"' + escape(text) + '"';
        }
        StringBuilder quoted = new StringBuilder("\"\"");
        int start = 0;
        while (start < text.length()) {
            int end = text.indexOf('\n', start);
            end = end < 0 ? text.length() : end + 1;
            quoted.append(lineEnd)
                    .append('"')
                    .append(escape(text.substring(start, end)))
                    .append('"');
            start = end;
        }
        return quoted.toString();
    }

    private static String escape(String text) {
        StringBuilder escaped = new StringBuilder(text.length() + 8);
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '\n' -> escaped.append("\\n");
                case '\t' -> escaped.append("\\t");
                case '\r' -> escaped.append("\\r");
                case '\\' -> escaped.append("\\\\");
                case '"' -> escaped.append("\\\"");
                default -> {
                    if (c < 0x20 || c == 0x7F) {
                        escaped.append(String.format("\\%03o", (int) c));
                    } else {
                        escaped.append(c);
                    }
                }
            }
        }
        return escaped.toString();
    }
}
