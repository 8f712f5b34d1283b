package mellow.core.scan;

import mellow.core.scan.Tokens.Kind;

/** What a string says, without its quotes and escapes. */
final class Literal {

    private static final int HEX = 16;

    private Literal() {}

    /** What the string or piece of one at a token says; as spelled where its escapes are none that are common. */
    static String value(Tokens tokens, int at, String text) {
        int start = tokens.start(at);
        int end = tokens.end(at);
        Kind kind = tokens.kind(at);
        boolean raw = false;
        String closing = "";
        if (kind == Kind.STRING || kind == Kind.OPENING) {
            while (start < end && !quote(text.charAt(start))) {
                char letter = text.charAt(start);
                raw |= letter == 'r' || letter == 'R' || letter == '@';
                start++;
            }
            if (start >= end) {
                // A value of an attribute that has no quotes.
                return text.substring(tokens.start(at), end);
            }
            char quote = text.charAt(start);
            boolean triple =
                    start + 2 < end && text.startsWith(String.valueOf(quote).repeat(3), start);
            closing = String.valueOf(quote).repeat(triple && (kind == Kind.OPENING || end - start >= 6) ? 3 : 1);
            start += closing.length();
        } else if (kind == Kind.CLOSING) {
            char last = text.charAt(end - 1);
            int from = end;
            while (from > start && text.charAt(from - 1) == last && end - from < 3 && quote(last)) {
                from--;
            }
            closing = end - from == 3 ? text.substring(from, end) : quote(last) ? String.valueOf(last) : "";
        }
        if (kind == Kind.STRING || kind == Kind.CLOSING) {
            end = Math.max(start, end - closing.length());
        }
        String inner = text.substring(start, end);
        if (closing.length() == 3 && kind == Kind.STRING) {
            inner = unindented(inner);
        }
        return raw ? inner.replace("\"\"", "\"") : unescaped(inner);
    }

    private static boolean quote(char c) {
        return c == '"' || c == '\'' || c == '`';
    }

    /** Lines without the space that all of them begin with, and without the first when nothing is on it (JLS §3.10.6). */
    private static String unindented(String inner) {
        int first = inner.indexOf('\n');
        if (first < 0 || !inner.substring(0, first).isBlank()) {
            return inner;
        }
        return inner.substring(first + 1).stripIndent();
    }

    private static String unescaped(String inner) {
        if (inner.indexOf('\\') < 0) {
            return inner;
        }
        StringBuilder said = new StringBuilder(inner.length());
        int at = 0;
        while (at < inner.length()) {
            char c = inner.charAt(at);
            if (c != '\\' || at + 1 >= inner.length()) {
                said.append(c);
                at++;
                continue;
            }
            char escaped = inner.charAt(at + 1);
            int next = at + 2;
            switch (escaped) {
                case 'n' -> said.append('\n');
                case 't' -> said.append('\t');
                case 'r' -> said.append('\r');
                case '\n' -> {
                    // A line that goes on.
                }
                case 'u', 'x' -> next = number(inner, at, escaped == 'u' ? 4 : 2, said);
                default -> said.append(escaped);
            }
            at = next;
        }
        return said.toString();
    }

    /** A character by its number, four or two digits or any in braces; where the reading goes on. */
    private static int number(String inner, int at, int digits, StringBuilder said) {
        int from = at + 2;
        int to = from + digits;
        int next = to;
        if (from < inner.length() && inner.charAt(from) == '{') {
            int close = inner.indexOf('}', from);
            from++;
            to = close < 0 || close - from > 6 ? -1 : close;
            next = to + 1;
        }
        if (to > inner.length() || to <= from) {
            said.append(inner, at, at + 2);
            return at + 2;
        }
        try {
            int code = Integer.parseInt(inner.substring(from, to), HEX);
            if (!Character.isValidCodePoint(code)) {
                said.append(inner, at, next);
            } else {
                said.appendCodePoint(code);
            }
        } catch (NumberFormatException notOne) {
            said.append(inner, at, next);
        }
        return next;
    }

    /** Text of markup without its references to characters (XML §4.6, the common ones of HTML), and with its space as people see it. */
    static String seen(String markup) {
        StringBuilder said = new StringBuilder(markup.length());
        boolean space = false;
        int at = 0;
        while (at < markup.length()) {
            char c = markup.charAt(at);
            if (c == ' ' || c == '\n' || c == '\t' || c == '\r') {
                space = true;
                at++;
                continue;
            }
            if (space && !said.isEmpty()) {
                said.append(' ');
            }
            space = false;
            int close = c == '&' ? markup.indexOf(';', at) : -1;
            String name = close > at && close - at <= 10 ? markup.substring(at + 1, close) : "";
            String reference = reference(name);
            if (reference.isEmpty()) {
                said.append(c);
                at++;
            } else {
                said.append(reference);
                at = close + 1;
            }
        }
        return said.toString();
    }

    private static String reference(String name) {
        switch (name) {
            case "":
                return "";
            case "amp":
                return "&";
            case "lt":
                return "<";
            case "gt":
                return ">";
            case "quot":
                return "\"";
            case "apos":
                return "'";
            case "nbsp":
                return "\u00a0";
            case "hellip":
                return "…";
            case "ndash":
                return "–";
            case "mdash":
                return "—";
            default:
                return name.startsWith("#") ? numbered(name.substring(1)) : "";
        }
    }

    private static String numbered(String number) {
        try {
            boolean hex = number.startsWith("x") || number.startsWith("X");
            int code = hex ? Integer.parseInt(number.substring(1), HEX) : Integer.parseInt(number);
            return Character.isValidCodePoint(code) ? Character.toString(code) : "";
        } catch (NumberFormatException notOne) {
            return "";
        }
    }
}
