package mellow.core.format.yaml;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;
import mellow.core.format.Limits;
import mellow.core.format.source.SourceText;
import mellow.core.format.tree.Node.Kind;
import mellow.core.format.tree.Node.Scalar;

/** Scalars of YAML 1.2: plain, single- and double-quoted (§7.3), literal and folded (§8.1). */
final class YamlScalars {

    private static final Pattern NULL = Pattern.compile("|~|null|Null|NULL");
    private static final Pattern OTHER = Pattern.compile(
            "true|True|TRUE|false|False|FALSE|[-+]?[0-9]+|0o[0-7]+|0x[0-9a-fA-F]+|[-+]?(\\.[0-9]+|[0-9]+(\\.[0-9]*)?)([eE][-+]?[0-9]+)?|[-+]?\\.(inf|Inf|INF)|\\.(nan|NaN|NAN)");

    private final SourceText source;
    private final String text;
    private final Limits limits;

    YamlScalars(SourceText source, Limits limits) {
        this.source = source;
        this.text = source.text();
        this.limits = limits;
    }

    /** What a plain scalar is in the core schema (§10.3.2). */
    static Kind kind(String plain) {
        return NULL.matcher(plain).matches() ? Kind.NULL : OTHER.matcher(plain).matches() ? Kind.OTHER : Kind.TEXT;
    }

    /**
     * A plain or quoted scalar.
     *
     * @param parent lines that continue it are indented further than this
     * @param flow whether it stands inside brackets
     */
    Scalar flowScalar(int start, int parent, boolean flow) {
        char c = text.charAt(start);
        if (c == '"' || c == '\'') {
            int end = quotedEnd(start, false);
            if (end < 0) {
                throw source.refuse(start, "a text without its closing quote", "“" + c + "”");
            }
            source.checkLength(start, end, limits);
            return new Scalar(start, end, c == '"' ? doubleQuoted(start, end) : singleQuoted(start, end), Kind.TEXT);
        }
        if ("@`%|>&*!".indexOf(c) >= 0 || (",[]{}".indexOf(c) >= 0)) {
            throw source.refuse(start, "“" + c + "” at the start of a text", "the text in quotes");
        }
        return plain(start, parent, flow);
    }

    /** After the closing quote of the text that begins here; -1 when there is none, or it is on another line and {@code oneLine} is asked. */
    int quotedEnd(int start, boolean oneLine) {
        char quote = text.charAt(start);
        for (int i = start + 1; i < text.length(); i++) {
            char c = text.charAt(i);
            if (oneLine && (c == '\n' || c == '\r')) {
                return -1;
            }
            if (c == '\\' && quote == '"') {
                i++;
            } else if (c == quote) {
                if (quote == '\'' && i + 1 < text.length() && text.charAt(i + 1) == '\'') {
                    i++;
                } else {
                    return i + 1;
                }
            }
        }
        return -1;
    }

    private Scalar plain(int start, int parent, boolean flow) {
        int end = plainLineEnd(start, flow);
        source.checkLength(start, end, limits);
        StringBuilder value = new StringBuilder(text.substring(start, end));
        int last = end;
        int next = end;
        while (!commentFollows(next)) {
            int line = next;
            int breaks = 0;
            while (line < text.length() && " \t\r\n".indexOf(text.charAt(line)) >= 0) {
                if (text.charAt(line) == '\n' || (text.charAt(line) == '\r' && !text.startsWith("\r\n", line))) {
                    breaks++;
                }
                line++;
            }
            if (breaks == 0 || line >= text.length() || ends(line, parent, flow)) {
                break;
            }
            int lineEnd = plainLineEnd(line, flow);
            if (lineEnd == line) {
                break;
            }
            value.append(breaks == 1 ? " " : "\n".repeat(breaks - 1)).append(text, line, lineEnd);
            source.checkLength(start, lineEnd, limits);
            last = lineEnd;
            next = lineEnd;
        }
        String plain = value.toString();
        return new Scalar(start, last, kind(plain) == Kind.NULL ? "" : plain, kind(plain));
    }

    private boolean commentFollows(int from) {
        int i = from;
        while (i < text.length() && (text.charAt(i) == ' ' || text.charAt(i) == '\t')) {
            i++;
        }
        return i < text.length() && text.charAt(i) == '#';
    }

    /** Whether what begins here is no continuation of a plain scalar. */
    private boolean ends(int line, int parent, boolean flow) {
        if (text.charAt(line) == '#') {
            return true;
        }
        if (flow) {
            return ",]}:".indexOf(text.charAt(line)) >= 0;
        }
        int column = line - source.lineStart(line);
        if (column <= parent) {
            return true;
        }
        return column == 0 && (text.startsWith("---", line) || text.startsWith("...", line));
    }

    private int plainLineEnd(int start, boolean flow) {
        int i = start;
        for (; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '\n' || c == '\r' || (flow && ",[]{}".indexOf(c) >= 0)) {
                break;
            }
            if (c == '#' && i > start && text.charAt(i - 1) <= ' ') {
                break;
            }
            if (c == ':') {
                boolean ends = i + 1 == text.length()
                        || text.charAt(i + 1) <= ' '
                        || (flow && ",[]{}".indexOf(text.charAt(i + 1)) >= 0);
                if (ends && flow) {
                    break;
                }
                if (ends) {
                    throw source.refuse(i, "“: ” inside a text", "the text in quotes");
                }
            }
        }
        while (i > start && text.charAt(i - 1) <= ' ') {
            i--;
        }
        return i;
    }

    private String singleQuoted(int start, int end) {
        return folded(text.substring(start + 1, end - 1).replace("''", "'"));
    }

    /** Line folding of quoted scalars (§6.5, §7.3.1): white space around a line break goes; one break is a space, n are n - 1. */
    private static String folded(String raw) {
        if (raw.indexOf('\n') < 0 && raw.indexOf('\r') < 0) {
            return raw;
        }
        StringBuilder value = new StringBuilder(raw.length());
        for (int i = 0; i < raw.length(); i++) {
            char c = raw.charAt(i);
            if (c != '\n' && c != '\r') {
                value.append(c);
                continue;
            }
            i = fold(raw, i, value) - 1;
        }
        return value.toString();
    }

    /** Folds the breaks that begin at {@code at}; where the next line's words begin. */
    private static int fold(String raw, int at, StringBuilder value) {
        while (!value.isEmpty()
                && (value.charAt(value.length() - 1) == ' ' || value.charAt(value.length() - 1) == '\t')) {
            value.setLength(value.length() - 1);
        }
        int breaks = 0;
        int i = at;
        while (i < raw.length() && " \t\r\n".indexOf(raw.charAt(i)) >= 0) {
            char c = raw.charAt(i);
            if (c == '\n' || (c == '\r' && !(i + 1 < raw.length() && raw.charAt(i + 1) == '\n'))) {
                breaks++;
            }
            i++;
        }
        value.append(breaks == 1 ? " " : "\n".repeat(Math.max(0, breaks - 1)));
        return i;
    }

    private String doubleQuoted(int start, int end) {
        StringBuilder value = new StringBuilder(end - start);
        String raw = text.substring(start + 1, end - 1);
        for (int i = 0; i < raw.length(); i++) {
            char c = raw.charAt(i);
            if (c == '\n' || c == '\r') {
                i = fold(raw, i, value) - 1;
            } else if (c != '\\') {
                value.append(c);
            } else {
                i = escape(raw, i + 1, start + 1 + i, value);
            }
        }
        return value.toString();
    }

    /** Escapes of §5.7; the index of the last character taken. */
    private int escape(String raw, int at, int place, StringBuilder value) {
        char c = at < raw.length() ? raw.charAt(at) : ' ';
        int known = "0abtnvfre \"/\\N_LP".indexOf(c);
        if (c == 't' || c == '\t') {
            value.append('\t');
            return at;
        }
        if (known >= 0) {
            value.append("\0\u0007\b\t\n\u000B\f\r\u001B \"/\\\u0085\u00A0\u2028\u2029".charAt(known));
            return at;
        }
        if (c == '\n' || c == '\r') {
            int i = at + (c == '\r' && at + 1 < raw.length() && raw.charAt(at + 1) == '\n' ? 2 : 1);
            while (i < raw.length() && (raw.charAt(i) == ' ' || raw.charAt(i) == '\t')) {
                i++;
            }
            return i - 1;
        }
        int digits = c == 'x' ? 2 : c == 'u' ? 4 : c == 'U' ? 8 : 0;
        if (digits > 0
                && at + digits < raw.length() + 0
                && raw.substring(at + 1, at + 1 + digits).matches("[0-9a-fA-F]+")) {
            long code = Long.parseLong(raw.substring(at + 1, at + 1 + digits), 16);
            if (code <= Character.MAX_CODE_POINT) {
                value.appendCodePoint((int) code);
                return at + digits;
            }
        }
        throw source.refuse(place, "“\\" + c + "”, which is no escape", "“\\\\” for a backslash");
    }

    /**
     * A literal or folded scalar.
     *
     * @param parent indentation of what it belongs to
     */
    Scalar block(int start, int parent) {
        boolean folded = text.charAt(start) == '>';
        int i = start + 1;
        char chomping = ' ';
        int explicit = 0;
        while (i < text.length() && "+-123456789".indexOf(text.charAt(i)) >= 0) {
            char c = text.charAt(i);
            if (c == '+' || c == '-') {
                chomping = c;
            } else {
                explicit = c - '0';
            }
            i++;
        }
        int headerEnd = i;
        while (i < text.length() && (text.charAt(i) == ' ' || text.charAt(i) == '\t')) {
            i++;
        }
        boolean comment = i < text.length() && text.charAt(i) == '#' && i > headerEnd;
        while (comment && i < text.length() && text.charAt(i) != '\n' && text.charAt(i) != '\r') {
            i++;
        }
        if (i < text.length() && text.charAt(i) != '\n' && text.charAt(i) != '\r') {
            throw source.refuse(
                    i, "“" + text.charAt(i) + "” after “" + text.charAt(start) + "”", "the text on the next lines");
        }
        return content(start, i, parent, explicit, chomping, folded);
    }

    private Scalar content(int start, int headerEnd, int parent, int explicit, char chomping, boolean folded) {
        int indent = explicit > 0 ? Math.max(parent, 0) + explicit : 0;
        List<String> lines = new ArrayList<>();
        int end = headerEnd;
        int lastText = headerEnd;
        int lastTextLine = -1;
        int at = afterBreak(headerEnd);
        while (at < text.length() && at > headerEnd) {
            int first = at;
            while (first < text.length() && text.charAt(first) == ' ') {
                first++;
            }
            int lineEnd = first;
            while (lineEnd < text.length() && text.charAt(lineEnd) != '\n' && text.charAt(lineEnd) != '\r') {
                lineEnd++;
            }
            boolean blank = first == lineEnd;
            int column = first - at;
            if (!blank) {
                if (indent == 0) {
                    if (column <= parent) {
                        break;
                    }
                    indent = column;
                } else if (column < indent) {
                    break;
                }
                if (indent == 0 && (text.startsWith("---", at) || text.startsWith("...", at))) {
                    break;
                }
            }
            lines.add(blank && column <= indent || indent > lineEnd - at ? "" : text.substring(at + indent, lineEnd));
            source.checkLength(start, lineEnd, limits);
            if (!blank) {
                lastText = lineEnd;
                lastTextLine = lines.size() - 1;
            }
            end = lineEnd;
            int next = afterBreak(lineEnd);
            if (next == lineEnd) {
                break;
            }
            at = next;
        }
        int kept = lastTextLine + 1;
        List<String> words = lines.subList(0, kept);
        StringBuilder value = new StringBuilder(folded ? fold(words) : String.join("\n", words));
        boolean broken = lastTextLine >= 0 && afterBreak(lastText) > lastText;
        if (chomping == '+') {
            value.append("\n".repeat(lines.size() - kept + (broken ? 1 : 0)));
            lastText = end;
        } else if (chomping != '-' && broken) {
            value.append('\n');
        }
        return new Scalar(start, Math.max(headerEnd, lastText), value.toString(), Kind.TEXT);
    }

    private int afterBreak(int at) {
        if (at >= text.length()) {
            return at;
        }
        return text.startsWith("\r\n", at) ? at + 2 : text.charAt(at) == '\n' || text.charAt(at) == '\r' ? at + 1 : at;
    }

    /** Folding of §8.1.3: a break between two lines of words is a space; lines indented further keep their breaks. */
    private static String fold(List<String> lines) {
        StringBuilder value = new StringBuilder();
        boolean wordsBefore = false;
        int blanks = 0;
        boolean any = false;
        for (String line : lines) {
            if (line.isEmpty()) {
                blanks++;
                continue;
            }
            boolean words = line.charAt(0) != ' ' && line.charAt(0) != '\t';
            if (!any) {
                value.append("\n".repeat(blanks));
            } else if (wordsBefore && words) {
                value.append(blanks == 0 ? " " : "\n".repeat(blanks));
            } else {
                value.append("\n".repeat(blanks + 1));
            }
            value.append(line);
            wordsBefore = words;
            blanks = 0;
            any = true;
        }
        return value.toString();
    }
}
