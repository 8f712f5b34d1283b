package mellow.core.format.xml;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import java.util.Random;
import javax.xml.parsers.DocumentBuilder;
import javax.xml.parsers.DocumentBuilderFactory;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.source.SourceText;
import mellow.core.format.xml.XmlNode.Characters;
import mellow.core.format.xml.XmlNode.Element;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.w3c.dom.Document;
import org.xml.sax.ErrorHandler;
import org.xml.sax.SAXException;
import org.xml.sax.SAXParseException;

class XmlReaderTest {

    private static final String[] PIECES = {
        "<a>",
        "</a>",
        "<b x='1'>",
        "</b>",
        "<c/>",
        "<d y=\"&lt;\"/>",
        "text",
        " ",
        "\n",
        "&amp;",
        "&#65;",
        "&#x1F600;",
        "&#0;",
        "&x;",
        "&",
        "<",
        ">",
        "]]>",
        "<!-- x -->",
        "<!-- x -- y -->",
        "<![CDATA[ <z> ]]>",
        "<![CDATA[",
        "<?p i?>",
        "<?xml version='1.0'?>",
        "<n:e xmlns:n='u'/>",
        "<n:e/>",
        "<e xmlns='v'>",
        "</e>",
        "<f g='1' g='2'/>",
        "<h i=1/>",
        "<j k/>",
        "<1/>",
        "\r\n",
        "é",
        "\u0001",
        "<m/ >",
        "< o>",
        "<p\n q = 'r'\t/>",
        "'",
        "\"",
        "<s t='<'/>",
        "</a >"
    };

    private static Element read(String xml) {
        SourceText source = XmlText.decode(
                xml.getBytes(StandardCharsets.UTF_8), Optional.empty(), Limits.DEFAULT, new Problems("a.xml"));
        XmlReader reader = new XmlReader(source, 1_000_000);
        XmlReader.Event event = reader.next();
        while (event != XmlReader.Event.START) {
            event = reader.next();
        }
        Element root = reader.readElement();
        while (reader.next() != XmlReader.Event.DONE) {
            // What follows the document is read too.
        }
        return root;
    }

    private static Optional<Document> jdk(String xml) throws Exception {
        DocumentBuilderFactory factory = DocumentBuilderFactory.newInstance();
        factory.setNamespaceAware(true);
        DocumentBuilder builder = factory.newDocumentBuilder();
        builder.setErrorHandler(new Strict());
        try {
            return Optional.of(builder.parse(new ByteArrayInputStream(xml.getBytes(StandardCharsets.UTF_8))));
        } catch (SAXException refused) {
            return Optional.empty();
        }
    }

    private static final class Strict implements ErrorHandler {

        @Override
        public void warning(SAXParseException exception) {}

        @Override
        public void error(SAXParseException exception) throws SAXException {
            throw exception;
        }

        @Override
        public void fatalError(SAXParseException exception) throws SAXException {
            throw exception;
        }
    }

    /** The JDK's parser and ours agree on what is well-formed, and on the text of what is. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
    void agreesWithTheParserOfTheJdk(long seed) throws Exception {
        Random random = new Random(seed);
        int accepted = 0;
        for (int i = 0; i < 1_500; i++) {
            StringBuilder xml = new StringBuilder("<r>");
            for (int piece = random.nextInt(7); piece > 0; piece--) {
                xml.append(PIECES[random.nextInt(PIECES.length)]);
            }
            xml.append("</r>");
            Optional<Document> theirs = jdk(xml.toString());
            Optional<Element> ours = ours(xml.toString());
            assertThat(ours.isPresent()).as(xml.toString()).isEqualTo(theirs.isPresent());
            if (ours.isPresent()) {
                accepted++;
                assertThat(ours.get().text())
                        .as(xml.toString())
                        .isEqualTo(theirs.get().getDocumentElement().getTextContent());
            }
        }
        assertThat(accepted).isGreaterThan(200);
    }

    private static Optional<Element> ours(String xml) {
        try {
            return Optional.of(read(xml));
        } catch (UnreadableFileException refused) {
            return Optional.empty();
        }
    }

    @Test
    void everythingHasItsPlace() {
        String xml = "<?xml version=\"1.0\"?>\n<r>\n <a x=\"1\" y='&amp;'>t<b/></a>\n</r>";
        Element root = read(xml);
        Element a = root.first("a").orElseThrow();
        assertThat(xml.substring(a.start(), a.end())).isEqualTo("<a x=\"1\" y='&amp;'>t<b/></a>");
        assertThat(xml.substring(a.contentStart(), a.contentEnd())).isEqualTo("t<b/>");
        XmlNode.Attribute y = a.attribute("y").orElseThrow();
        assertThat(y.value()).isEqualTo("&");
        assertThat(xml.substring(y.valueStart(), y.valueEnd())).isEqualTo("&amp;");
        Element b = a.first("b").orElseThrow();
        assertThat(b.selfClosing()).isTrue();
        assertThat(xml.substring(b.start(), b.end())).isEqualTo("<b/>");
        assertThat(a.selfClosing()).isFalse();
    }

    @Test
    void namespacesAreResolvedWhereTheyStand() {
        Element root = read("<x:r xmlns:x='u' xmlns='d'><a x:i='1' i='2'/><y:b xmlns:y='u'/><c xmlns=''/></x:r>");
        assertThat(root.namespace()).isEqualTo("u");
        Element a = root.first("a").orElseThrow();
        assertThat(a.namespace()).isEqualTo("d");
        assertThat(a.attribute("u", "i").orElseThrow().value()).isEqualTo("1");
        assertThat(a.value("i")).isEqualTo("2");
        assertThat(root.first("b").orElseThrow().namespace()).isEqualTo("u");
        assertThat(root.first("c").orElseThrow().namespace()).isEmpty();
    }

    @Test
    void anElementCanBeReadAgainWhereItStands() {
        String xml = "<r xmlns:p='u'>\n<p:a q='1'>x<p:b/></p:a></r>";
        SourceText source =
                SourceText.decode(xml.getBytes(StandardCharsets.UTF_8), StandardCharsets.UTF_8, new Problems("a.xml"));
        Element again = XmlReader.elementAt(source, xml.indexOf("<p:a"));
        assertThat(again.name()).isEqualTo("a");
        assertThat(again.value("q")).isEqualTo("1");
        assertThat(again.text()).isEqualTo("x");
        assertThat(again.end()).isEqualTo(xml.indexOf("</r>"));
    }

    @Test
    void cdataAndLineEnds() {
        Element root = read("<r>a\r\nb\rc<![CDATA[<x>\r\n&amp;]]></r>");
        assertThat(root.text()).isEqualTo("a\nb\nc<x>\n&amp;");
        assertThat(((Characters) root.children().get(1)).cdata()).isTrue();
    }

    @ParameterizedTest
    @CsvSource({
        "UTF-8, UTF-8",
        "ISO-8859-1, ISO-8859-1",
        "windows-1252, windows-1252",
        "UTF-16, UTF-16LE",
        "UTF-16, UTF-16BE",
        "Shift_JIS, Shift_JIS"
    })
    void theDeclaredCharacterSetCounts(String declared, String charset) throws Exception {
        String xml = "<?xml version=\"1.0\" encoding=\"" + declared + "\"?><r>"
                + (charset.equals("Shift_JIS") ? "日本" : "Grün") + "</r>";
        byte[] bytes = xml.getBytes(charset);
        SourceText source = XmlText.decode(bytes, Optional.empty(), Limits.DEFAULT, new Problems("a.xml"));
        assertThat(source.charset().name()).isEqualTo(charset);
        assertThat(source.text()).isEqualTo(xml);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "<r>~ <a>~</r> | line 3: “</r>”; expected “</a>”, which begins in line 2",
                "<r> | the file ends inside <r>, which begins in line 1",
                "<r/><s/> | line 1, column 5: a second element beside the document",
                "x<r/> | text before the first element",
                "<r a=\"1\" a=\"2\"/> | line 1, column 10: the attribute “a” twice",
                "<p:r/> | the prefix “p” without a namespace",
                "<r>&nbsp;</r> | line 1, column 4: the unknown entity “&nbsp;”",
                "<r>&#xD800;</r> | “&#xD800;”, which is no character that XML allows",
                "<!DOCTYPE r [<!ELEMENT r ANY>]><r/> | a document type with declarations of its own"
            })
    void whatIsWrongIsNamedWithItsPlace(String xml, String sentence) {
        String broken = xml.replace("~", "\n");
        assertThatThrownBy(() -> read(broken))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining(sentence);
    }
}
