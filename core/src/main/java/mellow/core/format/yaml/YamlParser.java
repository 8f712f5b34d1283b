package mellow.core.format.yaml;

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
import mellow.core.format.tree.TreeEntries;

/**
 * Reads one YAML 1.2 document into a tree with places: block and flow collections, every style of scalar, comments, anchors. Aliases are values
 * that are left alone, never followed, so that nothing can grow. Keys must be single lines. One use.
 */
final class YamlParser {

    /** Deeper files are no translation files; each level costs stack. */
    static final int DEEPEST = 200;

    private final SourceText source;
    private final String text;
    private final Limits limits;
    private final YamlScalars scalars;
    private final NodeCount count;
    private int at;
    private int depth;
    private final StringBuilder comment = new StringBuilder();

    private YamlParser(SourceText source, Limits limits) {
        this.source = source;
        this.text = source.text();
        this.limits = limits;
        this.scalars = new YamlScalars(source, limits);
        this.count = new NodeCount(source, limits, TreeEntries.MOST_VALUES);
    }

    /**
     * The document that a file holds.
     *
     * @throws UnreadableFileException where it is not YAML, or has tags or a second document
     */
    static Node parse(SourceText source, Limits limits) {
        return new YamlParser(source, limits).document();
    }

    private Node document() {
        skip();
        while (at < text.length() && text.charAt(at) == '%' && column() == 0) {
            at = lineEnd(at);
            skip();
        }
        if (marker("---")) {
            at += 3;
        }
        skip();
        if (at >= text.length()) {
            throw source.refuse(at, "there is nothing in the document", "keys and texts");
        }
        Node node = block(-1);
        skip();
        if (marker("...")) {
            at += 3;
            skip();
        }
        if (marker("---")) {
            int second = at;
            at += 3;
            skip();
            if (at < text.length()) {
                throw source.refuse(second, "a second document", "one document in a file");
            }
        }
        if (at < text.length()) {
            throw source.refuse(at, shown(), "a key in the column of the others, or the end of the file");
        }
        return node;
    }

    private boolean marker(String marker) {
        return column() == 0 && text.startsWith(marker, at) && (at + 3 == text.length() || text.charAt(at + 3) <= ' ');
    }

    /** Goes to the next thing that is neither white space nor comment; whole-line comments above it are kept. */
    private void skip() {
        while (at < text.length()) {
            char c = text.charAt(at);
            if (c == '\n' || c == '\r') {
                int next = at + (c == '\r' && at + 1 < text.length() && text.charAt(at + 1) == '\n' ? 2 : 1);
                int end = next;
                while (end < text.length() && (text.charAt(end) == ' ' || text.charAt(end) == '\t')) {
                    end++;
                }
                if (end == text.length() || text.charAt(end) == '\n' || text.charAt(end) == '\r') {
                    // A blank line: comments above it are about something else.
                    comment.setLength(0);
                }
                at = next;
            } else if (c == ' ') {
                at++;
            } else if (c == '\t') {
                int start = at;
                while (at < text.length() && (text.charAt(at) == '\t' || text.charAt(at) == ' ')) {
                    at++;
                }
                boolean nothing = at == text.length() || "\r\n#".indexOf(text.charAt(at)) >= 0;
                if (!nothing && text.substring(source.lineStart(start), start).isBlank()) {
                    throw source.refuse(start, "a tab that indents", "spaces");
                }
            } else if (c == '#') {
                int end = lineEnd(at);
                if (text.substring(source.lineStart(at), at).isBlank()) {
                    comment.append(comment.isEmpty() ? "" : "\n")
                            .append(text.substring(at + 1, end).strip());
                }
                at = end;
            } else {
                return;
            }
        }
    }

    private String takeComment() {
        String taken = comment.toString();
        comment.setLength(0);
        return taken;
    }

    private int column() {
        return at - source.lineStart(at);
    }

    private int lineEnd(int from) {
        int i = from;
        while (i < text.length() && text.charAt(i) != '\n' && text.charAt(i) != '\r') {
            i++;
        }
        return i;
    }

    private void enter() {
        if (++depth > DEEPEST) {
            throw source.refuse(
                    at,
                    "values nested deeper than " + DEEPEST,
                    "a translation file; this one is damaged or made to do harm");
        }
    }

    /** A value that stands at {@link #at}, inside something indented by {@code parent}. */
    private Node block(int parent) {
        enter();
        String tag = properties();
        if (at >= text.length() || "\r\n#".indexOf(text.charAt(at)) >= 0) {
            // Properties stood alone on their line.
            int empty = at;
            skip();
            if (at >= text.length() || column() <= parent) {
                depth--;
                return new Scalar(empty, empty, "", Kind.NULL);
            }
        }
        Node node = dispatch(parent, tag);
        depth--;
        return node;
    }

    private Node dispatch(int parent, String tag) {
        char c = text.charAt(at);
        if (indicator('-')) {
            return sequence(column());
        }
        if (indicator('?')) {
            throw source.refuse(at, "“?” for a key of several lines", "keys of one line");
        }
        if (keyEnd() >= 0) {
            return mapping(column());
        }
        return switch (c) {
            case '|', '>' -> {
                Scalar scalar = scalars.block(at, Math.max(parent, -1));
                at = scalar.end();
                yield scalar;
            }
            case '{', '[' -> flow(parent);
            case '*' -> alias();
            default -> typed(scalars.flowScalar(at, parent, false), tag);
        };
    }

    private Scalar alias() {
        int start = at;
        while (at < text.length() && text.charAt(at) > ' ' && ",[]{}".indexOf(text.charAt(at)) < 0) {
            at++;
        }
        return new Scalar(start, at, text.substring(start, at), Kind.OTHER);
    }

    private Scalar typed(Scalar scalar, String tag) {
        at = scalar.end();
        if (tag.isEmpty()) {
            return scalar;
        }
        Kind kind = tag.equals("!!str") || tag.equals("!") ? Kind.TEXT : Kind.OTHER;
        return new Scalar(scalar.start(), scalar.end(), scalar.text(), kind);
    }

    /** Passes over anchors and tags; the tag, empty for none. */
    private String properties() {
        String tag = "";
        while (at < text.length() && (text.charAt(at) == '&' || text.charAt(at) == '!')) {
            int start = at;
            while (at < text.length()
                    && text.charAt(at) > ' '
                    && (at == start || ",[]{}".indexOf(text.charAt(at)) < 0)) {
                at++;
            }
            String property = text.substring(start, at);
            if (property.startsWith("!")) {
                if (!property.matches("!|!!(str|int|float|bool|null|map|seq|timestamp|binary|set|omap)")) {
                    throw source.refuse(start, "the tag “" + property + "”", "no tags: files are read as texts only");
                }
                tag = property;
            }
            while (at < text.length() && (text.charAt(at) == ' ' || text.charAt(at) == '\t')) {
                at++;
            }
        }
        return tag;
    }

    /** Whether {@code c} stands here with white space after it. */
    private boolean indicator(char c) {
        return text.charAt(at) == c && (at + 1 == text.length() || text.charAt(at + 1) <= ' ');
    }

    /** The colon of the key that begins here; -1 when this is no key. */
    private int keyEnd() {
        char c = text.charAt(at);
        int i = at;
        if (c == '"' || c == '\'') {
            i = scalars.quotedEnd(at, true);
            if (i < 0) {
                return -1;
            }
            while (i < text.length() && (text.charAt(i) == ' ' || text.charAt(i) == '\t')) {
                i++;
            }
            return i < text.length() && text.charAt(i) == ':' && separates(i) ? i : -1;
        }
        if ("[{|>%@`".indexOf(c) >= 0 || (c == '#')) {
            return -1;
        }
        for (; i < text.length() && text.charAt(i) != '\n' && text.charAt(i) != '\r'; i++) {
            if (text.charAt(i) == ':' && separates(i)) {
                return i;
            }
            if (text.charAt(i) == '#' && i > at && text.charAt(i - 1) <= ' ') {
                return -1;
            }
        }
        return -1;
    }

    private boolean separates(int colon) {
        return colon + 1 == text.length() || text.charAt(colon + 1) <= ' ';
    }

    private Mapping mapping(int column) {
        int start = at;
        int end = at;
        List<Member> members = new ArrayList<>();
        while (at < text.length() && column() == column && !marker("---") && !marker("...")) {
            int key = at;
            String about = takeComment();
            properties();
            if (at < text.length() && indicator('?')) {
                throw source.refuse(at, "“?” for a key of several lines", "keys of one line");
            }
            int colon = at < text.length() ? keyEnd() : -1;
            if (colon < 0) {
                if (indicatorSafe('-')) {
                    break;
                }
                throw source.refuse(at, shown(), "a key with “: ” after it, in the column of the others");
            }
            String name = key(colon);
            at = colon + 1;
            Node value = memberValue(column, colon);
            members.add(new Member(name, key, about, value));
            count.add(key);
            end = Math.max(end, value.end());
            skip();
            if (at < text.length() && column() > column) {
                throw source.refuse(at, shown(), "a key in the column of the others; this line is indented further");
            }
        }
        return new Mapping(start, end, members);
    }

    private boolean indicatorSafe(char c) {
        return at < text.length() && indicator(c);
    }

    private String key(int colon) {
        char c = text.charAt(at);
        if (c == '"' || c == '\'') {
            return scalars.flowScalar(at, -1, false).text();
        }
        source.checkLength(at, colon, limits);
        return text.substring(at, colon).stripTrailing();
    }

    private Node memberValue(int column, int colon) {
        while (at < text.length() && (text.charAt(at) == ' ' || text.charAt(at) == '\t')) {
            at++;
        }
        if (at < text.length() && "\r\n#".indexOf(text.charAt(at)) < 0) {
            int line = source.line(at);
            boolean braces = text.charAt(at) == '{';
            Node value = inline(column);
            if (!braces && value instanceof Mapping && source.line(value.start()) == line) {
                throw source.refuse(
                        value.start(), "a key and its value inside another value", "quotes around a text with “: ”");
            }
            return value;
        }
        skip();
        boolean deeper = at < text.length() && column() > column;
        boolean compact = at < text.length() && column() == column && indicator('-') && !marker("---");
        if (deeper || compact) {
            return block(compact ? column - 1 : column);
        }
        return new Scalar(colon + 1, colon + 1, "", Kind.NULL);
    }

    /** A value on the line of its key; flow mappings are values, block mappings are not. */
    private Node inline(int column) {
        char c = text.charAt(at);
        if (indicator('-')) {
            throw source.refuse(at, "“- ” on the line of a key", "the list on lines of its own");
        }
        if (c == '{' || c == '[') {
            enter();
            Node node = flow(column);
            depth--;
            restOfLine();
            return node;
        }
        Node value = block(column);
        if (value instanceof Scalar scalar && scalar.end() <= text.length() && "|>".indexOf(c) < 0) {
            restOfLine();
        }
        return value;
    }

    /** After a value only a comment may stand on its line. */
    private void restOfLine() {
        int i = at;
        while (i < text.length() && (text.charAt(i) == ' ' || text.charAt(i) == '\t')) {
            i++;
        }
        boolean commented = i < text.length() && text.charAt(i) == '#' && i > at;
        if (i < text.length() && "\r\n".indexOf(text.charAt(i)) < 0 && !commented) {
            at = i;
            throw source.refuse(i, shown() + " after a value", "the end of the line");
        }
        at = commented ? lineEnd(i) : i;
    }

    private Sequence sequence(int column) {
        int start = at;
        int end = at;
        List<Node> items = new ArrayList<>();
        while (at < text.length() && column() == column && indicator('-') && !marker("---")) {
            takeComment();
            int dash = at++;
            while (at < text.length() && text.charAt(at) == ' ') {
                at++;
            }
            Node item;
            if (at < text.length() && "\r\n#".indexOf(text.charAt(at)) < 0) {
                item = block(column);
            } else {
                skip();
                item = at < text.length() && column() > column
                        ? block(column)
                        : new Scalar(dash + 1, dash + 1, "", Kind.NULL);
            }
            items.add(item);
            count.add(dash);
            end = item.end();
            skip();
            if (at < text.length() && column() > column) {
                throw source.refuse(at, shown(), "“- ” in the column of the others; this line is indented further");
            }
        }
        return new Sequence(start, end, items);
    }

    private Node flow(int parent) {
        skip();
        takeComment();
        if (at >= text.length()) {
            throw source.refuse(at, "the file ends early", "a value");
        }
        properties();
        char c = text.charAt(at);
        if (c == '{') {
            return flowMapping(parent);
        }
        if (c == '[') {
            return flowSequence(parent);
        }
        if (c == '*') {
            return alias();
        }
        Scalar scalar = scalars.flowScalar(at, parent, true);
        at = scalar.end();
        return scalar;
    }

    private Mapping flowMapping(int parent) {
        enter();
        int start = at++;
        List<Member> members = new ArrayList<>();
        while (!closed('}', start)) {
            int key = at;
            Node name = flow(parent);
            if (!(name instanceof Scalar scalar)) {
                throw source.refuse(key, "a collection as a key", "keys of one line");
            }
            skip();
            Node value = new Scalar(scalar.end(), scalar.end(), "", Kind.NULL);
            if (at < text.length() && text.charAt(at) == ':') {
                at++;
                skip();
                if (at < text.length() && ",}".indexOf(text.charAt(at)) < 0) {
                    value = flow(parent);
                }
            }
            members.add(new Member(scalar.text(), key, "", value));
            count.add(key);
            comma('}', start);
        }
        depth--;
        return new Mapping(start, at, members);
    }

    private Sequence flowSequence(int parent) {
        enter();
        int start = at++;
        List<Node> items = new ArrayList<>();
        while (!closed(']', start)) {
            int begin = at;
            Node item = flow(parent);
            skip();
            if (item instanceof Scalar key && at < text.length() && text.charAt(at) == ':') {
                // §7.4.1: a single pair needs no braces.
                at++;
                Node value = flow(parent);
                item = new Mapping(begin, value.end(), List.of(new Member(key.text(), begin, "", value)));
            }
            items.add(item);
            count.add(begin);
            comma(']', start);
        }
        depth--;
        return new Sequence(start, at, items);
    }

    private boolean closed(char close, int start) {
        skip();
        if (at >= text.length()) {
            throw open(close, start);
        }
        if (text.charAt(at) == close) {
            at++;
            return true;
        }
        return false;
    }

    private void comma(char close, int start) {
        skip();
        if (at < text.length() && text.charAt(at) == ',') {
            at++;
        } else if (at >= text.length() || text.charAt(at) != close) {
            throw open(close, start);
        }
    }

    private UnreadableFileException open(char close, int start) {
        return source.refuse(at, shown(), "“,” or “" + close + "” for what begins in line " + source.line(start));
    }

    private String shown() {
        return at < text.length() ? "“" + Character.toString(text.codePointAt(at)) + "”" : "the end of the file";
    }
}
