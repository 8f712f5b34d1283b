package mellow.server.export;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import mellow.server.support.SetDrop;
import mellow.server.table.TableService;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Sets sent out again: the same bytes, only what changed, and new languages in their siblings' habit. */
class SetOutTest extends ServerTest {

    @Autowired
    private ExportService exports;

    @Autowired
    private TableService tables;

    @Autowired
    private SetDrop drop;

    @Autowired
    private Http http;

    private long mara;
    private final Map<String, String> files = new LinkedHashMap<>();

    @BeforeEach
    void someone() {
        mara = ledger.coordinator("mara");
    }

    private void take(String table) {
        drop.take(mara, files);
        ledger.run("update table_language set settles_own = true");
        assertThat(ledger.slug(table)).isNotNull();
    }

    private void add(String table, String tag) {
        tables.addLanguages(ledger.table(table), List.of(new LanguageTag(tag)), true);
    }

    private void say(String key, String tag, String text) {
        int version = ledger.ask(
                Integer.class,
                "select coalesce(max(c.version), 0) from cell c join entry e on e.id = c.entry_id join language l on l.id = c.language_id where e.key = '"
                        + key + "' and l.tag = '" + tag + "'");
        ledger.change(mara, key, tag, CellChange.text(Action.PUT_FORWARD, version, text));
    }

    private Map<String, String> out(String table) throws IOException {
        Map<String, String> out = new LinkedHashMap<>();
        try (ExportService.Outgoing set = exports.set(ledger.slug(table));
                ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(Files.readAllBytes(set.content())))) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                out.put(entry.getName(), new String(zip.readAllBytes(), StandardCharsets.UTF_8));
            }
        }
        return out;
    }

    @Test
    void yamlStaysByteForByteAndGrowsWhereItsKeysBelong() throws IOException {
        files.put(
                "l/en.yml",
                "# Ours\nen:\n  deck:\n    # Over the door\n    up: 'Up'\n    down: Down\n    days:\n      one: one day\n      other: \"%{n} days\"\n  stop: Stop\n");
        files.put("l/de.yml", "de:\n  deck:\n    up: Hoch\n");
        files.put("l/no.yml", "\"no\":\n  stop: Stopp\n");
        take("L");
        assertThat(out("L")).isEqualTo(files);

        say("deck.down", "de", "Runter");
        say("stop", "de", "Halt");
        say("deck.up", "no", "Opp");
        Map<String, String> out = out("L");
        assertThat(out.get("l/en.yml")).isEqualTo(files.get("l/en.yml"));
        assertThat(out.get("l/de.yml"))
                .isEqualTo("de:\n  deck:\n    up: Hoch\n    down: \"Runter\"\n  stop: \"Halt\"\n");
        assertThat(out.get("l/no.yml"))
                .isEqualTo("\"no\":\n  stop: Stopp\n  deck:\n    # Over the door\n    up: \"Opp\"\n");

        add("L", "cy");
        say("deck.up", "cy", "I fyny");
        assertThat(out("L").get("l/cy.yml")).isEqualTo("# Ours\ncy:\n  deck:\n    # Over the door\n    up: 'I fyny'\n");
    }

    @Test
    void propertiesEscapeAsTheirSiblingsDo() throws IOException {
        files.put("text.properties", "# Ours\n\nup=Up\n\n# The door\nshut = Shut\n");
        files.put("text_ja.properties", "up=\\u4e0a\n");
        files.put("text_pt_BR.properties", "up=Acima\n");
        take("Text");
        assertThat(out("Text")).isEqualTo(files);
        add("Text", "zh-Hant");
        say("shut", "zh-Hant", "\u95dc");
        Map<String, String> out = out("Text");
        assertThat(out.keySet()).contains("text_zh_Hant.properties");
        assertThat(out.get("text_zh_Hant.properties")).isEqualTo("# Ours\n\n\n# The door\nshut = \\u95DC\n");
    }

    @Test
    void jsonNestsAndEscapesAndDropsWhatIsMissing() throws IOException {
        files.put(
                "en/app.json",
                "{\n    \"deck\": {\n        \"up\": \"Up\",\n        \"down\": \"Down\"\n    },\n    \"days_one\": \"{{n}} day\",\n    \"days_other\": \"{{n}} days\",\n    \"stop\": \"Stop\"\n}\n");
        files.put("ja/app.json", "{\n    \"days_other\": \"{{n}}\\u65e5\"\n}\n");
        take("App");
        assertThat(out("App")).isEqualTo(files);
        say("deck.up", "ja", "\u4e0a");
        assertThat(out("App").get("ja/app.json"))
                .isEqualTo(
                        "{\n    \"days_other\": \"{{n}}\\u65e5\",\n    \"deck\": {\n      \"up\": \"\\u4e0a\"\n    }\n}\n");
        add("App", "pl");
        say("stop", "pl", "Stop");
        assertThat(out("App").get("pl/app.json")).isEqualTo("{\n    \"stop\": \"Stop\"\n}\n");
    }

    private static final String TEMPLATE =
            """
            # Ours
            #, fuzzy
            msgid ""
            msgstr ""
            "Project-Id-Version: winch 1\\n"
            "PO-Revision-Date: YEAR-MO-DA HO:MI+ZONE\\n"
            "Language: \\n"
            "Content-Type: text/plain; charset=CHARSET\\n"
            "Plural-Forms: nplurals=INTEGER; plural=EXPRESSION;\\n"

            #. Over the door
            #: door.c:4
            msgid "Up"
            msgstr ""

            msgid "%d day"
            msgid_plural "%d days"
            msgstr[0] ""
            msgstr[1] ""
            """;

    private static final String GERMAN =
            """
            msgid ""
            msgstr ""
            "Last-Translator: Ida Brandt <ida@winch.example>\\n"
            "Language: de\\n"
            "Content-Type: text/plain; charset=UTF-8\\n"
            "Plural-Forms: nplurals=2; plural=(n != 1);\\n"

            #: door.c:4
            msgid "Up"
            msgstr "Hoch"

            #, fuzzy
            msgid "%d day"
            msgid_plural "%d days"
            msgstr[0] "%d Tag"
            msgstr[1] "%d Tage"

            #~ msgid "Old"
            #~ msgstr "Alt"
            """;

    @Test
    void aCatalogueIsMadeAfterTheTemplate() throws IOException {
        files.put("po/winch.pot", TEMPLATE);
        files.put("po/de.po", GERMAN);
        take("Winch");
        assertThat(out("Winch")).isEqualTo(files);
        add("Winch", "ja");
        say("Up", "ja", "\u4e0a");
        String made = out("Winch").get("po/ja.po");
        assertThat(made)
                .startsWith("# Ours\nmsgid \"\"")
                .contains(
                        "\"Language: ja\\n\"",
                        "charset=UTF-8",
                        "nplurals=1; plural=0;",
                        "#. Over the door\n#: door.c:4\nmsgid \"Up\"\nmsgstr \"\u4e0a\"")
                .endsWith("msgid_plural \"%d days\"\nmsgstr[0] \"\"\n")
                .doesNotContain("fuzzy");
    }

    @Test
    void aCatalogueIsMadeAfterASiblingWithNothingOfItsTexts() throws IOException {
        files.put("de.po", GERMAN);
        files.put("fi.po", GERMAN.replace(": de", ": fi").replace("Hoch", "Yl\u00f6s"));
        take("Texts");
        add("Texts", "pl");
        say("Up", "pl", "W g\u00f3r\u0119");
        Map<String, String> out = out("Texts");
        assertThat(out.get("de.po")).isEqualTo(GERMAN);
        assertThat(out.get("pl.po"))
                .contains("\"Language: pl\\n\"", "nplurals=3", "msgstr \"W g\u00f3r\u0119\"", "msgstr[2] \"\"")
                .doesNotContain("Ida", "Tag", "fuzzy", "Alt");
    }

    @Test
    void resourcesSpellRegionsAndScriptsAsFoldersDo() throws IOException {
        files.put(
                "res/values/strings.xml",
                "<resources>\n    <!-- The door -->\n    <string name=\"up\">Up</string>\n    <plurals name=\"days\">\n        <item quantity=\"one\">%d day</item>\n        <item quantity=\"other\">%d days</item>\n    </plurals>\n    <string name=\"app\" translatable=\"false\">Winch</string>\n</resources>\n");
        files.put("res/values-de/strings.xml", "<resources>\n    <string name=\"up\">Hoch</string>\n</resources>\n");
        files.put("res/values-pt-rBR/strings.xml", "<resources>\n</resources>\n");
        take("Strings");
        assertThat(out("Strings")).isEqualTo(files);
        say("up", "pt-BR", "Acima");
        add("Strings", "sr-Latn");
        say("up", "sr-Latn", "Gore");
        Map<String, String> out = out("Strings");
        assertThat(out.get("res/values-pt-rBR/strings.xml"))
                .isEqualTo(
                        "<resources>\n    <!-- The door -->\n    <string name=\"up\">Acima</string>\n</resources>\n");
        assertThat(out.get("res/values-b+sr+Latn/strings.xml"))
                .isEqualTo("<resources>\n    <!-- The door -->\n    <string name=\"up\">Gore</string>\n</resources>\n");
    }

    @Test
    void xliffNamesItsLanguage() throws IOException {
        String source =
                """
                <?xml version="1.0" encoding="UTF-8"?>
                <xliff version="1.2" xmlns="urn:oasis:names:tc:xliff:document:1.2">
                  <file source-language="en" target-language="%s" original="app" datatype="plaintext">
                    <body>
                      <trans-unit id="up"><source>Up</source><target state="final">%s</target></trans-unit>
                      <trans-unit id="shut"><source>Shut</source><target state="final">%s</target></trans-unit>
                    </body>
                  </file>
                </xliff>
                """;
        files.put("m.en.xlf", source.formatted("en", "Up", "Shut"));
        files.put("m.de.xlf", source.formatted("de", "Hoch", "Zu"));
        take("M");
        assertThat(out("M")).isEqualTo(files);
        add("M", "fi");
        say("up", "fi", "Yl\u00f6s");
        assertThat(out("M").get("m.fi.xlf"))
                .contains(
                        "target-language=\"fi\"",
                        "<target state=\"final\">Yl\u00f6s</target>",
                        "<target state=\"new\"></target>")
                .doesNotContain("Shut</target>");
    }

    @Test
    void anEmptyFileGetsItsTextsInTheHabitOfTheOthers() throws IOException {
        files.put("l/en.yml", "en:\n  up: Up\n");
        files.put("l/de.yml", "");
        files.put("l/fi.yml", "fi:\n");
        files.put("l/pl.yml", "# Later\n");
        files.put("l/cy.yml", "cy: {}\n");
        take("L");
        assertThat(out("L")).isEqualTo(files);
        for (String tag : List.of("de", "fi", "pl", "cy")) {
            say("up", tag, tag + " up");
        }
        Map<String, String> out = out("L");
        assertThat(out.get("l/de.yml")).isEqualTo("de:\n  up: de up\n");
        assertThat(out.get("l/fi.yml")).isEqualTo("fi:\n  up: \"fi up\"\n");
        assertThat(out.get("l/pl.yml")).isEqualTo("# Later\npl:\n  up: pl up\n");
        assertThat(out.get("l/cy.yml")).isEqualTo("cy:\n  up: \"cy up\"\n");
    }

    @Test
    void aBundleOfCommentsKeepsThemAboveItsFirstText() throws IOException {
        files.put("text.properties", "up=Up\n");
        files.put("text_de.properties", "# Spaeter\n");
        files.put("text_fi.properties", "up=Yl\u00f6s\n");
        take("Text");
        assertThat(out("Text")).isEqualTo(files);
        say("up", "de", "Hoch");
        assertThat(out("Text").get("text_de.properties")).isEqualTo("# Spaeter\nup=Hoch\n");
    }

    @Test
    void theListSaysWhichAreNew() throws Exception {
        files.put("l/en.yml", "en:\n  up: Up\n");
        files.put("l/de.yml", "de:\n  up: Hoch\n");
        take("L");
        add("L", "cy");
        assertThat(http.get(mara, "/api/tables/l/export/set-files").body().toString())
                .isEqualTo(
                        "[{\"path\":\"l/de.yml\",\"language\":\"de\",\"made\":false},{\"path\":\"l/en.yml\",\"language\":\"en\",\"made\":false},{\"path\":\"l/cy.yml\",\"language\":\"cy\",\"made\":true}]");
        assertThat(http.get(mara, "/api/tables/l/export/set").status()).isEqualTo(200);
        ledger.takeIn(mara, "Alone", "key,en\na,A\n", Arrival.SETTLED);
        assertThat(http.get(mara, "/api/tables/alone/export/set").code()).isEqualTo("no-set");
    }

    @Test
    void namesInAnArchiveLeadNowhereElse() {
        assertThat(List.of("../../x", "..\\x", "C:/x", "/x", "a/./b", "a/.../b").stream()
                        .map(ZipNames::safe))
                .containsExactly("-/-/x", "-/x", "C-/x", "x", "a/b", "a/-/b");
    }
}
