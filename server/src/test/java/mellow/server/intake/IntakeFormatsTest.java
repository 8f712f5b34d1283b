package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.common.Refusal;
import mellow.server.master.ReadingChoice;
import mellow.server.run.RunService.Progress;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Files of other formats than separated text, in and out again. */
class IntakeFormatsTest extends ServerTest {

    private static final String CATALOGUE =
            """
            msgid ""
            msgstr ""
            "Language: pl\\n"
            "Content-Type: text/plain; charset=UTF-8\\n"
            "Plural-Forms: nplurals=3; plural=(n==1 ? 0 : n%10>=2 && n%10<=4 && (n%100<12 || n%100>14) ? 1 : 2);\\n"

            #. On the car deck
            msgid "Ramp up"
            msgstr "Rampa w górze"

            #, fuzzy
            msgid "Ramp down"
            msgstr "Rampa na dole"

            msgid "%d car"
            msgid_plural "%d cars"
            msgstr[0] "%d samochód"
            msgstr[1] "%d samochody"
            msgstr[2] "%d samochodów"
            """;

    @Autowired
    private IntakeService intakes;

    @Autowired
    private IntakeReplies replies;

    @Autowired
    private Drops drops;

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void someone() {
        mara = ledger.coordinator("mara");
    }

    private long take(String name, String content, String table) {
        return ledger.takeIn(mara, table, name, content.getBytes(StandardCharsets.UTF_8), Arrival.SETTLED);
    }

    private String inPlace(String slug, String file) throws Exception {
        return new String(
                http.get(mara, "/api/tables/" + slug + "/export/in-place?file=" + file)
                        .bytes(),
                StandardCharsets.UTF_8);
    }

    @Test
    void aCatalogueComesInWithItsPluralsStatesAndNotesAndGoesOutTheSame() throws Exception {
        take("deck.pl.po", CATALOGUE, "Deck");
        assertThat(ledger.cell("Ramp up", "pl")).isEqualTo("settled Rampa w górze");
        assertThat(ledger.cell("Ramp down", "pl")).isEqualTo("pencilled Rampa na dole");
        assertThat(ledger.ask(String.class, "select shape || source_forms from entry where key = '%d car'"))
                .isEqualTo("plural{\"one\":\"%d car\",\"other\":\"%d cars\"}");
        assertThat(ledger.ask(String.class, "select forms from cell where forms is not null"))
                .isEqualTo("{\"few\":\"%d samochody\",\"many\":\"%d samochodów\",\"one\":\"%d samochód\"}");
        assertThat(ledger.ask(String.class, "select note from entry where key = 'Ramp up'"))
                .isEqualTo("On the car deck");
        assertThat(inPlace("deck", "deck.pl.po")).isEqualTo(CATALOGUE);

        ledger.allowOwn("Deck", "pl");
        ledger.change(mara, "Ramp down", "pl", CellChange.text(Action.PUT_FORWARD, 1, "Rampa opuszczona"));
        assertThat(inPlace("deck", "deck.pl.po"))
                .isEqualTo(CATALOGUE.replace("#, fuzzy\n", "").replace("Rampa na dole", "Rampa opuszczona"));
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void anUnsureTextForAnOlderSourceIsStale() {
        String renewed = CATALOGUE.replace("#, fuzzy\n", "#, fuzzy\n#| msgid \"Ramp lowered\"\n");
        take("deck.pl.po", CATALOGUE, "Deck");
        take("deck.pl.po", renewed.replace("Rampa na dole", "Rampa opuszczona"), "Deck");
        assertThat(ledger.cell("Ramp down", "pl")).isEqualTo("stale Rampa opuszczona");
        take("hold.pl.po", renewed, "Hold");
        assertThat(
                        ledger.ask(
                                String.class,
                                "select c.state || c.text from cell c join entry e on e.id = c.entry_id join ledger_table t on t.id = e.table_id where t.name = 'Hold' and e.key = 'Ramp down'"))
                .isEqualTo("2Rampa na dole");
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void pluralsLeaveAsRowsAndComeBackAsPlurals() throws Exception {
        take("deck.pl.po", CATALOGUE, "Deck");
        String csv = new String(http.get(mara, "/api/tables/deck/export/fresh").bytes(), StandardCharsets.UTF_8);
        assertThat(csv).contains("%d car[one],", "%d car[many],");
        take("deck.csv", csv.replace("%d samochody", "%d auta"), "Deck");
        assertThat(ledger.ask(String.class, "select forms from offer"))
                .isEqualTo("{\"few\":\"%d auta\",\"many\":\"%d samochodów\",\"one\":\"%d samochód\"}");
        assertThat(ledger.ask(Integer.class, "select count(*)::int from entry")).isEqualTo(3);
        assertThat(inPlace("deck", "deck.csv")).as("what is settled").isEqualTo(csv);
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void aFileOfOneLanguageGoesIntoTheTableOfItsName() throws Exception {
        take("res/app.en.json", "{\"menu\": {\"open\": \"Open\", \"close\": \"Close\"}}", "App");
        long german = intakes.upload(
                mara,
                "res/app.de.json",
                "{\"menu\": {\"open\": \"Öffnen\"}, \"other\": \"Fremd\"}".getBytes(StandardCharsets.UTF_8));
        IntakeReply reply = replies.reply(mara, german);
        assertThat(reply.into().tableSlug()).isEqualTo("app");
        assertThat(reply.reading().held().language()).isEqualTo("de");
        assertThat(reply.reading().held().newLanguages()).containsExactly("de");
        intakes.apply(mara, german, Progress.UNWATCHED);
        assertThat(ledger.cell("menu.open", "de")).isEqualTo("settled Öffnen");
        assertThat(replies.reply(mara, german).done().report().groups())
                .extracting(group -> group.kind().name())
                .containsExactlyInAnyOrder("TEXTS_ADDED", "WITHOUT_SOURCE");
        ledger.allowOwn("App", "de");
        ledger.change(mara, "menu.open", "de", CellChange.text(Action.PUT_FORWARD, 1, "Aufmachen"));
        assertThat(inPlace("app", "res/app.de.json"))
                .isEqualTo("{\"menu\": {\"open\": \"Aufmachen\"}, \"other\": \"Fremd\"}");
    }

    @Test
    void aGuessedLanguageCanBeCorrected() {
        take("app.en.json", "{\"open\": \"Open\"}", "App");
        long wrong = intakes.upload(mara, "app.no.json", "{\"open\": \"Öffnen\"}".getBytes(StandardCharsets.UTF_8));
        IntakeOptions options = replies.reply(mara, wrong).options();
        intakes.decide(
                mara,
                wrong,
                new IntakeOptions(
                        new ReadingChoice(null, null, null, null, null, null, null, "de-AT", null, null),
                        new Destination(options.where().table(), null, null, false, Arrival.SETTLED, null)));
        intakes.apply(mara, wrong, Progress.UNWATCHED);
        assertThat(ledger.cell("open", "de-AT")).isEqualTo("settled Öffnen");
        long again = intakes.upload(mara, "app.no.json", "{\"open\": \"Auf\"}".getBytes(StandardCharsets.UTF_8));
        assertThat(replies.reply(mara, again).reading().held().language())
                .as("a correction is remembered for its path")
                .isEqualTo("de-AT");
    }

    @Test
    void aPlainFileNeverTakesThePlaceOfForms() {
        take("deck.pl.po", CATALOGUE, "Deck");
        long plain = take("deck.csv", "key,en,pl\n%d car,%d cars,samochody %d\n", "Deck");
        assertThat(replies.reply(mara, plain).done().report().groups())
                .extracting(group -> group.kind().name())
                .containsExactly("OTHER_SHAPE");
    }

    @Test
    void aTextThatLostItsPlaceholderIsPencilled() {
        take("ramp.csv", "key,en,de\nlift,Lift {0} m,\n", "Ramp");
        take("ramp.csv", "key,en,de\nlift,Lift {0} m,Heben\n", "Ramp");
        assertThat(ledger.cell("lift", "de")).isEqualTo("pencilled Heben");
    }

    private static byte[] zip(String... namesAndContents) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            for (int i = 0; i < namesAndContents.length; i += 2) {
                zip.putNextEntry(new ZipEntry(namesAndContents[i]));
                zip.write(namesAndContents[i + 1].getBytes(StandardCharsets.UTF_8));
                zip.closeEntry();
            }
        }
        return bytes.toByteArray();
    }

    @Test
    void twentyMixedFilesInOneArchiveOfWhichTwoSayWhyNot() throws IOException {
        String[] files = new String[40];
        for (int i = 0; i < 18; i++) {
            String[] one =
                    switch (i % 6) {
                        case 0 -> new String[] {"csv", "key,en,de\na,A,B\n"};
                        case 1 -> new String[] {"json", "{\"a\": \"A\"}"};
                        case 2 -> new String[] {"properties", "a=A\n"};
                        case 3 -> new String[] {"yml", "a: A\n"};
                        case 4 -> new String[] {"po", CATALOGUE};
                        default -> new String[] {"xml", "<resources><string name=\"a\">A</string></resources>"};
                    };
            files[2 * i] = "product/part" + i + "/texts" + i + "." + one[0];
            files[2 * i + 1] = one[1];
        }
        files[36] = "product/hostile.xml";
        files[37] =
                "<!DOCTYPE resources [<!ENTITY x SYSTEM \"file:///etc/hostname\">]><resources><string name=\"a\">&x;</string></resources>";
        files[38] = "product/logo.bin";
        files[39] = "\u0001\u0002\u0003 nothing that anybody reads";
        long drop = drops.begin(mara);
        drops.add(mara, drop, "product.zip", zip(files));
        drops.sort(mara, drop, Progress.UNWATCHED);
        DropReply reply = drops.reply(mara, drop);
        // What says its languages, or can be nothing but texts; a single file of keys may be anything.
        assertThat(reply.intakes()).hasSize(9);
        assertThat(reply.refused()).hasSize(11);
        assertThat(reply.refused().stream().filter(DropReply.NotTaken::readable))
                .hasSize(9);
        assertThat(reply.refused().get(0).file()).isEqualTo("product/hostile.xml");
        assertThat(reply.refused().get(0).why()).contains("hostile.xml").contains("expected");
        assertThat(reply.refused().get(1).why()).contains("no known format");
        for (IntakeReply.Listed one : reply.intakes()) {
            assertThat(replies.reply(mara, one.about().id()).reading().trouble().blocked())
                    .as(one.about().fileName())
                    .isNull();
        }
    }

    @Test
    void anArchiveThatReachesOutOfItselfLeavesNothing() throws IOException {
        byte[] archive = zip("good.csv", "key,en\na,A\n", "../../evil.csv", "key,en\na,A\n");
        long drop = drops.begin(mara);
        assertThatThrownBy(() -> drops.add(mara, drop, "evil.zip", archive))
                .hasMessageContaining("names inside the archive");
        assertThat(ledger.ask(Integer.class, "select count(*) from dropped_file"))
                .isZero();
    }

    @Test
    void aNewTableNeedsItsSourceTexts() {
        long german = intakes.upload(mara, "fresh.csv", "key,de,fi\na,A,B\n".getBytes(StandardCharsets.UTF_8));
        IntakeOptions options = replies.reply(mara, german).options();
        intakes.decide(
                mara,
                german,
                new IntakeOptions(
                        ReadingChoice.UNDECIDED,
                        new Destination(null, options.where().newTable(), "en", false, Arrival.SETTLED, null)));
        assertThatThrownBy(() -> intakes.apply(mara, german, Progress.UNWATCHED))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("The file has no texts in en");
    }

    @Test
    void everyFormatGoesOutFreshAndComesInTheSame() throws Exception {
        take("deck.pl.po", CATALOGUE, "Deck");
        for (String format : List.of("po", "xliff-1.2", "xliff-2", "ledger-json", "android", "json", "yaml")) {
            byte[] file = http.get(mara, "/api/tables/deck/export/fresh?in=pl&format=" + format)
                    .bytes();
            assertThat(file).as(format).isNotEmpty();
            long back = intakes.upload(mara, "back-" + format, file);
            intakes.decide(
                    mara,
                    back,
                    new IntakeOptions(
                            new ReadingChoice(format, null, null, null, null, null, null, "pl", null, null),
                            new Destination("deck", null, null, false, Arrival.SETTLED, null)));
            intakes.apply(mara, back, Progress.UNWATCHED);
            // The formats of one language know no source, nor all of them a state; none of them changes a text.
            assertThat(replies.reply(mara, back).done().report().groups())
                    .as(format)
                    .allSatisfy(group -> assertThat(group.kind().name())
                            .isIn("HIGHER_STANDING", "DESCRIPTIONS", "OTHER_SHAPE", "WITHOUT_SOURCE"));
        }
    }

    @Test
    void severalLanguagesOfAFormatWithOneComeAsAnArchiveNamedByThePattern() throws Exception {
        take("ramp.csv", "key,en,de,fi\nup,Ramp up,Rampe oben,\n", "Ramp");
        Http.Reply reply = http.get(
                mara,
                "/api/tables/ramp/export/fresh?format=json&untranslated=source&pattern=%7Blanguage%7D/%7Btable%7D.%7Bext%7D");
        ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(reply.bytes()));
        assertThat(zip.getNextEntry().getName()).isEqualTo("de/ramp.json");
        assertThat(new String(zip.readAllBytes(), StandardCharsets.UTF_8)).contains("Rampe oben");
        assertThat(zip.getNextEntry().getName()).isEqualTo("fi/ramp.json");
        assertThat(new String(zip.readAllBytes(), StandardCharsets.UTF_8)).contains("Ramp up");
        assertThat(zip.getNextEntry()).isNull();
        String only = new String(
                http.get(mara, "/api/tables/ramp/export/fresh?only=untranslated&in=de")
                        .bytes(),
                StandardCharsets.UTF_8);
        assertThat(only).doesNotContain("Ramp up");
    }

    @Test
    void theSheetsOfAWorkbookCanBeCorrected() throws Exception {
        take("ramp.csv", "key,en,de\nup,Ramp up,Rampe oben\n", "Ramp");
        byte[] workbook =
                http.get(mara, "/api/tables/ramp/export/fresh?format=xlsx").bytes();
        long id = intakes.upload(mara, "copy.xlsx", workbook);
        IntakeReply reply = replies.reply(mara, id);
        assertThat(reply.reading().shown().sheets()).hasSize(1);
        IntakeReply.SheetReply sheet = reply.reading().shown().sheets().get(0);
        assertThat(sheet.taken()).isTrue();
        assertThat(sheet.rows().get(1)).containsExactly("up", "Ramp up", "Rampe oben");

        List<ReadingChoice.ColumnChoice> columns = sheet.columns().stream()
                .map(column -> "de".equals(column.language())
                        ? new ReadingChoice.ColumnChoice(column.heading(), column.role(), "de-CH")
                        : column)
                .toList();
        intakes.decide(mara, id, sheets(reply, new ReadingChoice.SheetChoice(sheet.name(), 0, columns)));
        assertThat(replies.reply(mara, id).reading().held().languages()).containsExactly("en", "de-CH");

        intakes.decide(mara, id, sheets(reply, new ReadingChoice.SheetChoice(sheet.name(), -1, List.of())));
        IntakeReply leftOut = replies.reply(mara, id);
        assertThat(leftOut.reading().trouble().blocked()).contains("all sheets are empty");
        assertThat(leftOut.reading().shown().sheets().get(0).taken()).isFalse();

        intakes.decide(mara, id, sheets(reply, new ReadingChoice.SheetChoice(sheet.name(), 0, List.of())));
        intakes.apply(mara, id, Progress.UNWATCHED);
        assertThat(replies.reply(mara, intakes.upload(mara, "copy.xlsx", workbook))
                        .into()
                        .tableSlug())
                .isEqualTo("copy");
    }

    private static IntakeOptions sheets(IntakeReply reply, ReadingChoice.SheetChoice sheet) {
        return new IntakeOptions(
                new ReadingChoice(null, null, null, null, null, null, List.of(sheet), null, null, null),
                new Destination(null, reply.options().where().newTable(), "en", false, Arrival.SETTLED, null));
    }
}
