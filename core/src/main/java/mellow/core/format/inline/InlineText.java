package mellow.core.format.inline;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.format.xml.XmlText;
import org.jspecify.annotations.Nullable;

/**
 * A text as words and inline codes. In texts of the record a code is spelled as the file that brought it spells its element: {@code <x id="1"/>},
 * {@code <ph id="1">%s</ph>} with its content, {@code <g id="1">} and {@code </g>} around readable text. Whatever is no whole code of any standard, or one of a
 * pair without the other, is words about tags. Cost: one pass.
 */
public final class InlineText {

    private static final Pattern TAG = Pattern.compile(
            "<(?:/(g|pc|mrk|hi)>|((?:bx|ex|bpt|ept|ph|it|mrk|pc|sc|ec|hi|g|x)\\b)((?:\\s+[\\w:-]+=(?:\"[^\"<]*+\"|'[^'<]*+'))*+)\\s*+(/?)>)");
    private static final Pattern ATTRIBUTE = Pattern.compile("([\\w:-]+)=(?:\"([^\"]*+)\"|'([^']*+)')");
    private static final Set<String> PAIRS = Set.of("g", "pc", "mrk", "hi");
    private static final Set<String> HOLDERS = Set.of("ph", "bpt", "ept", "it");
    private static final Pattern BARE_AMPERSAND =
            Pattern.compile("&(?!(?:amp|lt|gt|quot|apos|#[0-9]{1,7}|#x[0-9A-Fa-f]{1,6});)");

    private InlineText() {}

    /** What a code does. */
    enum Kind {
        OPEN,
        CLOSE,
        ALONE
    }

    /** A part of a text. */
    sealed interface Piece permits Words, Code {}

    /** Text as it is read. */
    record Words(String text) implements Piece {}

    /**
     * A code.
     *
     * @param name its element
     * @param attributes by name, with entities resolved in none of them
     * @param content what it holds as it is spelled, empty for none
     * @param spelling the whole of it
     * @param partner index of the other of its pair among the pieces, -1 for none
     */
    record Code(Kind kind, String name, Map<String, String> attributes, String content, String spelling, int partner)
            implements Piece {

        Code with(int other) {
            return new Code(kind, name, attributes, content, spelling, other);
        }
    }

    /** The parts of a text, in order. */
    static List<Piece> of(String text) {
        List<Piece> pieces = new ArrayList<>();
        Deque<Integer> open = new ArrayDeque<>();
        Matcher tag = TAG.matcher(text);
        int plain = 0;
        int at = 0;
        while (text.indexOf('<', at) >= 0 && tag.find(at)) {
            Code code = code(text, tag);
            if (code == null) {
                at = tag.end();
                continue;
            }
            if (tag.start() > plain) {
                pieces.add(new Words(text.substring(plain, tag.start())));
            }
            at = tag.start() + code.spelling.length();
            plain = at;
            pieces.add(code);
            if (code.kind == Kind.OPEN) {
                open.push(pieces.size() - 1);
            } else if (code.kind == Kind.CLOSE) {
                join(pieces, open);
            }
        }
        if (plain < text.length()) {
            pieces.add(new Words(text.substring(plain)));
        }
        pieces.replaceAll(InlineText::wordsWithoutPartner);
        return pieces;
    }

    private static void join(List<Piece> pieces, Deque<Integer> open) {
        int at = pieces.size() - 1;
        Code close = (Code) pieces.get(at);
        // Elements nest: what was opened within and never closed is no code.
        while (!open.isEmpty()) {
            int from = open.pop();
            Code opened = (Code) pieces.get(from);
            if (opened.name.equals(close.name)) {
                pieces.set(from, opened.with(at));
                pieces.set(at, close.with(from));
                return;
            }
        }
    }

    private static Piece wordsWithoutPartner(Piece piece) {
        return piece instanceof Code code && code.kind != Kind.ALONE && code.partner < 0
                ? new Words(code.spelling)
                : piece;
    }

    /** The code that begins with the tag; null for words that look a little like one. */
    private static @Nullable Code code(String text, Matcher tag) {
        String closes = tag.group(1);
        if (closes != null) {
            return new Code(Kind.CLOSE, closes, Map.of(), "", tag.group(), -1);
        }
        String name = tag.group(2);
        Map<String, String> attributes = new TreeMap<>();
        Matcher attribute = ATTRIBUTE.matcher(tag.group(3));
        while (attribute.find()) {
            String value = attribute.group(2) == null ? attribute.group(3) : attribute.group(2);
            if (attributes.put(attribute.group(1), value) != null
                    || BARE_AMPERSAND.matcher(value).find()) {
                return null;
            }
        }
        boolean empty = !tag.group(4).isEmpty();
        if (!empty && PAIRS.contains(name)) {
            Code open = new Code(Kind.OPEN, name, attributes, "", tag.group(), -1);
            return spoiled(open) || !ofSome(open) ? null : open;
        }
        String spelling = tag.group();
        String content = "";
        if (!empty) {
            int end = text.indexOf('<', tag.end());
            String closing = "</" + name + ">";
            if (!HOLDERS.contains(name) || end < 0 || !text.startsWith(closing, end)) {
                return null;
            }
            content = text.substring(tag.end(), end);
            spelling = text.substring(tag.start(), end + closing.length());
        }
        Code alone = new Code(Kind.ALONE, name, attributes, content, spelling, -1);
        return spoiled(alone) || !ofSome(alone) ? null : alone;
    }

    /** Whether its spelling cannot stand in XML as it is, or would not be read as it stands. */
    private static boolean spoiled(Code code) {
        return BARE_AMPERSAND.matcher(code.content).find()
                || XmlText.unwritable(code.spelling).isPresent()
                || code.spelling.indexOf('\r') >= 0;
    }

    /** References to original data belong to files that were read; such a code is one all the same. */
    private static boolean ofSome(Code code) {
        Map<String, String> bare = new TreeMap<>(code.attributes);
        bare.keySet()
                .removeIf(name -> name.startsWith("dataRef") || name.startsWith("subFlows") || name.equals("copyOf"));
        Code without = new Code(code.kind, code.name, bare, code.content, code.spelling, code.partner);
        for (InlineStandard standard : InlineStandard.values()) {
            if (standard.has(without)) {
                return true;
            }
        }
        return false;
    }
}
