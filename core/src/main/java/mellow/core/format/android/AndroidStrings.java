package mellow.core.format.android;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.source.SourceText;
import mellow.core.format.xml.XmlNode;
import mellow.core.format.xml.XmlNode.Characters;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.format.xml.XmlText;

/**
 * Texts of string resources ("String resources: formatting and styling" in the platform's documentation). White space outside quotes collapses,
 * backslashes escape, markup such as {@code <b>} and links stands in the text as it is spelled. A text that begins with "@" or "?" would be a
 * reference, so these are escaped at the start.
 */
final class AndroidStrings {

    /** How the marks of what is not translated begin; their namespace has to be declared by the file. */
    static final String MARK = "<xliff:";

    private static final Pattern TAG = Pattern.compile("</?[A-Za-z][A-Za-z0-9:_-]*(?:\\s[^<>]*)?/?>");

    private AndroidStrings() {}

    /**
     * The text of an element.
     *
     * @throws UnreadableFileException at an escape that is none
     */
    static String text(SourceText source, Element element) {
        StringBuilder raw = new StringBuilder();
        List<int[]> markup = new ArrayList<>();
        append(source, element, raw, markup);
        return unescape(raw.toString(), markup, element, source);
    }

    /** Characters with references replaced; {@code markup} holds the ranges of tags, in which nothing is an escape. */
    private static void append(SourceText source, Element element, StringBuilder to, List<int[]> markup) {
        for (XmlNode child : element.children()) {
            if (child instanceof Characters characters) {
                to.append(characters.text());
            } else if (child instanceof Element tag) {
                tag(source.text().substring(tag.start(), tag.contentStart()), to, markup);
                append(source, tag, to, markup);
                if (!tag.selfClosing()) {
                    tag(source.text().substring(tag.contentEnd(), tag.end()), to, markup);
                }
            }
        }
    }

    private static void tag(String spelled, StringBuilder to, List<int[]> markup) {
        markup.add(new int[] {to.length(), to.length() + spelled.length()});
        to.append(spelled);
    }

    private static String unescape(String raw, List<int[]> markup, Element element, SourceText source) {
        StringBuilder text = new StringBuilder(raw.length());
        boolean quoted = false;
        boolean space = false;
        int next = 0;
        for (int i = 0; i < raw.length(); i++) {
            if (next < markup.size() && markup.get(next)[0] == i) {
                space = flush(space, text);
                text.append(raw, i, markup.get(next)[1]);
                i = markup.get(next)[1] - 1;
                next++;
                continue;
            }
            char c = raw.charAt(i);
            if (c == '"') {
                quoted = !quoted;
            } else if (!quoted && (c == ' ' || c == '\n' || c == '\t' || c == '\r')) {
                space = true;
            } else if (c == '\\') {
                space = flush(space, text);
                i = escape(raw, i, text, element, source);
            } else {
                space = flush(space, text);
                text.append(c);
            }
        }
        return text.toString();
    }

    /** White space before the first character and after the last is none at all. */
    private static boolean flush(boolean space, StringBuilder text) {
        if (space && !text.isEmpty()) {
            text.append(' ');
        }
        return false;
    }

    private static int escape(String raw, int at, StringBuilder text, Element element, SourceText source) {
        char escaped = at + 1 < raw.length() ? raw.charAt(at + 1) : ' ';
        switch (escaped) {
            case 'n' -> text.append('\n');
            case 't' -> text.append('\t');
            case 'r' -> text.append('\r');
            case '\'', '"', '\\', '@', '?', '#', ' ' -> text.append(escaped);
            case '\n' -> {}
            case 'u' -> {
                String digits = raw.substring(at + 2, Math.min(raw.length(), at + 6));
                if (!digits.matches("[0-9a-fA-F]{4}")) {
                    throw source.refuse(element.start(), "“\\u" + digits + "” in a text", "\\u and four digits");
                }
                text.append((char) Integer.parseInt(digits, 16));
                return at + 5;
            }
            default -> {
                source.warn(element.start(), "“\\" + escaped + "”, which is no escape", "read as “" + escaped + "”");
                text.append(escaped);
            }
        }
        return at + 1;
    }

    /** A text as the content of an element; its tags stay tags when they pair. */
    static String markup(String text) {
        Set<String> tags = new LinkedHashSet<>();
        Matcher found = TAG.matcher(text);
        boolean foreign = false;
        while (found.find()) {
            tags.add(found.group());
            foreign |= found.group().matches("</?(?!xliff:)[A-Za-z0-9_-]+:(?s:.*)");
        }
        if (!tags.isEmpty() && !foreign) {
            String marked = escaped(text, true);
            if (wellFormed(marked)) {
                return marked;
            }
        }
        return escaped(text, false);
    }

    private static String escaped(String text, boolean keepTags) {
        StringBuilder markup = new StringBuilder();
        Matcher tag = TAG.matcher(text);
        int plain = 0;
        while (keepTags && tag.find()) {
            characters(text.substring(plain, tag.start()), plain == 0, false, markup);
            markup.append(tag.group());
            plain = tag.end();
        }
        characters(text.substring(plain), plain == 0, true, markup);
        return markup.toString();
    }

    /** Whether a text has anything spelled like a tag. */
    static boolean hasTags(String text) {
        return TAG.matcher(text).find();
    }

    /** A text as the content of an element in which tags are words. */
    static String withoutTags(String text) {
        return escaped(text, false);
    }

    /** A text for a CDATA section, where tags are words. */
    static String words(String text) {
        return backslashes(text, true, true);
    }

    private static void characters(String text, boolean first, boolean last, StringBuilder to) {
        to.append(XmlText.escape(backslashes(text, first, last)));
    }

    private static String backslashes(String text, boolean first, boolean last) {
        StringBuilder escaped = new StringBuilder();
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            switch (c) {
                case '\n' -> escaped.append("\\n");
                case '\t' -> escaped.append("\\t");
                case '\r' -> escaped.append("\\r");
                case '\'', '"', '\\' -> escaped.append('\\').append(c);
                case '@', '?' -> escaped.append(first && i == 0 ? "\\" : "").append(c);
                case ' ' -> {
                    boolean edge = (i == 0 && first) || (i == text.length() - 1 && last);
                    boolean repeated = i > 0 && text.charAt(i - 1) == ' ';
                    escaped.append(edge || repeated ? "\\u0020" : " ");
                }
                default -> {
                    if (XmlText.allowed(c) || Character.isSurrogate(c)) {
                        escaped.append(c);
                    } else {
                        escaped.append(String.format("\\u%04X", (int) c));
                    }
                }
            }
        }
        return escaped.toString();
    }

    private static boolean wellFormed(String markup) {
        byte[] whole = ("<t>" + markup + "</t>").getBytes(StandardCharsets.UTF_8);
        try {
            XmlReader.elementAt(SourceText.decode(whole, StandardCharsets.UTF_8, new Problems("text")), 0);
            return true;
        } catch (UnreadableFileException broken) {
            return false;
        }
    }
}
