package mellow.core.format.properties;

import mellow.core.format.FileEntry;

/** Escapes of {@code java.util.Properties}. */
final class PropertiesStrings {

    private PropertiesStrings() {}

    /**
     * What a key or a text says: escapes replaced, continued lines joined without the white space that begins them.
     *
     * @throws IllegalArgumentException naming a \\u escape that is none
     */
    static String unescape(String text, int start, int end) {
        if (text.indexOf('\\', start) < 0 || text.indexOf('\\', start) >= end) {
            return text.substring(start, end);
        }
        StringBuilder value = new StringBuilder(end - start);
        for (int i = start; i < end; i++) {
            char c = text.charAt(i);
            if (c != '\\' || i + 1 == end) {
                // A backslash at the very end of the file stands for nothing.
                if (c != '\\') {
                    value.append(c);
                }
                continue;
            }
            i++;
            char escaped = text.charAt(i);
            switch (escaped) {
                case 'n' -> value.append('\n');
                case 't' -> value.append('\t');
                case 'r' -> value.append('\r');
                case 'f' -> value.append('\f');
                case 'u' -> {
                    String digits = text.substring(i + 1, Math.min(end, i + 5));
                    if (!digits.matches("[0-9a-fA-F]{4}")) {
                        throw new IllegalArgumentException("\\u" + digits);
                    }
                    value.append((char) Integer.parseInt(digits, 16));
                    i += 4;
                }
                case '\r', '\n' -> {
                    if (escaped == '\r' && i + 1 < end && text.charAt(i + 1) == '\n') {
                        i++;
                    }
                    while (i + 1 < end && isSpace(text.charAt(i + 1))) {
                        i++;
                    }
                }
                default -> value.append(escaped);
            }
        }
        return value.toString();
    }

    static boolean isSpace(char c) {
        return c == ' ' || c == '\t' || c == '\f';
    }

    /** A text as a value. */
    static String value(String text, boolean ascii) {
        StringBuilder escaped = new StringBuilder(text.length() + 8);
        boolean leading = true;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == ' ' && leading) {
                escaped.append("\\ ");
                continue;
            }
            leading = false;
            append(c, ascii, escaped);
        }
        return escaped.toString();
    }

    /** A text as a key, with what would end it escaped. */
    static String key(String text, boolean ascii) {
        StringBuilder escaped = new StringBuilder(text.length() + 8);
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == ' ' || c == '=' || c == ':' || (i == 0 && (c == '#' || c == '!'))) {
                escaped.append('\\').append(c);
            } else {
                append(c, ascii, escaped);
            }
        }
        return escaped.toString();
    }

    private static void append(char c, boolean ascii, StringBuilder to) {
        switch (c) {
            case '\n' -> to.append("\\n");
            case '\t' -> to.append("\\t");
            case '\r' -> to.append("\\r");
            case '\f' -> to.append("\\f");
            case '\\' -> to.append("\\\\");
            default -> {
                if (c < 0x20 || c == 0x7F || (ascii && c > 0x7E) || Character.isSurrogate(c) && ascii) {
                    to.append(String.format("\\u%04X", (int) c));
                } else {
                    to.append(c);
                }
            }
        }
    }

    /** An entry with its notes as comments above it. */
    static String line(FileEntry entry, String text, String lineEnd, boolean ascii) {
        StringBuilder line = new StringBuilder();
        for (String note : entry.notes()) {
            for (String part : note.split("\n", -1)) {
                StringBuilder comment = new StringBuilder();
                part.chars().forEach(c -> append((char) c, ascii, comment));
                line.append("# ")
                        .append(part.indexOf('\\') >= 0 && !ascii ? part : comment)
                        .append(lineEnd);
            }
        }
        return line.append(key(entry.key(), ascii))
                .append('=')
                .append(value(text, ascii))
                .append(lineEnd)
                .toString();
    }
}
