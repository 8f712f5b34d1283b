package mellow.core.format.xml;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.source.SourceText;
import mellow.core.format.xml.XmlNode.Attribute;
import mellow.core.format.xml.XmlNode.Characters;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlNode.Remark;
import org.jspecify.annotations.Nullable;

/**
 * Reads XML 1.0 (fifth edition) with namespaces, one piece at a time, checking that it is well-formed. A start tag can be read on to its whole
 * element, so that a large file is never held as a tree. A document type without declarations of its own is passed over; anything that could
 * name another file or define an entity is refused. Not thread-safe.
 */
public final class XmlReader {

    /** Deeper files are no translation files; each level costs memory. */
    public static final int DEEPEST = 200;

    private static final String XML_SPACE = "http://www.w3.org/XML/1998/namespace";

    private final SourceText source;
    private final String text;
    private final int longest;
    private final boolean fragment;
    private final XmlCharacters characters;
    private int at;
    private boolean rootSeen;

    /** Start tags that are open, outermost first. */
    private final Deque<Open> open = new ArrayDeque<>();

    private record Open(String qualified, Element tag, Spaces spaces) {}

    /** What {@link #next} met. */
    public enum Event {
        START,
        END,
        CHARACTERS,
        REMARK,
        DONE
    }

    private Element element = new Element("", "", "", List.of(), 0, 0, 0, 0, List.of());
    private XmlNode node = element;
    private boolean selfClosed;
    private int endStart;
    private boolean ended;

    /**
     * A reader at the beginning of a file.
     *
     * @param longest most characters that one text may have
     */
    public XmlReader(SourceText source, int longest) {
        this(source, longest, 0, false);
        declaration();
    }

    private XmlReader(SourceText source, int longest, int start, boolean fragment) {
        this.source = source;
        this.text = source.text();
        this.longest = longest;
        this.at = start;
        this.fragment = fragment;
        this.characters = new XmlCharacters(source, longest);
    }

    /** Reads again an element that was read before and begins at {@code start}; a prefix declared outside it stands for its namespace. */
    public static Element elementAt(SourceText source, int start) {
        XmlReader reader = new XmlReader(source, Integer.MAX_VALUE / 8, start, true);
        reader.next();
        return reader.readElement();
    }

    private void declaration() {
        if (text.startsWith("<?xml") && text.length() > 5 && isSpace(text.charAt(5))) {
            int end = text.indexOf("?>");
            if (end < 0) {
                throw source.refuse(0, "an XML declaration without its end", "“?>”");
            }
            String body = text.substring(5, end);
            if (body.matches("(?s).*version\\s*=\\s*[\"'](?!1\\.[0-9]).*")) {
                throw source.refuse(0, "an unknown version of XML", "version 1.0");
            }
            at = end + 2;
        }
    }

    /** The element whose start tag was met last by {@link #next}, without its content; after END the one that was closed. */
    public Element element() {
        return element;
    }

    /** The characters or remark met last. */
    public XmlNode node() {
        return node;
    }

    /** Where the end tag met last begins. */
    public int endTagStart() {
        return endStart;
    }

    /** Whether the element closed last has an end tag, before which something can be added; {@code <a/>} has none. */
    public boolean hasEndTag() {
        return ended;
    }

    /** Where the next piece begins. */
    public int offset() {
        return at;
    }

    /** How many elements are open. */
    public int depth() {
        return open.size();
    }

    /**
     * Reads on to the next piece.
     *
     * @throws UnreadableFileException where the file is not well-formed
     */
    public Event next() {
        if (selfClosed) {
            selfClosed = false;
            ended = false;
            endStart = at;
            return close();
        }
        if (at >= text.length()) {
            return finish();
        }
        if (text.charAt(at) != '<') {
            return characters();
        }
        return switch (at + 1 < text.length() ? text.charAt(at + 1) : ' ') {
            case '/' -> endTag();
            case '?' -> remark("<?", "?>", false);
            case '!' -> declared();
            default -> startTag();
        };
    }

    private Event declared() {
        if (text.startsWith("<!--", at)) {
            return remark("<!--", "-->", true);
        }
        if (text.startsWith("<![CDATA[", at)) {
            return cdata();
        }
        if (text.startsWith("<!DOCTYPE", at)) {
            documentType();
            return next();
        }
        return startTag();
    }

    private Event finish() {
        if (!open.isEmpty()) {
            Open last = open.getLast();
            throw source.refuse(
                    text.length(),
                    "the file ends inside <" + last.qualified + ">, which begins in line "
                            + source.line(last.tag.start()),
                    "“</" + last.qualified + ">”");
        }
        if (!rootSeen) {
            throw source.refuse(text.length(), "there is no element in the file", "an XML document");
        }
        return Event.DONE;
    }

    private Event characters() {
        int start = at;
        int end = text.indexOf('<', at);
        end = end < 0 ? text.length() : end;
        at = end;
        if (open.isEmpty()) {
            for (int i = start; i < end; i++) {
                if (!isSpace(text.charAt(i))) {
                    throw source.refuse(
                            i,
                            rootSeen ? "text after the end of the document" : "text before the first element",
                            "an XML document of one element");
                }
            }
            return next();
        }
        node = new Characters(start, end, characters.decode(start, end, false), false);
        return Event.CHARACTERS;
    }

    private Event cdata() {
        if (open.isEmpty()) {
            throw source.refuse(at, "a CDATA section outside the document", "an element");
        }
        int start = at;
        int end = text.indexOf("]]>", start);
        if (end < 0) {
            throw source.refuse(start, "a CDATA section without its end", "“]]>”");
        }
        characters.checkLength(start, end);
        for (int i = start + 9; i < end; i++) {
            characters.checkCharacter(i);
        }
        at = end + 3;
        node = new Characters(start, at, XmlCharacters.lineEnds(text.substring(start + 9, end)), true);
        return Event.CHARACTERS;
    }

    private Event remark(String from, String to, boolean comment) {
        int start = at;
        int end = text.indexOf(to, start + from.length());
        if (end < 0) {
            throw source.refuse(
                    start, comment ? "a comment without its end" : "an instruction without its end", "“" + to + "”");
        }
        if (comment) {
            int dashes = text.indexOf("--", start + 4);
            if (dashes < end) {
                throw source.refuse(dashes, "“--” in a comment", "“-->” only at its end");
            }
        } else if (text.startsWith("<?xml", start) && isSpace(text.charAt(Math.min(start + 5, text.length() - 1)))) {
            throw source.refuse(start, "an XML declaration that is not at the start", "it before everything else");
        }
        at = end + to.length();
        node = new Remark(start, at, comment, XmlCharacters.lineEnds(text.substring(start + from.length(), end)));
        return Event.REMARK;
    }

    /** {@code <!DOCTYPE tmx SYSTEM "tmx14.dtd">} names a file that is never fetched; declarations in brackets could define entities. */
    private void documentType() {
        if (rootSeen) {
            throw source.refuse(at, "a document type after the first element", "it before the first element");
        }
        int i = at + 9;
        while (i < text.length() && text.charAt(i) != '>') {
            char c = text.charAt(i);
            if (c == '[') {
                throw source.refuse(
                        i,
                        "a document type with declarations of its own",
                        "none: entities and document types are not read, for safety; write the texts out");
            }
            if (c == '"' || c == '\'') {
                i = text.indexOf(c, i + 1);
                if (i < 0) {
                    break;
                }
            }
            i++;
        }
        if (i < 0 || i >= text.length()) {
            throw source.refuse(at, "a document type without its end", "“>”");
        }
        at = i + 1;
    }

    private Event startTag() {
        int start = at;
        if (open.isEmpty() && rootSeen) {
            throw source.refuse(start, "a second element beside the document", "one element around everything");
        }
        if (open.size() >= DEEPEST) {
            throw source.refuse(
                    start,
                    "elements nested deeper than " + DEEPEST,
                    "a translation file; this one is damaged or made to do harm");
        }
        int i = start + 1;
        int nameEnd = nameEnd(i);
        if (nameEnd == i) {
            throw source.refuse(start, "“<” that begins no element", "“&lt;” for the character itself");
        }
        String qualified = text.substring(i, nameEnd);
        i = nameEnd;
        List<RawAttribute> raw = new ArrayList<>();
        Set<String> names = new HashSet<>();
        Spaces outer = open.isEmpty() ? new Spaces(Map.of("xml", XML_SPACE), null) : open.getLast().spaces;
        Spaces spaces = outer;
        while (true) {
            int gap = i;
            i = spaces(i);
            char c = charAt(i, start, qualified);
            if (c == '>' || c == '/') {
                break;
            }
            if (gap == i) {
                throw source.refuse(
                        i,
                        "“" + shown(i) + "” in the start tag of <" + qualified + ">",
                        "a space before the next attribute");
            }
            RawAttribute attribute = rawAttribute(i, qualified, start);
            i = attribute.valueEnd + 1;
            if (!names.add(attribute.name)) {
                throw source.refuse(attribute.start, "the attribute “" + attribute.name + "” twice", "it once");
            }
            if (attribute.name.equals("xmlns") || attribute.name.startsWith("xmlns:")) {
                if (spaces == outer) {
                    spaces = new Spaces(new HashMap<>(), outer);
                }
                spaces.own.put(attribute.name.length() > 6 ? attribute.name.substring(6) : "", attribute.value);
            } else {
                raw.add(attribute);
            }
        }
        boolean closed = text.charAt(i) == '/';
        if (closed && charAt(i + 1, start, qualified) != '>') {
            throw source.refuse(i, "“/” in the start tag of <" + qualified + ">", "“/>”");
        }
        at = i + (closed ? 2 : 1);
        element = new Element(
                space(qualified, spaces, start, true),
                prefix(qualified),
                local(qualified),
                attributes(raw, spaces),
                start,
                at,
                at,
                at,
                List.of());
        node = element;
        open.addLast(new Open(qualified, element, spaces));
        rootSeen = true;
        selfClosed = closed;
        return Event.START;
    }

    /** Prefixes declared by an element, and those around it: not copied, since every element of a hostile file could declare one more. */
    private record Spaces(Map<String, String> own, @Nullable Spaces outer) {

        @Nullable
        String of(String prefix) {
            for (Spaces at = this; at != null; at = at.outer) {
                String space = at.own.get(prefix);
                if (space != null) {
                    return space;
                }
            }
            return null;
        }
    }

    private record RawAttribute(String name, String value, int start, int valueStart, int valueEnd) {}

    private RawAttribute rawAttribute(int start, String tag, int tagStart) {
        int end = nameEnd(start);
        if (end == start) {
            throw source.refuse(
                    start, "“" + shown(start) + "” in the start tag of <" + tag + ">", "an attribute, “>” or “/>”");
        }
        String name = text.substring(start, end);
        int i = spaces(end);
        if (charAt(i, tagStart, tag) != '=') {
            throw source.refuse(i, "the attribute “" + name + "” without a value", "“=” and a value in quotes");
        }
        i = spaces(i + 1);
        char quote = charAt(i, tagStart, tag);
        if (quote != '"' && quote != '\'') {
            throw source.refuse(i, "the value of “" + name + "” without quotes", "it in quotes");
        }
        int close = text.indexOf(quote, i + 1);
        if (close < 0) {
            throw source.refuse(i, "the value of “" + name + "” without its closing quote", "“" + quote + "”");
        }
        // Not by indexOf, which would look through the rest of the file for every attribute.
        for (int less = i; less < close; less++) {
            if (text.charAt(less) == '<') {
                throw source.refuse(less, "“<” in the value of “" + name + "”", "“&lt;”");
            }
        }
        return new RawAttribute(name, characters.decode(i + 1, close, true), start, i + 1, close);
    }

    private List<Attribute> attributes(List<RawAttribute> raw, Spaces spaces) {
        List<Attribute> attributes = new ArrayList<>(raw.size());
        for (RawAttribute attribute : raw) {
            String space = space(attribute.name, spaces, attribute.start, false);
            attributes.add(new Attribute(
                    space,
                    local(attribute.name),
                    attribute.value,
                    attribute.start,
                    attribute.valueStart,
                    attribute.valueEnd));
        }
        return attributes;
    }

    private String space(String qualified, Spaces spaces, int place, boolean tag) {
        String prefix = prefix(qualified);
        if (prefix.isEmpty() && !tag) {
            return "";
        }
        String space = spaces.of(prefix);
        if (space == null && !prefix.isEmpty()) {
            if (fragment) {
                return prefix;
            }
            throw source.refuse(place, "the prefix “" + prefix + "” without a namespace", "xmlns:" + prefix);
        }
        return space == null ? "" : space;
    }

    private static String prefix(String qualified) {
        int colon = qualified.indexOf(':');
        return colon < 0 ? "" : qualified.substring(0, colon);
    }

    private static String local(String qualified) {
        return qualified.substring(qualified.indexOf(':') + 1);
    }

    private Event endTag() {
        int end = nameEnd(at + 2);
        String name = text.substring(at + 2, end);
        int i = spaces(end);
        if (i >= text.length() || text.charAt(i) != '>') {
            throw source.refuse(at, "an end tag without its end", "“</" + name + ">”");
        }
        if (open.isEmpty()) {
            throw source.refuse(at, "“</" + name + ">” that closes nothing", "no end tag");
        }
        Open last = open.getLast();
        if (!last.qualified.equals(name)) {
            throw source.refuse(
                    at,
                    "“</" + name + ">”",
                    "“</" + last.qualified + ">”, which begins in line " + source.line(last.tag.start()));
        }
        endStart = at;
        ended = true;
        at = i + 1;
        return close();
    }

    private Event close() {
        element = open.removeLast().tag;
        return Event.END;
    }

    /**
     * Reads the element whose start tag was just met to its end.
     *
     * @return it with all that is in it
     */
    public Element readElement() {
        Deque<Element> tags = new ArrayDeque<>();
        Deque<List<XmlNode>> contents = new ArrayDeque<>();
        tags.push(element);
        contents.push(new ArrayList<>());
        int begun = element.start();
        while (true) {
            switch (next()) {
                case START -> {
                    tags.push(element);
                    contents.push(new ArrayList<>());
                }
                case CHARACTERS, REMARK -> contents.element().add(node);
                case END -> {
                    Element whole = whole(tags.pop(), contents.pop());
                    if (tags.isEmpty()) {
                        element = whole;
                        return whole;
                    }
                    contents.element().add(whole);
                }
                case DONE -> throw new IllegalStateException("a document cannot end inside an element");
            }
            if (at - begun > 4L * longest) {
                throw characters.tooLong(begun);
            }
        }
    }

    private Element whole(Element tag, List<XmlNode> children) {
        return new Element(
                tag.namespace(),
                tag.prefix(),
                tag.name(),
                tag.attributes(),
                tag.start(),
                tag.contentStart(),
                tag.contentStart() == at ? at : endStart,
                at,
                children);
    }

    private int nameEnd(int start) {
        int i = start;
        while (i < text.length() && isNameCharacter(text.charAt(i), i == start)) {
            i++;
        }
        return i;
    }

    /** XML 1.0 §2.3, with the ranges above U+00BF taken whole. */
    private static boolean isNameCharacter(char c, boolean first) {
        if (c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c == '_' || c == ':') {
            return true;
        }
        if (c < 0x80) {
            return !first && (c >= '0' && c <= '9' || c == '-' || c == '.');
        }
        return c == 0xB7 ? !first : c >= 0xC0 && c != 0xD7 && c != 0xF7 && !Character.isWhitespace(c);
    }

    private int spaces(int start) {
        int i = start;
        while (i < text.length() && isSpace(text.charAt(i))) {
            i++;
        }
        return i;
    }

    private static boolean isSpace(char c) {
        return c == ' ' || c == '\n' || c == '\r' || c == '\t';
    }

    private char charAt(int i, int tagStart, String tag) {
        if (i >= text.length()) {
            throw source.refuse(tagStart, "the start tag of <" + tag + "> without its end", "“>”");
        }
        return text.charAt(i);
    }

    private String shown(int i) {
        return i < text.length() ? Character.toString(text.codePointAt(i)) : "the end of the file";
    }
}
