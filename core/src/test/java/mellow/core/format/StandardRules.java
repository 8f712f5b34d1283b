package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import javax.xml.parsers.DocumentBuilderFactory;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/**
 * The rules about structure of the standards whose files we write, as far as we use them: elements with the attributes that they must and may have and what may
 * stand in them; ids. Written from the standards and not from the code: XLIFF 1.2 §2, XLIFF 2.1 §4, TMX 1.4b, ISO 30042:2019.
 */
public final class StandardRules {

    private static final String XML = "http://www.w3.org/XML/1998/namespace";

    /** An element: attributes it must have, attributes it may have, elements that may stand in it. */
    private record Rule(Set<String> must, Set<String> may, Set<String> within) {}

    private static final Map<String, Map<String, Rule>> RULES = Map.of(
            "xliff-1.2",
            rules(
                    "xliff: version | | file",
                    "file: original datatype source-language | target-language xml:space | header body",
                    "body: | | group trans-unit",
                    "group: | id resname restype translate | group trans-unit",
                    "trans-unit: id | resname approved translate maxwidth size-unit xml:space | source target context-group note",
                    "source: | xml:lang | g x bx ex ph bpt ept it mrk",
                    "target: | xml:lang state | g x bx ex ph bpt ept it mrk",
                    "context-group: | purpose name |",
                    "context: context-type | match-mandatory |",
                    "note: | xml:lang from priority |",
                    "g: id | ctype clone xid equiv-text | g x bx ex ph bpt ept it mrk",
                    "x: id | ctype clone xid equiv-text |",
                    "bx: id | rid ctype clone xid equiv-text |",
                    "ex: id | rid xid equiv-text |",
                    "ph: id | ctype crc assoc xid equiv-text | sub",
                    "bpt: id | rid ctype crc xid equiv-text | sub",
                    "ept: id | rid crc xid equiv-text | sub",
                    "it: id pos | rid ctype crc xid equiv-text | sub",
                    "mrk: mtype | mid comment | g x bx ex ph bpt ept it mrk"),
            "xliff-2",
            rules(
                    "xliff: version srcLang | trgLang | file",
                    "file: id | original xml:space | notes unit group slr:profiles",
                    "slr:profiles: | generalProfile storageProfile |",
                    "group: id | name type translate | notes unit group",
                    "unit: id | name type translate slr:sizeRestriction | notes originalData segment",
                    "notes: | | note",
                    "note: | id category priority appliesTo |",
                    "originalData: | | data",
                    "data: id | dir xml:space | cp",
                    "segment: | id state subState canResegment | source target",
                    "source: | xml:lang xml:space | cp ph pc sc ec mrk sm em",
                    "target: | xml:lang xml:space order | cp ph pc sc ec mrk sm em",
                    "cp: hex | |",
                    "ph: id | canCopy canDelete canReorder copyOf disp equiv dataRef subFlows subType type |",
                    "pc: id | canCopy canDelete canOverlap canReorder copyOf dir dispEnd dispStart equivEnd equivStart dataRefStart dataRefEnd subType type | cp ph pc sc ec mrk sm em",
                    "sc: id | canCopy canDelete canOverlap canReorder copyOf dir disp equiv dataRef isolated subType type |",
                    "ec: | startRef id canCopy canDelete canOverlap canReorder copyOf dir disp equiv dataRef isolated subType type |",
                    "mrk: id | translate type ref value | cp ph pc sc ec mrk sm em"),
            "tmx",
            rules(
                    "tmx: version | | header body",
                    "header: creationtool creationtoolversion segtype o-tmf adminlang srclang datatype | | note prop",
                    "body: | | tu",
                    "tu: | tuid | note prop tuv",
                    "note: | xml:lang |",
                    "prop: type | xml:lang |",
                    "tuv: xml:lang | | note prop seg",
                    "seg: | | bpt ept ph it hi",
                    "bpt: i | x type |",
                    "ept: i | |",
                    "ph: | x assoc type |",
                    "it: pos | x type |",
                    "hi: | x type | bpt ept ph it hi"),
            "tbx",
            rules(
                    "tbx: style type xml:lang | | tbxHeader text",
                    "tbxHeader: | | fileDesc",
                    "fileDesc: | | sourceDesc",
                    "sourceDesc: | | p",
                    "p: | |",
                    "text: | | body",
                    "body: | | conceptEntry",
                    "conceptEntry: | id | descrip note langSec",
                    "descrip: type | id |",
                    "note: | id |",
                    "langSec: xml:lang | | termSec",
                    "termSec: | | term",
                    "term: | |"));

    private StandardRules() {}

    private static Map<String, Rule> rules(String... lines) {
        Map<String, Rule> rules = new TreeMap<>();
        for (String line : lines) {
            int colon = line.indexOf(": ");
            String[] parts = line.substring(colon + 2).split("\\|", -1);
            rules.put(
                    line.substring(0, colon),
                    new Rule(words(parts[0]), words(parts[1]), words(parts.length > 2 ? parts[2] : "")));
        }
        return rules;
    }

    private static Set<String> words(String list) {
        return list.isBlank() ? Set.of() : Set.copyOf(Arrays.asList(list.strip().split(" +")));
    }

    /** Asserts that a file follows the rules of its standard; formats without rules of the kind follow none. */
    public static void check(String format, byte[] bytes) {
        Map<String, Rule> rules = RULES.get(format);
        if (rules == null) {
            return;
        }
        Document document;
        try {
            DocumentBuilderFactory factory = DocumentBuilderFactory.newInstance();
            factory.setNamespaceAware(true);
            document = factory.newDocumentBuilder().parse(new ByteArrayInputStream(bytes));
        } catch (Exception malformed) {
            throw new AssertionError(format + " is not well-formed", malformed);
        }
        check(rules, document.getDocumentElement());
        switch (format) {
            case "xliff-1.2" -> {
                unique(all(document, "trans-unit"), "id");
                all(document, "trans-unit").forEach(unit -> inOrder(unit, "source", "target", "context-group", "note"));
                texts(document, "source", "target").forEach(StandardRules::pairs);
            }
            case "xliff-2" -> {
                List<Element> owners = new ArrayList<>(all(document, "unit"));
                owners.addAll(all(document, "group"));
                unique(owners, "id");
                owners.forEach(owner -> assertThat(owner.getAttribute("id")).matches("[\\w.:-]+"));
                all(document, "unit").forEach(StandardRules::unit2);
            }
            case "tmx" -> {
                all(document, "tu").forEach(unit -> {
                    assertThat(unit.getAttribute("tuid")).doesNotContainPattern("\\s");
                    assertThat(children(unit))
                            .anyMatch(child -> child.getLocalName().equals("tuv"));
                    inOrder(unit, "note|prop", "tuv");
                });
                texts(document, "seg").forEach(StandardRules::pairs);
            }
            default -> {
                List<Element> named = new ArrayList<>(all(document, "conceptEntry"));
                named.addAll(all(document, "note"));
                named.removeIf(element -> !element.hasAttribute("id"));
                unique(named, "id");
                named.forEach(element -> assertThat(element.getAttribute("id")).matches("[\\p{L}_][\\w.-]*"));
                all(document, "conceptEntry").forEach(concept -> {
                    assertThat(children(concept))
                            .anyMatch(child -> child.getLocalName().equals("langSec"));
                    inOrder(concept, "descrip|note", "langSec");
                });
            }
        }
    }

    private static void check(Map<String, Rule> rules, Element element) {
        Rule rule = rules.get(element.getTagName());
        assertThat(rule)
                .as("<%s> is an element of the standard", element.getTagName())
                .isNotNull();
        Set<String> has = new HashSet<>();
        for (int i = 0; i < element.getAttributes().getLength(); i++) {
            Node attribute = element.getAttributes().item(i);
            if (!attribute.getNodeName().startsWith("xmlns")) {
                has.add(
                        XML.equals(attribute.getNamespaceURI())
                                ? "xml:" + attribute.getLocalName()
                                : attribute.getNodeName());
            }
        }
        assertThat(has).as("attributes of <%s>", element.getTagName()).containsAll(rule.must);
        has.removeAll(rule.must);
        assertThat(rule.may).as("attributes of <%s>", element.getTagName()).containsAll(has);
        for (Element child : children(element)) {
            if (rules.containsKey(element.getTagName()) && !element.getTagName().equals("context-group")) {
                assertThat(rule.within)
                        .as("elements in <%s>", element.getTagName())
                        .contains(child.getTagName());
            }
            check(rules, child);
        }
    }

    /** XLIFF 2.1 §4.2.2.6 and §4.3.1.15: parts in order, types and sub-types, references to original data, ids unique in each text. */
    private static void unit2(Element unit) {
        inOrder(unit, "notes", "originalData", "segment");
        Set<String> data = new HashSet<>();
        below(unit, "data")
                .forEach(one -> assertThat(data.add(one.getAttribute("id"))).isTrue());
        for (String name : List.of("source", "target")) {
            for (Element text : below(unit, name)) {
                Set<String> ids = new HashSet<>();
                for (Element code : below(text, "*")) {
                    for (String reference : List.of("dataRef", "dataRefStart", "dataRefEnd")) {
                        if (code.hasAttribute(reference)) {
                            assertThat(data).as("original data").contains(code.getAttribute(reference));
                        }
                    }
                    if (code.hasAttribute("id")) {
                        assertThat(code.getAttribute("id")).matches("[\\w.:-]+");
                        assertThat(ids.add(code.getAttribute("id")))
                                .as("id %s is used once", code.getAttribute("id"))
                                .isTrue();
                    }
                    if (code.hasAttribute("type") && !code.getLocalName().equals("mrk")) {
                        assertThat(code.getAttribute("type")).isIn("fmt", "ui", "quote", "link", "image", "other");
                    }
                    if (code.hasAttribute("subType")) {
                        assertThat(code.hasAttribute("type")).isTrue();
                        assertThat(code.getAttribute("subType")).contains(":");
                    }
                    if (code.getLocalName().equals("ec") && code.hasAttribute("startRef")) {
                        assertThat(below(text, "sc"))
                                .extracting(start -> start.getAttribute("id"))
                                .contains(code.getAttribute("startRef"));
                    }
                    if (code.getLocalName().equals("sc")
                            && !code.getAttribute("isolated").equals("yes")) {
                        assertThat(below(text, "ec"))
                                .extracting(end -> end.getAttribute("startRef"))
                                .contains(code.getAttribute("id"));
                    }
                }
            }
        }
    }

    /** XLIFF 1.2 §2.3 and TMX 1.4b §5: ids are used once, but for the two ends of a pair; no beginning without an end. */
    private static void pairs(Element text) {
        Set<String> ids = new HashSet<>();
        for (String end : List.of("ept", "ex")) {
            String begin = end.equals("ept") ? "bpt" : "bx";
            assertThat(below(text, begin).stream()
                            .map(StandardRules::link)
                            .sorted()
                            .toList())
                    .as("each %s has its %s", begin, end)
                    .isEqualTo(below(text, end).stream()
                            .map(StandardRules::link)
                            .sorted()
                            .toList());
        }
        for (Element code : below(text, "*")) {
            String id = code.getAttribute(code.hasAttribute("i") ? "i" : "id");
            boolean ends =
                    code.getLocalName().equals("ept") || code.getLocalName().equals("ex");
            if (!id.isEmpty() && !ends) {
                assertThat(ids.add(id)).as("id %s is used once", id).isTrue();
            }
        }
    }

    private static String link(Element code) {
        return code.hasAttribute("rid")
                ? code.getAttribute("rid")
                : code.getAttribute(code.hasAttribute("i") ? "i" : "id");
    }

    private static void unique(List<Element> elements, String attribute) {
        Set<String> values = new HashSet<>();
        elements.forEach(element -> assertThat(values.add(element.getAttribute(attribute)))
                .as("%s %s is used once", attribute, element.getAttribute(attribute))
                .isTrue());
    }

    /** Children stand in the order of these groups of names. */
    private static void inOrder(Element element, String... groups) {
        int at = 0;
        for (Element child : children(element)) {
            while (at < groups.length && !List.of(groups[at].split("\\|")).contains(child.getLocalName())) {
                at++;
            }
            assertThat(at)
                    .as("<%s> has its place in <%s>", child.getTagName(), element.getTagName())
                    .isLessThan(groups.length);
        }
    }

    private static List<Element> texts(Document document, String... names) {
        List<Element> found = new ArrayList<>();
        for (String name : names) {
            found.addAll(all(document, name));
        }
        return found;
    }

    private static List<Element> all(Document document, String name) {
        return below(document.getDocumentElement(), name);
    }

    private static List<Element> below(Element element, String name) {
        var found = element.getElementsByTagNameNS("*", name);
        List<Element> elements = new ArrayList<>();
        for (int i = 0; i < found.getLength(); i++) {
            elements.add((Element) found.item(i));
        }
        return elements;
    }

    private static List<Element> children(Element element) {
        List<Element> children = new ArrayList<>();
        for (Node child = element.getFirstChild(); child != null; child = child.getNextSibling()) {
            if (child instanceof Element inner) {
                children.add(inner);
            }
        }
        return children;
    }
}
