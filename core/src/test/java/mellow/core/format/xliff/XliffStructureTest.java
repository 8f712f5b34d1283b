package mellow.core.format.xliff;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javax.xml.parsers.DocumentBuilderFactory;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;

/** What the standards say about the structure of a document, asked of the files that we write. */
class XliffStructureTest {

    private static final String FIRST = "urn:oasis:names:tc:xliff:document:1.2";
    private static final String SECOND = "urn:oasis:names:tc:xliff:document:2.0";

    private static EntryList entries() {
        List<FileEntry> entries = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
            entries.add(FileEntry.of("same key")
                    .context("door " + i)
                    .note("Note " + i)
                    .reference("deck.scr:" + i)
                    .section(i < 2 ? "Bow & stern" : "")
                    .maxLength(20 * i)
                    .translatable(i != 3)
                    .texts(List.of(
                            FileText.plain("Ramp <x id=\"1\"/>"),
                            FileText.plain("Rampe <x id=\"1\"/>").in(FileState.values()[i])))
                    .build());
        }
        entries.add(FileEntry.of("cars")
                .shape(Shape.PLURAL)
                .texts(List.of(
                        FileText.of(Map.of("one", "car", "other", "cars")),
                        FileText.of(Map.of("one", "Wagen", "other", "Wagen")).in(FileState.PENCILLED)))
                .build());
        return EntryList.of(
                Optional.of(new LanguageTag("en")), List.of(new LanguageTag("en"), new LanguageTag("de")), entries);
    }

    private static Document written(XliffFormat format) throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        format.write(entries(), out);
        DocumentBuilderFactory factory = DocumentBuilderFactory.newInstance();
        factory.setNamespaceAware(true);
        return factory.newDocumentBuilder().parse(new ByteArrayInputStream(out.toByteArray()));
    }

    private static List<Element> all(Document document, String space, String name) {
        var found = document.getElementsByTagNameNS(space, name);
        List<Element> elements = new ArrayList<>();
        for (int i = 0; i < found.getLength(); i++) {
            elements.add((Element) found.item(i));
        }
        return elements;
    }

    private static List<String> children(Element element) {
        List<String> names = new ArrayList<>();
        for (Node child = element.getFirstChild(); child != null; child = child.getNextSibling()) {
            if (child instanceof Element inner) {
                names.add(inner.getLocalName());
            }
        }
        return names;
    }

    /** XLIFF 1.2 §2.2: what a document, a file and a unit must have, and the order within a unit. */
    @Test
    void first() throws Exception {
        Document document = written(XliffFormat.FIRST);
        Element root = document.getDocumentElement();
        assertThat(root.getNamespaceURI()).isEqualTo(FIRST);
        assertThat(root.getAttribute("version")).isEqualTo("1.2");
        for (Element file : all(document, FIRST, "file")) {
            assertThat(file.getAttribute("original")).isNotEmpty();
            assertThat(file.getAttribute("datatype")).isNotEmpty();
            assertThat(file.getAttribute("source-language")).isEqualTo("en");
            assertThat(file.getAttribute("target-language")).isEqualTo("de");
            assertThat(children(file)).containsExactly("body");
        }
        Set<String> ids = new HashSet<>();
        for (Element unit : all(document, FIRST, "trans-unit")) {
            assertThat(ids.add(unit.getAttribute("id"))).as("ids are unique").isTrue();
            List<String> parts = children(unit);
            assertThat(parts.get(0)).isEqualTo("source");
            assertThat(parts.lastIndexOf("target")).isLessThanOrEqualTo(1);
            assertThat(unit.hasAttribute("maxwidth")).isEqualTo(unit.hasAttribute("size-unit"));
        }
        assertThat(all(document, FIRST, "target"))
                .extracting(target -> target.getAttribute("state"))
                .contains("final", "translated", "needs-review-translation");
        assertThat(all(document, FIRST, "x")).as("inline codes are elements").hasSize(8);
        assertThat(all(document, FIRST, "group"))
                .extracting(group -> group.getAttribute("restype"))
                .containsExactly("", "x-mellow-plural");
    }

    /** XLIFF 2.1 §4.2 and §4.3: ids are NMTOKENs, unique in a file; notes come before segments; a subState has a state and a prefix. */
    @Test
    void second() throws Exception {
        Document document = written(XliffFormat.SECOND);
        Element root = document.getDocumentElement();
        assertThat(root.getNamespaceURI()).isEqualTo(SECOND);
        assertThat(root.getAttribute("srcLang")).isEqualTo("en");
        assertThat(root.getAttribute("trgLang")).isEqualTo("de");
        Set<String> ids = new HashSet<>();
        for (String name : List.of("file", "group", "unit")) {
            for (Element element : all(document, SECOND, name)) {
                assertThat(element.getAttribute("id")).matches("[\\w.:-]+");
                assertThat(ids.add(element.getAttribute("id")))
                        .as("ids are unique")
                        .isTrue();
            }
        }
        for (Element unit : all(document, SECOND, "unit")) {
            assertThat(children(unit)).last().isEqualTo("segment");
            assertThat(children(unit).indexOf("notes")).isLessThanOrEqualTo(0);
        }
        for (Element segment : all(document, SECOND, "segment")) {
            assertThat(children(segment)).startsWith("source").isSubsetOf("source", "target");
            if (segment.hasAttribute("subState")) {
                assertThat(segment.getAttribute("state")).isEqualTo("initial");
                assertThat(segment.getAttribute("subState")).matches("[^:]+:.+");
            }
        }
        assertThat(all(document, SECOND, "segment"))
                .extracting(segment -> segment.getAttribute("state"))
                .contains("final", "translated", "initial");
        assertThat(document.getElementsByTagName("slr:profiles").getLength()).isEqualTo(1);
        assertThat(all(document, SECOND, "group").get(1).getAttribute("type")).isEqualTo("mellow:plural");
    }

    @Test
    void aFileHoldsOneTranslation() {
        EntryList three = EntryList.of(
                Optional.of(new LanguageTag("en")),
                List.of(new LanguageTag("en"), new LanguageTag("de"), new LanguageTag("fi")),
                List.of());
        assertThatThrownBy(() -> XliffFormat.FIRST.write(three, new ByteArrayOutputStream()))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessage(
                        "An XLIFF file holds a source and one language, and there are 3; choose one with its language.");
    }

    /** Namespaces in XML 1.0 §6: what is added is of the file's own namespace, whatever prefix the file writes it with. */
    @ParameterizedTest
    @CsvSource({"1.2, ''", "1.2, x:", "1.2, xliff.v1:", "2.0, ''", "2.0, x:"})
    void whatIsAddedHasThePrefixOfTheFile(String version, String p) throws Exception {
        boolean second = version.equals("2.0");
        String space = second ? SECOND : FIRST;
        String name = p.isEmpty() ? "" : ":" + p.substring(0, p.length() - 1);
        String head = second
                ? "<%sxliff xmlns%s=\"%s\" version=\"2.0\" srcLang=\"en\" trgLang=\"de\"><%sfile id=\"f\">\n"
                        .formatted(p, name, space, p)
                : "<%sxliff xmlns%s=\"%s\" version=\"1.2\"><%sfile original=\"a\" datatype=\"plaintext\" source-language=\"en\" target-language=\"de\"><%sbody>\n"
                        .formatted(p, name, space, p, p);
        String unit = second
                ? "  <%1$sunit id=\"a\"><%1$ssegment><%1$ssource>Up</%1$ssource></%1$ssegment></%1$sunit>\n"
                        .formatted(p)
                : "  <%1$strans-unit id=\"a\"><%1$ssource>Up</%1$ssource></%1$strans-unit>\n".formatted(p);
        String tail =
                second ? "</%1$sfile></%1$sxliff>\n".formatted(p) : "</%1$sbody></%1$sfile></%1$sxliff>\n".formatted(p);
        XliffFormat format = second ? XliffFormat.SECOND : XliffFormat.FIRST;
        for (String there : List.of(unit, "")) {
            byte[] file = (head + there + tail).getBytes(StandardCharsets.UTF_8);
            var patch = format.read("a.xlf", file, ReadOptions.AUTOMATIC).patch();
            EntryList added = entries();
            for (int i = 0; i < added.size(); i++) {
                patch.insert(there.isEmpty() ? -1 : 0, added.entry(i));
            }
            ByteArrayOutputStream out = new ByteArrayOutputStream();
            patch.writeTo(out);
            DocumentBuilderFactory factory = DocumentBuilderFactory.newInstance();
            factory.setNamespaceAware(true);
            Document document = factory.newDocumentBuilder().parse(new ByteArrayInputStream(out.toByteArray()));
            int before = there.isEmpty() ? 0 : 1;
            assertThat(all(document, space, second ? "unit" : "trans-unit")).hasSize(6 + before);
            assertThat(all(document, space, "target")).hasSize(6);
            assertThat(all(document, "*", "*"))
                    .extracting(Node::getNamespaceURI)
                    .containsOnly(space);
            assertThat(format.read("a.xlf", out.toByteArray(), ReadOptions.AUTOMATIC)
                            .size())
                    .isEqualTo(5 + before);
            assertThat(out.toString(StandardCharsets.UTF_8)).startsWith(head).endsWith(tail);
        }
    }

    @Test
    void codesThatDoNotPairAreRefusedInPlace() {
        byte[] file =
                "<xliff version=\"1.2\"><file original=\"a\" source-language=\"en\" target-language=\"de\"><body><trans-unit id=\"k\"><source>A <g id=\"1\">b</g></source></trans-unit></body></file></xliff>"
                        .getBytes(StandardCharsets.UTF_8);
        var patch = XliffFormat.FIRST.read("a.xlf", file, ReadOptions.AUTOMATIC).patch();
        assertThatThrownBy(() -> patch.set(0, 1, "A <g id=\"1\">b"))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("The text of k has codes that do not pair");
    }
}
