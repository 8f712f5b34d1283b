package mellow.core.format.xliff;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
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
 * Texts with inline elements. In a text the file's own spelling stands for a code: {@code <x id="1"/>} and {@code <ph id="1">…</ph>} whole, of a pair
 * such as {@code <g id="1">…</g>} the two tags with readable text between. Writing turns exactly the codes that the unit has back into elements and
 * escapes everything else, so that a literal {@code <b>} stays literal.
 */
public final class Inline {

    /** Elements whose content is for translators: XLIFF 1.2 §2.4, 2.1 §4.2.3, TMX 1.4b §5. All others hold code. */
    private static final Set<String> PAIRS = Set.of("g", "mrk", "pc", "sub", "hi");

    /** What a fresh file takes for a code, because no unit says. */
    private static final Pattern CODES = Pattern.compile(
            "<(?:x|bx|ex|ph|sc|ec|sm|em|cp)(?: [^<>]*)?/>|<(ph|bpt|ept|it)(?: [^<>]*)?>[^<]*</\\1>|</?(?:g|mrk|pc|hi)(?: [^<>/]*)?>");

    private Inline() {}

    /** The content of {@code element} as a text. */
    public static String text(SourceText source, Element element) {
        StringBuilder text = new StringBuilder();
        append(source, element, text);
        return text.toString();
    }

    private static void append(SourceText source, Element element, StringBuilder to) {
        for (XmlNode child : element.children()) {
            if (child instanceof Characters characters) {
                to.append(characters.text());
            } else if (child instanceof Element code) {
                if (code.name().equals("cp") && controlCharacter(code) >= 0) {
                    to.appendCodePoint(controlCharacter(code));
                } else if (PAIRS.contains(code.name()) && !code.selfClosing()) {
                    to.append(source.text(), code.start(), code.contentStart());
                    append(source, code, to);
                    to.append(source.text(), code.contentEnd(), code.end());
                } else {
                    to.append(source.text(), code.start(), code.end());
                }
            }
        }
    }

    /** XLIFF 2.1 §4.2.3.1: {@code <cp hex="001A"/>} is a character that XML cannot hold. */
    private static int controlCharacter(Element code) {
        try {
            int found = Integer.parseInt(code.value("hex"), 16);
            return Character.isValidCodePoint(found) && !XmlText.allowed(found) && found != 0 ? found : -1;
        } catch (NumberFormatException noNumber) {
            return -1;
        }
    }

    /** Every code in {@code element}, as it stands in texts. */
    static Collection<String> codes(SourceText source, Element element) {
        Set<String> codes = new LinkedHashSet<>();
        collect(source, element, codes);
        return codes;
    }

    private static void collect(SourceText source, Element element, Set<String> codes) {
        for (Element code : element.elements()) {
            if (PAIRS.contains(code.name()) && !code.selfClosing()) {
                codes.add(source.text().substring(code.start(), code.contentStart()));
                codes.add(source.text().substring(code.contentEnd(), code.end()));
                collect(source, code, codes);
            } else {
                codes.add(source.text().substring(code.start(), code.end()));
            }
        }
    }

    /**
     * The markup of a text.
     *
     * @param known the codes of the unit
     * @param cp whether characters that XML cannot hold are written as {@code <cp>}
     * @throws IllegalArgumentException saying what is wrong when codes do not pair or a character cannot be written
     */
    static String markup(String text, Collection<String> known, boolean cp) {
        List<String> longestFirst = new ArrayList<>(known);
        longestFirst.sort(Comparator.comparingInt(String::length).reversed());
        StringBuilder markup = new StringBuilder();
        int plain = 0;
        boolean any = false;
        for (int i = text.indexOf('<'); i >= 0; i = text.indexOf('<', i)) {
            int place = i;
            String code = longestFirst.stream()
                    .filter(candidate -> text.startsWith(candidate, place))
                    .findFirst()
                    .orElse("");
            if (code.isEmpty()) {
                i++;
            } else {
                markup.append(escape(text.substring(plain, i), cp)).append(code);
                i += code.length();
                plain = i;
                any = true;
            }
        }
        markup.append(escape(text.substring(plain), cp));
        if (any) {
            checkPairs(markup.toString());
        }
        return markup.toString();
    }

    /** The markup of a text for a fresh file, where whatever is spelled like an inline element is one. */
    public static String markup(String text, boolean cp) {
        Set<String> codes = new LinkedHashSet<>();
        Matcher found = CODES.matcher(text);
        while (found.find()) {
            codes.add(found.group());
        }
        try {
            return markup(text, codes, cp);
        } catch (IllegalArgumentException unpaired) {
            // Without a file that says otherwise, tags that do not pair are words about tags.
            return markup(text, List.of(), cp);
        }
    }

    private static String escape(String text, boolean cp) {
        if (XmlText.unwritable(text).isEmpty()) {
            return XmlText.escape(text);
        }
        if (!cp) {
            throw new IllegalArgumentException(
                    "the character " + XmlText.unwritable(text).orElseThrow() + ", which XML cannot hold");
        }
        StringBuilder escaped = new StringBuilder();
        text.codePoints()
                .forEach(c -> escaped.append(
                        XmlText.allowed(c)
                                ? XmlText.escape(Character.toString(c))
                                : String.format("<cp hex=\"%04X\"/>", c)));
        return escaped.toString().replace("]]>", "]]&gt;");
    }

    private static void checkPairs(String markup) {
        byte[] whole = ("<t>" + markup + "</t>").getBytes(java.nio.charset.StandardCharsets.UTF_8);
        try {
            XmlReader.elementAt(
                    SourceText.decode(whole, java.nio.charset.StandardCharsets.UTF_8, new Problems("text")), 0);
        } catch (UnreadableFileException broken) {
            throw new IllegalArgumentException(
                    "codes that do not pair: " + broken.problem().found());
        }
    }
}
