package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.PropertyResourceBundle;
import javax.xml.parsers.DocumentBuilderFactory;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.w3c.dom.Document;

/** Files that we write, in the hands of the programs that they are for. */
class ConsumersTest {

    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final LanguageTag POLISH = new LanguageTag("pl");
    private static final String NASTY = " Rampe: \"auf\" \\ & <b>zu</b>\n#é日😀\t";

    private static byte[] written(String format, EntryList entries) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        Formats.named(format).orElseThrow().write(entries, out);
        return out.toByteArray();
    }

    @Test
    void javaReadsProperties() throws Exception {
        EntryList entries = EntryList.of(
                Optional.empty(),
                List.of(POLISH),
                List.of(
                        FileEntry.of("a key:=#").plain(List.of(NASTY)).build(),
                        FileEntry.of("b").plain(List.of("x")).build()));
        PropertyResourceBundle bundle =
                new PropertyResourceBundle(new ByteArrayInputStream(written("properties", entries)));
        assertThat(bundle.getString("a key:=#")).isEqualTo(NASTY);
        assertThat(bundle.getString("b")).isEqualTo("x");
    }

    @ParameterizedTest
    @ValueSource(strings = {"xliff-1.2", "xliff-2", "android"})
    void theJdkParsesXml(String format) throws Exception {
        EntryList entries = EntryList.of(
                Optional.of(ENGLISH),
                List.of(ENGLISH, POLISH),
                List.of(FileEntry.of("a & <b>\"")
                        .note("x -- y")
                        .plain(List.of(NASTY, NASTY + "]]>"))
                        .build()));
        DocumentBuilderFactory factory = DocumentBuilderFactory.newInstance();
        factory.setNamespaceAware(true);
        Document document = factory.newDocumentBuilder().parse(new ByteArrayInputStream(written(format, entries)));
        if (format.equals("android")) {
            assertThat(document.getElementsByTagName("string")
                            .item(0)
                            .getAttributes()
                            .getNamedItem("name")
                            .getNodeValue())
                    .isEqualTo("a & <b>\"");
        } else {
            assertThat(document.getElementsByTagName("source").item(0).getTextContent())
                    .isEqualTo(NASTY);
            assertThat(document.getElementsByTagName("target").item(0).getTextContent())
                    .isEqualTo(NASTY + "]]>");
        }
    }

    /** Python's gettext is the stock runtime that is nearly everywhere. */
    @Test
    void pythonLoadsCompiledCatalogues(@TempDir Path folder) throws Exception {
        assumeTrue(
                runs("python3", "--version"),
                "python3 is not installed, so no stock runtime loads the compiled catalogue");
        EntryList entries = EntryList.of(
                Optional.of(ENGLISH),
                List.of(ENGLISH, POLISH),
                List.of(
                        FileEntry.of("Open").plain(List.of("Open", NASTY)).build(),
                        FileEntry.of("Close")
                                .context("menu")
                                .plain(List.of("Close", "Zamknij"))
                                .build(),
                        FileEntry.of("Left out")
                                .texts(List.of(FileText.plain("Left out"), FileText.NONE))
                                .build(),
                        FileEntry.of("%d car")
                                .shape(Shape.PLURAL)
                                .texts(List.of(
                                        FileText.of(Map.of("one", "%d car", "other", "%d cars")),
                                        FileText.of(Map.of("one", "auto", "few", "auta", "many", "aut"))))
                                .build()));
        Path file = folder.resolve("pl.mo");
        Files.write(file, written("mo", entries));
        Path script = folder.resolve("load.py");
        Files.writeString(
                script,
                """
                import gettext, sys
                t = gettext.GNUTranslations(open(sys.argv[1], 'rb'))
                sys.stdout.reconfigure(encoding='utf-8')
                print(repr(t.gettext('Open')))
                print(t.pgettext('menu', 'Close'))
                print(t.gettext('Left out'))
                print([t.ngettext('%d car', '%d cars', n) for n in (1, 2, 5, 12, 22)])
                """);
        Process python = new ProcessBuilder("python3", script.toString(), file.toString())
                .redirectErrorStream(true)
                .start();
        String said = new String(python.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(python.waitFor()).as(said).isZero();
        assertThat(said.lines().toList())
                .containsExactly(
                        "' Rampe: \"auf\" \\\\ & <b>zu</b>\\n#é日😀\\t'",
                        "Zamknij",
                        "Left out",
                        "['auto', 'auta', 'aut', 'aut', 'auta']");
        FileReading again = Formats.read("pl.mo", Files.readAllBytes(file), ReadOptions.AUTOMATIC);
        assertThat(again.size()).isEqualTo(3);
    }

    private static boolean runs(String... command) throws InterruptedException {
        try {
            return new ProcessBuilder(command)
                            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                            .start()
                            .waitFor()
                    == 0;
        } catch (IOException notInstalled) {
            return false;
        }
    }
}
