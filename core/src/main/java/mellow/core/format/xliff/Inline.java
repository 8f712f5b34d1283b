package mellow.core.format.xliff;

import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.inline.InlineWriter;
import mellow.core.format.source.SourceText;
import mellow.core.format.xml.XmlNode;
import mellow.core.format.xml.XmlNode.Characters;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.format.xml.XmlText;

/**
 * Texts with inline elements. In a text the file's own spelling stands for a code: {@code <x id="1"/>} and {@code <ph id="1">…</ph>} whole, of a pair
 * such as {@code <g id="1">…</g>} the two tags with readable text between. Writing in place turns exactly the codes that the unit has back into
 * elements and escapes everything else, so that a literal {@code <b>} stays literal.
 */
public final class Inline {

    /** Elements whose content is for translators: XLIFF 1.2 §2.4, 2.1 §4.2.3, TMX 1.4b §5. All others hold code. */
    private static final Set<String> PAIRS = Set.of("g", "mrk", "pc", "sub", "hi");

    private Inline() {}

    /** The content of {@code element} as a text, where nothing refers to original data. */
    public static String text(SourceText source, Element element) {
        return text(source, element, Map.of());
    }

    /**
     * The content of {@code element} as a text.
     *
     * @param data the unit's original data by id
     */
    static String text(SourceText source, Element element, Map<String, String> data) {
        StringBuilder text = new StringBuilder();
        append(source, element, new Carried(element, data), text);
        return text.toString();
    }

    private static void append(SourceText source, Element element, Carried carried, StringBuilder to) {
        for (XmlNode child : element.children()) {
            if (child instanceof Characters characters) {
                to.append(characters.text());
            } else if (child instanceof Element code) {
                if (code.name().equals("cp") && controlCharacter(code) >= 0) {
                    to.appendCodePoint(controlCharacter(code));
                } else if (PAIRS.contains(code.name()) && !code.selfClosing()) {
                    to.append(carried.opening(code).orElseGet(() -> opening(source, code)));
                    append(source, code, carried, to);
                    to.append(carried.closing(code).orElseGet(() -> closing(source, code)));
                } else {
                    to.append(carried.alone(code).orElseGet(() -> whole(source, code)));
                }
            }
        }
    }

    private static String opening(SourceText source, Element code) {
        return source.text().substring(code.start(), code.contentStart());
    }

    private static String closing(SourceText source, Element code) {
        return source.text().substring(code.contentEnd(), code.end());
    }

    private static String whole(SourceText source, Element code) {
        return source.text().substring(code.start(), code.end());
    }

    /** The codes of other standards that our own files carry as code of the original: what they are spelled like in texts. */
    private static final class Carried {

        private final Map<String, String> data;
        private final Set<String> begun = new HashSet<>();

        Carried(Element text, Map<String, String> data) {
            this.data = data;
            begun(text);
        }

        private void begun(Element element) {
            for (Element code : element.elements()) {
                if (code.name().equals("bpt") && marked(code)) {
                    begun.add(link(code));
                }
                begun(code);
            }
        }

        private static boolean marked(Element code) {
            return code.value("ctype").equals(InlineWriter.MARK)
                    || code.value("type").equals(InlineWriter.MARK)
                    || code.value("subType").equals(InlineWriter.SUB_TYPE);
        }

        private static String link(Element code) {
            return code.value("rid").isEmpty() ? code.value("i") : code.value("rid");
        }

        Optional<String> alone(Element code) {
            boolean ended = code.name().equals("ept") && begun.contains(link(code));
            if (!ended && !marked(code)) {
                return Optional.empty();
            }
            String reference = code.value("dataRef");
            return reference.isEmpty() ? Optional.of(code.text()) : Optional.ofNullable(data.get(reference));
        }

        Optional<String> opening(Element code) {
            return marked(code) ? Optional.ofNullable(data.get(code.value("dataRefStart"))) : Optional.empty();
        }

        Optional<String> closing(Element code) {
            return marked(code) ? Optional.ofNullable(data.get(code.value("dataRefEnd"))) : Optional.empty();
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

    /** The codes of a unit as they are spelled in texts, with the markup of each, and how often it stands in the text that has it most often. */
    static final class Codes {

        private final Map<String, String> markup = new LinkedHashMap<>();
        private final Map<String, Integer> times = new HashMap<>();

        /** Adds those in {@code element}; {@code data}: the unit's original data by id. */
        void add(SourceText source, Element element, Map<String, String> data) {
            Map<String, Integer> here = new HashMap<>();
            collect(source, element, new Carried(element, data), here);
            here.forEach((spelling, n) -> times.merge(spelling, n, Math::max));
        }

        private void collect(SourceText source, Element element, Carried carried, Map<String, Integer> here) {
            for (Element code : element.elements()) {
                if (PAIRS.contains(code.name()) && !code.selfClosing()) {
                    String opening = opening(source, code);
                    String closing = closing(source, code);
                    add(carried.opening(code).orElse(opening), opening, here);
                    add(carried.closing(code).orElse(closing), closing, here);
                    collect(source, code, carried, here);
                } else {
                    String whole = whole(source, code);
                    add(carried.alone(code).orElse(whole), whole, here);
                }
            }
        }

        private void add(String spelling, String inFile, Map<String, Integer> here) {
            markup.putIfAbsent(spelling, inFile);
            here.merge(spelling, 1, Integer::sum);
        }
    }

    /**
     * The markup of a text. A code that stands in it more often than in the unit is words from then on: as elements, the same id would be used twice.
     *
     * @param known the codes of the unit
     * @param cp whether characters that XML cannot hold are written as {@code <cp>}
     * @throws IllegalArgumentException saying what is wrong when codes do not pair or a character cannot be written
     */
    static String markup(String text, Codes known, boolean cp) {
        List<String> longestFirst = new ArrayList<>(known.markup.keySet());
        longestFirst.sort(Comparator.comparingInt(String::length).reversed());
        Map<String, Integer> left = new HashMap<>(known.times);
        Deque<Boolean> open = new ArrayDeque<>();
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
                continue;
            }
            boolean closes = code.startsWith("</");
            boolean element = closes ? open.isEmpty() || open.pop() : left.merge(code, -1, Integer::sum) >= 0;
            if (!closes
                    && !code.endsWith("/>")
                    && Objects.requireNonNull(known.markup.get(code)).indexOf("</") < 0) {
                open.push(element);
            }
            if (element) {
                markup.append(escape(text.substring(plain, i), cp)).append(known.markup.get(code));
                plain = i + code.length();
                any = true;
            }
            i += code.length();
        }
        markup.append(escape(text.substring(plain), cp));
        if (any) {
            checkPairs(markup.toString());
        }
        return markup.toString();
    }

    private static String escape(String text, boolean cp) {
        if (XmlText.unwritable(text).isEmpty()) {
            return XmlText.escape(text);
        }
        if (!cp) {
            throw new IllegalArgumentException(
                    "the character " + XmlText.unwritable(text).orElseThrow() + ", which XML cannot hold");
        }
        return InlineWriter.withControls(text);
    }

    private static void checkPairs(String markup) {
        byte[] whole = ("<t>" + markup + "</t>").getBytes(StandardCharsets.UTF_8);
        try {
            XmlReader.elementAt(SourceText.decode(whole, StandardCharsets.UTF_8, new Problems("text")), 0);
        } catch (UnreadableFileException broken) {
            throw new IllegalArgumentException(
                    "codes that do not pair: " + broken.problem().found());
        }
    }
}
