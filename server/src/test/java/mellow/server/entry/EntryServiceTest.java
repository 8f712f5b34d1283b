package mellow.server.entry;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import javax.imageio.ImageIO;
import mellow.core.merge.Arrival;
import mellow.core.text.Shape;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryService.Changed;
import mellow.server.people.Level;
import mellow.server.support.AssetsMade;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;
import org.springframework.test.web.servlet.request.MockMvcRequestBuilders;

class EntryServiceTest extends ServerTest {

    @Autowired
    private EntryService entries;

    @Autowired
    private EntryUndo undoing;

    @Autowired
    private EntryReader reader;

    @Autowired
    private Http http;

    private long mara;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Ramp",
                "key,section,en,de,fi\nup,Bow,Ramp up,Rampe oben,Ylös\ndown,Bow,Ramp down,Rampe unten,\nmid,Stern,Half way,,\n",
                Arrival.SETTLED);
    }

    private static Description said(String key) {
        return new Description(key, "", "", "", "", 0, 0, 0, List.of(), true);
    }

    private static TreeMap<String, String> plain(String text) {
        return new TreeMap<>(Map.of("other", text));
    }

    private int version(String key) {
        return reader.entry(ledger.entry(key)).version();
    }

    private String keys(String table) {
        return ledger.ask(
                String.class,
                "select string_agg(key, ' ' order by position) from entry where removed_at is null and table_id = "
                        + ledger.table(table));
    }

    private String refusal(Runnable change) {
        Refusal[] refused = new Refusal[1];
        assertThatThrownBy(change::run).isInstanceOfSatisfying(Refusal.class, refusal -> refused[0] = refusal);
        return refused[0].code();
    }

    @Test
    void aRewrittenSourceMakesExactlyTheOlderTextsStale() {
        long up = ledger.entry("up");
        assertThat(entries.goingStale(up)).containsExactly("de", "fi");
        entries.rewrite(mara, up, version("up"), plain("Ramp raised"), true);
        assertThat(ledger.cell("up", "de")).isEqualTo("stale Rampe oben");
        assertThat(ledger.cell("up", "fi")).isEqualTo("stale Ylös");
        assertThat(ledger.cell("down", "de")).isEqualTo("settled Rampe unten");
        assertThat(entries.goingStale(up)).isEmpty();
        entries.rewrite(mara, up, version("up"), plain("Ramp raised."), false);
        assertThat(ledger.cell("up", "de")).isEqualTo("stale Rampe oben");
        ledger.change(mara, "up", "de", new CellChange(Action.STILL_HOLDS, 1, null, null, null, false, null));
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
        assertThat(ledger.cell("up", "fi")).isEqualTo("stale Ylös");
    }

    @Test
    void aSmallFixMakesNothingStale() {
        entries.rewrite(mara, ledger.entry("up"), version("up"), plain("Ramp up!"), false);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
    }

    @Test
    void undoOfARewritePutsSourceAndStatesBack() {
        Changed rewritten = entries.rewrite(mara, ledger.entry("up"), version("up"), plain("Ramp raised"), true);
        Changed undone = undoing.undo(mara, rewritten.change()).orElseThrow();
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
        assertThat(ledger.ask(String.class, "select source from entry where key = 'up'"))
                .isEqualTo("Ramp up");
        undoing.undo(mara, undone.change());
        assertThat(ledger.cell("up", "de")).isEqualTo("stale Rampe oben");
        assertThat(ledger.ask(String.class, "select source from entry where key = 'up'"))
                .isEqualTo("Ramp raised");
    }

    @Test
    void undoOfARewriteIsRefusedWhenTextsWereMadeForIt() {
        Changed rewritten = entries.rewrite(mara, ledger.entry("up"), version("up"), plain("Ramp raised"), true);
        ledger.allowOwn("Ramp", "de");
        ledger.change(mara, "up", "de", CellChange.text(Action.PUT_FORWARD, 1, "Rampe gehoben"));
        assertThat(refusal(() -> undoing.undo(mara, rewritten.change()))).isEqualTo("changed-since");
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe gehoben");
    }

    @Test
    void nobodyElseCanUndoIt() {
        Changed rewritten = entries.rewrite(mara, ledger.entry("up"), version("up"), plain("Ramp raised"), true);
        assertThat(undoing.undo(ledger.coordinator("milo"), rewritten.change())).isEmpty();
    }

    @Test
    void theSecondOfTwoWhoDescribeIsTold() {
        int seen = version("up");
        entries.describe(mara, ledger.entry("up"), seen, said("up.renamed"));
        assertThat(refusal(() -> entries.describe(mara, ledger.entry("up.renamed"), seen, said("other"))))
                .isEqualTo("entry-moved-on");
        assertThat(ledger.cell("up.renamed", "de")).as("texts move along").isEqualTo("settled Rampe oben");
        assertThat(reader.story(ledger.entry("up.renamed")))
                .extracting(EntryStory.EntryLine::what)
                .containsExactly("renamed", "added");
    }

    @Test
    void aKeyIsThereOnce() {
        assertThat(refusal(() -> entries.describe(mara, ledger.entry("up"), version("up"), said("down"))))
                .isEqualTo("key-taken");
        assertThat(refusal(() -> entries.create(mara, "ramp", Shape.PLAIN, said("up"), plain("x"), null)))
                .isEqualTo("key-taken");
        entries.remove(mara, List.of(ledger.entry("up")));
        long newer = entries.create(mara, "ramp", Shape.PLAIN, said("up"), plain("x"), null)
                .entries()
                .get(0);
        long older = ledger.ask(Long.class, "select id from entry where removed_at is not null");
        assertThat(refusal(() -> entries.putBack(mara, List.of(older)))).isEqualTo("key-taken");
        assertThat(ledger.entry("up")).isEqualTo(newer);
    }

    @Test
    void entriesGoWhereTheyArePutAndKeepTheirTexts() {
        entries.move(mara, List.of(ledger.entry("up")), "ramp", ledger.entry("down"), false);
        assertThat(keys("Ramp")).isEqualTo("down up mid");
        for (int i = 0; i < 60; i++) {
            entries.create(mara, "ramp", Shape.PLAIN, said("new." + i), plain("x"), ledger.entry("down"));
        }
        assertThat(keys("Ramp"))
                .as("there is always room")
                .startsWith("down new.59 new.58")
                .endsWith("new.0 up mid");
        assertThat(ledger.cell("up", "fi")).isEqualTo("settled Ylös");
    }

    @Test
    void anotherTableHasToKeepTheLanguagesOrGetThem() {
        ledger.takeIn(mara, "Alarms", "key,en,de\nfire,Fire,Feuer\n", Arrival.SETTLED);
        long up = ledger.entry("up");
        assertThat(refusal(() -> entries.move(mara, List.of(up), "alarms", null, false)))
                .isEqualTo("languages-missing");
        Changed moved = entries.move(mara, List.of(up), "alarms", null, true);
        assertThat(keys("Alarms")).isEqualTo("fire up");
        assertThat(keys("Ramp")).isEqualTo("down mid");
        assertThat(ledger.cell("up", "fi")).isEqualTo("settled Ylös");
        assertThat(ledger.differences()).isZero();
        undoing.undo(mara, moved.change());
        assertThat(keys("Ramp")).isEqualTo("up down mid");
    }

    @Test
    void twoEntriesOfOneKeyCannotMeet() {
        ledger.takeIn(mara, "Alarms", "key,en,de,fi\nup,Fire,,\n", Arrival.SETTLED);
        long here = ledger.ask(Long.class, "select id from entry where key = 'up' and source = 'Ramp up'");
        assertThat(refusal(() -> entries.move(mara, List.of(here), "alarms", null, false)))
                .isEqualTo("key-taken");
    }

    @Test
    void removedEntriesCountNoMoreAndComeBackWhole() {
        List<Long> both = List.of(ledger.entry("up"), ledger.entry("down"));
        Changed removed = entries.remove(mara, both);
        assertThat(ledger.ask(Integer.class, "select entries from ledger_table"))
                .isEqualTo(1);
        assertThat(ledger.differences()).isZero();
        assertThat(reader.removed("ramp")).hasSize(2);
        assertThat(refusal(() -> ledger.change(mara, "mid", "ja", CellChange.text(Action.PENCIL, 0, "x"))))
                .isEqualTo("language-not-kept");
        undoing.undo(mara, removed.change());
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
        assertThat(ledger.ask(Integer.class, "select entries from ledger_table"))
                .isEqualTo(3);
    }

    @Test
    void whatIsNotForTranslationIsNoWork() {
        entries.describeMany(mara, List.of(ledger.entry("up")), null, null, false);
        assertThat(ledger.ask(Integer.class, "select entries from ledger_table"))
                .isEqualTo(2);
        assertThat(ledger.differences()).isZero();
        assertThat(refusal(() -> ledger.change(mara, "up", "de", CellChange.text(Action.PUT_FORWARD, 1, "x"))))
                .isEqualTo("not-for-translation");
    }

    @Test
    void shapesHaveTheFormsOfTheirLanguage() {
        long tickets = entries.create(
                        mara,
                        "ramp",
                        Shape.PLURAL,
                        said("tickets"),
                        new TreeMap<>(Map.of("one", "{n} ticket", "other", "{n} tickets")),
                        null)
                .entries()
                .get(0);
        assertThat(tickets).isEqualTo(ledger.entry("tickets"));
        assertThat(refusal(() -> ledger.change(
                        mara,
                        "tickets",
                        "de",
                        CellChange.forms(Action.PUT_FORWARD, 0, new TreeMap<>(Map.of("few", "x"))))))
                .isEqualTo("wrong-forms");
        var offered = ledger.change(
                mara,
                "tickets",
                "de",
                CellChange.forms(
                        Action.PUT_FORWARD, 0, new TreeMap<>(Map.of("one", "{n} Karte", "other", "{n} Karten"))));
        long oskar = ledger.person("oskar", "de", Level.REVIEWER);
        var settled = ledger.change(
                oskar,
                "tickets",
                "de",
                CellChange.answer(Action.SETTLE, 1, offered.offers().get(0).id(), null));
        assertThat(settled.forms()).containsEntry("one", "{n} Karte").containsEntry("other", "{n} Karten");
        assertThat(refusal(() -> entries.create(mara, "ramp", Shape.PLAIN, said("none"), plain(""), null)))
                .isEqualTo("no-source");
    }

    @Test
    void anAssetIsAFilePerLanguage() throws Exception {
        Http.Reply stored = http.bytes(mara, "/api/assets?name=..%2Fharbour.svg", AssetsMade.svg(4, 2, "<g/>"));
        assertThat(stored.status()).isEqualTo(201);
        assertThat(stored.body().path("name").asString()).isEqualTo("harbour.svg");
        String file = stored.body().path("file").asString();
        entries.create(
                mara,
                "ramp",
                Shape.ASSET,
                said("map"),
                new TreeMap<>(Map.of("other", "harbour-en.svg", "file", file)),
                null);
        var offered = ledger.change(
                mara,
                "map",
                "de",
                CellChange.forms(Action.PUT_FORWARD, 0, new TreeMap<>(Map.of("other", "harbour.svg", "file", file))));
        assertThat(offered.offers().get(0).forms()).containsEntry("file", file);
        Http.Reply loaded = http.get(mara, "/api/assets/" + file);
        assertThat(loaded.bytes()).isEqualTo(AssetsMade.svg(4, 2, "<g/>"));
        long taken = ledger.ask(Long.class, "select min(id) from stored_file");
        assertThat(http.get(mara, "/api/assets/" + taken).status()).isEqualTo(404);
    }

    @Test
    void aPlainFileLeavesEntriesOfOtherShapesAlone() {
        entries.create(
                mara,
                "ramp",
                Shape.PLURAL,
                said("tickets"),
                new TreeMap<>(Map.of("one", "ticket", "other", "tickets")),
                null);
        ledger.allowOwn("Ramp", "de");
        ledger.change(
                mara,
                "tickets",
                "de",
                CellChange.forms(Action.PUT_FORWARD, 0, new TreeMap<>(Map.of("one", "Karte", "other", "Karten"))));
        ledger.takeIn(mara, "Ramp", "key,en,de\ntickets,bills,Scheine\nmid,Half way,Halb\n", Arrival.SETTLED);
        assertThat(ledger.ask(String.class, "select forms from cell where text = 'Karten'"))
                .isEqualTo("{\"one\":\"Karte\",\"other\":\"Karten\"}");
        assertThat(ledger.ask(String.class, "select source from entry where key = 'tickets'"))
                .isEqualTo("tickets");
        assertThat(ledger.cell("mid", "de")).isEqualTo("settled Halb");
    }

    @Test
    void aPictureIsOneByItsContent() throws Exception {
        long up = ledger.entry("up");
        byte[] png = new ByteArrayOutputStream() {
            byte[] drawn() throws IOException {
                ImageIO.write(new BufferedImage(8, 4, BufferedImage.TYPE_INT_RGB), "png", this);
                return toByteArray();
            }
        }.drawn();
        String path = "/api/entries/" + up + "/picture";
        assertThat(http.json(mara, HttpMethod.PUT, path, "<svg onload='x'/>").code())
                .isEqualTo("not-a-picture");
        assertThat(http.send(
                                mara,
                                MockMvcRequestBuilders.request(HttpMethod.PUT, path)
                                        .content(Arrays.copyOf(png, 40)))
                        .code())
                .isEqualTo("broken-picture");
        assertThat(http.send(
                                mara,
                                MockMvcRequestBuilders.request(HttpMethod.PUT, path)
                                        .content(png))
                        .status())
                .isEqualTo(200);
        long picture = reader.entry(up).picture();
        assertThat(http.get(mara, "/api/pictures/" + picture).bytes()).isEqualTo(png);
        long intakeFile = ledger.ask(Long.class, "select min(id) from stored_file");
        assertThat(http.get(mara, "/api/pictures/" + intakeFile).status())
                .as("other files are no pictures")
                .isEqualTo(404);
    }
}
