package mellow.server.launch;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** {@code mellow inspect} and {@code mellow convert}, as a shell sees them. */
class FileCommandTest {

    private static final String PO = "msgid \"Open\"\nmsgstr \"Öffnen\"\n";

    @TempDir
    private Path folder;

    private final StringWriter out = new StringWriter();
    private final StringWriter err = new StringWriter();

    private int run(String... arguments) {
        return Mellow.commands()
                .setOut(new PrintWriter(out))
                .setErr(new PrintWriter(err))
                .execute(arguments);
    }

    private String file(String name, String content) throws IOException {
        Path file = folder.resolve(name);
        Files.createDirectories(file.getParent());
        Files.writeString(file, content);
        return file.toString();
    }

    private List<JsonNode> said() {
        JsonMapper json = new JsonMapper();
        return List.of(out.toString().split("(?m)(?<=\\}\\n)(?=\\{\"file\")")).stream()
                .map(json::readTree)
                .toList();
    }

    @Test
    void inspectSaysWhatAFileHolds() throws Exception {
        assertThat(run("inspect", file("de.po", PO))).isZero();
        JsonNode said = said().get(0);
        assertThat(said.path("format").asString()).isEqualTo("po");
        assertThat(said.path("encoding").asString()).isEqualTo("UTF-8");
        assertThat(said.path("sourceLanguage").asString()).isEqualTo("en");
        assertThat(said.path("languages").toString()).isEqualTo("[\"en\",\"de\"]");
        JsonNode entry = said.path("entries").get(0);
        assertThat(entry.path("key").asString()).isEqualTo("Open");
        assertThat(entry.path("context").isNull()).isTrue();
        assertThat(entry.path("source").toString()).isEqualTo("{\"other\":\"Open\"}");
        assertThat(entry.path("texts").toString()).isEqualTo("{\"de\":{\"other\":\"Öffnen\"}}");
        assertThat(entry.path("translatable").asBoolean()).isTrue();
        assertThat(said.path("problems").size()).isZero();
    }

    @Test
    void aRefusedFileAmongOthersExitsWithTwo() throws Exception {
        assertThat(run(
                        "inspect",
                        file("de.po", PO),
                        file("a.json", "{\"a\": }"),
                        folder.resolve("none.po").toString()))
                .isEqualTo(2);
        List<JsonNode> said = said();
        assertThat(said).hasSize(3);
        JsonNode problem = said.get(1).path("problems").get(0);
        assertThat(problem.path("severity").asString()).isEqualTo("error");
        assertThat(problem.path("line").asInt()).isEqualTo(1);
        assertThat(problem.path("column").asInt()).isEqualTo(7);
        assertThat(problem.path("message").asString())
                .contains("a.json, line 1, column 7: “}”; expected a text in double quotes");
        assertThat(said.get(2).path("problems").get(0).path("message").asString())
                .contains("the file cannot be read");
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            value = {
                "values-pt-rBR/strings.xml | <resources><string name=\"a\">x</string></resources> | android | pt-BR",
                "messages.sr.xlf | <xliff version=\"1.2\"><file source-language=\"en\" original=\"a\"><body><trans-unit id=\"a\"><source>x</source></trans-unit></body></file></xliff> | xliff-1.2 | sr",
                "de-DE.yml | a: x | yaml | de-DE",
                "strings_fi.properties | a=x | properties | fi",
                "locale/fi/LC_MESSAGES/app.po | msgid \"a b\"~msgstr \"x\" | po | fi",
                "i18n/zh-Hant-TW.json | {\"a\": \"x\"} | json | zh-Hant-TW",
                "anything.bin | {\"a\": \"x\"} | json | und",
                "sheet.txt | key;en;de~a;x;y | csv | de"
            })
    void namesTellLanguagesAndContentsTellFormats(String name, String content, String format, String language)
            throws Exception {
        assertThat(run("inspect", file(name, content.replace('~', '\n')))).isZero();
        assertThat(said().get(0).path("format").asString()).isEqualTo(format);
        assertThat(said().get(0).path("languages").toString()).endsWith("\"" + language + "\"]");
    }

    @Test
    void optionsSayWhatAFileDoesNot() throws Exception {
        Path file = folder.resolve("a.txt");
        Files.write(file, "a=Gr\u00fcn".getBytes(StandardCharsets.ISO_8859_1));
        assertThat(run(
                        "inspect",
                        file.toString(),
                        "--format",
                        "properties",
                        "--lang",
                        "de",
                        "--source-lang",
                        "de",
                        "--encoding",
                        "windows-1252"))
                .isZero();
        JsonNode said = said().get(0);
        assertThat(said.path("encoding").asString()).isEqualTo("windows-1252");
        assertThat(said.path("sourceLanguage").asString()).isEqualTo("de");
        assertThat(said.path("entries").get(0).path("source").path("other").asString())
                .isEqualTo("Grün");
    }

    @ParameterizedTest
    @CsvSource({
        "--lang, nonsense!, “nonsense!” is no language tag.",
        "--format, docx, There is no format docx.",
        "--encoding, none-8, There is no character set none-8."
    })
    void wrongOptionsAreNamed(String option, String value, String sentence) throws Exception {
        assertThat(run("inspect", file("a.json", "{\"a\": \"x\"}"), option, value))
                .isEqualTo(1);
        assertThat(err.toString()).contains(sentence);
    }

    @ParameterizedTest
    @CsvSource({"a.xlf", "a.xliff", "a.xlsx", "a.ods", "a.csv", "a.tmx", "a.tbx", "a.ledger.json", "a.po"})
    void convertKeepsSourcesAndTexts(String name) throws Exception {
        Path to = folder.resolve(name);
        assertThat(run("convert", file("de.po", PO), to.toString()))
                .as(err.toString())
                .isZero();
        assertThat(run("inspect", to.toString())).isZero();
        JsonNode entry = said().get(0).path("entries").get(0);
        assertThat(entry.path("key").asString()).isEqualTo("Open");
        assertThat(entry.path("source").path("other").asString()).isEqualTo("Open");
        assertThat(entry.path("texts").path("de").path("other").asString()).isEqualTo("Öffnen");
    }

    @Test
    void convertPicksALanguageOfMany() throws Exception {
        Path to = folder.resolve("fi.properties");
        assertThat(run("convert", file("a.csv", "key,en,de,fi\na,x,y,z\n"), to.toString(), "--lang", "fi"))
                .isZero();
        assertThat(Files.readString(to)).isEqualTo("a=z\n");
    }

    @Test
    void whatCannotBeConvertedLeavesTheOldFile() throws Exception {
        String old = file("b.json", "old");
        assertThat(run("convert", file("a.csv", "key,en,de,fi\na,x,y,z\n"), old))
                .isEqualTo(2);
        assertThat(err.toString()).contains("holds one language in a file, and there are 3; choose one");
        assertThat(Files.readString(Path.of(old))).isEqualTo("old");
        try (var files = Files.list(folder)) {
            assertThat(files).hasSize(2);
        }
    }
}
