package mellow.core.format.json;

import java.util.ArrayList;
import java.util.List;
import mellow.core.format.Limits;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.source.SourceText;
import mellow.core.format.tree.Node;
import mellow.core.format.tree.Node.Kind;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.Node.Member;
import mellow.core.format.tree.Node.Scalar;
import mellow.core.format.tree.Node.Sequence;
import mellow.core.format.tree.NodeCount;

/** Reads JSON strictly (RFC 8259) into a tree with places. One use. */
public final class JsonParser {

    /** Deeper files are no translation files; each level costs stack. */
    static final int DEEPEST = 200;

    private final SourceText source;
    private final String text;
    private final Limits limits;
    private final NodeCount count;
    private int at;
    private int depth;

    private JsonParser(SourceText source, Limits limits, int perEntry) {
        this.source = source;
        this.count = new NodeCount(source, limits, perEntry);
        this.text = source.text();
        this.limits = limits;
    }

    /**
     * The value that a file holds.
     *
     * @param perEntry how many values an entry may have
     * @throws UnreadableFileException where it is not JSON
     */
    public static Node parse(SourceText source, Limits limits, int perEntry) {
        JsonParser parser = new JsonParser(source, limits, perEntry);
        parser.space();
        Node value = parser.value();
        parser.space();
        if (parser.at < parser.text.length()) {
            throw source.refuse(parser.at, parser.shown() + " after the end of the document", "nothing more");
        }
        return value;
    }

    private Node value() {
        if (at >= text.length()) {
            throw source.refuse(at, "the file ends early", "a value");
        }
        count.add(at);
        char c = text.charAt(at);
        return switch (c) {
            case '{' -> object();
            case '[' -> array();
            case '"' -> {
                int start = at;
                String value = string();
                yield new Scalar(start, at, value, Kind.TEXT);
            }
            default -> word();
        };
    }

    private Mapping object() {
        int start = enter();
        List<Member> members = new ArrayList<>();
        space();
        if (!take('}')) {
            do {
                space();
                int key = at;
                if (at >= text.length() || text.charAt(at) != '"') {
                    throw source.refuse(
                            at,
                            shown(),
                            members.isEmpty()
                                    ? "a key in double quotes or “}”"
                                    : "a key in double quotes; no comma stands before “}”");
                }
                String name = string();
                space();
                if (!take(':')) {
                    throw source.refuse(at, shown() + " after the key “" + name + "”", "“:”");
                }
                space();
                members.add(new Member(name, key, "", value()));
                space();
            } while (take(','));
            if (!take('}')) {
                throw open(start, "}", "object");
            }
        }
        depth--;
        return new Mapping(start, at, members);
    }

    private Sequence array() {
        int start = enter();
        List<Node> items = new ArrayList<>();
        space();
        if (!take(']')) {
            do {
                space();
                items.add(value());
                space();
            } while (take(','));
            if (!take(']')) {
                throw open(start, "]", "list");
            }
        }
        depth--;
        return new Sequence(start, at, items);
    }

    private int enter() {
        if (++depth > DEEPEST) {
            throw source.refuse(
                    at,
                    "values nested deeper than " + DEEPEST,
                    "a translation file; this one is damaged or made to do harm");
        }
        return at++;
    }

    private UnreadableFileException open(int start, String close, String what) {
        return source.refuse(
                at, shown(), "“,” or “" + close + "” for the " + what + " that begins in line " + source.line(start));
    }

    private Scalar word() {
        int start = at;
        while (at < text.length()
                && "+-.".indexOf(text.charAt(at)) + 1 + (Character.isLetterOrDigit(text.charAt(at)) ? 1 : 0) > 0) {
            at++;
        }
        String word = text.substring(start, at);
        if (word.equals("null")) {
            return new Scalar(start, at, "", Kind.NULL);
        }
        if (word.equals("true")
                || word.equals("false")
                || word.matches("-?(0|[1-9][0-9]*)(\\.[0-9]+)?([eE][+-]?[0-9]+)?")) {
            return new Scalar(start, at, word, Kind.OTHER);
        }
        at = start;
        String found = word.isEmpty() ? shown() : "“" + (word.length() > 20 ? word.substring(0, 20) + "…" : word) + "”";
        throw source.refuse(start, found, "a text in double quotes, a number, true, false, null, “{” or “[”");
    }

    private String string() {
        int start = ++at;
        StringBuilder value = null;
        while (at < text.length()) {
            char c = text.charAt(at);
            if (c == '"') {
                String whole = value == null ? text.substring(start, at) : value.toString();
                source.checkLength(start, at, limits);
                at++;
                return whole;
            }
            if (c < 0x20) {
                throw source.refuse(
                        at,
                        c == '\n' || c == '\r'
                                ? "a line break in a text"
                                : String.format("the control character U+%04X in a text", (int) c),
                        c == '\n' || c == '\r' ? "its closing quote, or \\n" : "it as \\u and four digits");
            }
            if (c == '\\') {
                value = value == null ? new StringBuilder(text.substring(start, at)) : value;
                escape(value);
            } else {
                if (value != null) {
                    value.append(c);
                }
                at++;
            }
        }
        throw source.refuse(start - 1, "a text without its closing quote", "“\"”");
    }

    private void escape(StringBuilder to) {
        char c = at + 1 < text.length() ? text.charAt(at + 1) : ' ';
        int known = "\"\\/bfnrt".indexOf(c);
        if (known >= 0) {
            to.append("\"\\/\b\f\n\r\t".charAt(known));
            at += 2;
            return;
        }
        if (c == 'u'
                && at + 6 <= text.length()
                && text.substring(at + 2, at + 6).matches("[0-9a-fA-F]{4}")) {
            to.append((char) Integer.parseInt(text.substring(at + 2, at + 6), 16));
            at += 6;
            return;
        }
        throw source.refuse(
                at,
                "“\\" + c + "”, which is no escape",
                "one of \\\" \\\\ \\/ \\b \\f \\n \\r \\t or \\u and four digits");
    }

    private boolean take(char c) {
        if (at < text.length() && text.charAt(at) == c) {
            at++;
            return true;
        }
        return false;
    }

    private void space() {
        while (at < text.length() && " \n\r\t".indexOf(text.charAt(at)) >= 0) {
            at++;
        }
    }

    private String shown() {
        return at < text.length() ? "“" + Character.toString(text.codePointAt(at)) + "”" : "the end of the file";
    }
}
