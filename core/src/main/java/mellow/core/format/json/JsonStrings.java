package mellow.core.format.json;

/** Strings of JSON (RFC 8259 §7). */
public final class JsonStrings {

    private JsonStrings() {}

    /** A text in double quotes; everything that need not be escaped stands as it is. */
    public static String quote(String text) {
        return quote(text, false);
    }

    /**
     * A text in double quotes.
     *
     * @param ascii whether every other character is escaped too
     */
    static String quote(String text, boolean ascii) {
        StringBuilder quoted = new StringBuilder(text.length() + 8).append('"');
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '"' -> quoted.append("\\\"");
                case '\\' -> quoted.append("\\\\");
                case '\n' -> quoted.append("\\n");
                case '\r' -> quoted.append("\\r");
                case '\t' -> quoted.append("\\t");
                case '\b' -> quoted.append("\\b");
                case '\f' -> quoted.append("\\f");
                default -> {
                    boolean lone = Character.isSurrogate(c) && !paired(text, i);
                    if (c < 0x20 || lone || (ascii && c > 0x7E)) {
                        quoted.append(String.format("\\u%04x", (int) c));
                    } else {
                        quoted.append(c);
                    }
                }
            }
        }
        return quoted.append('"').toString();
    }

    /** Half a pair has no spelling in UTF-8, only as an escape. */
    private static boolean paired(String text, int i) {
        return Character.isHighSurrogate(text.charAt(i))
                ? i + 1 < text.length() && Character.isLowSurrogate(text.charAt(i + 1))
                : i > 0 && Character.isHighSurrogate(text.charAt(i - 1));
    }
}
