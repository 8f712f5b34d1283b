package mellow.server.cell;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChanged.Many;
import mellow.server.people.Level;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.HttpMethod;

class UndoTest extends ServerTest {

    @Autowired
    private CellService cells;

    @Autowired
    private Http http;

    private long mara;
    private long oskar;
    private long lina;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        ledger.takeIn(mara, "Ramp", "key,en,de\nup,Ramp up,Rampe oben\ndown,Ramp down,\n", Arrival.SETTLED);
    }

    private CellChanged change(long person, String key, CellChange change) {
        return cells.change(person, ledger.entry(key), new LanguageTag("de"), change);
    }

    private Many undo(long person, long change) {
        return cells.undo(person, change).orElseThrow();
    }

    @Test
    void anOfferGoesAndComesBack() {
        CellChanged offered = change(lina, "down", CellChange.text(Action.PUT_FORWARD, 0, "Rampe unten"));
        Many undone = undo(lina, offered.change());
        assertThat(ledger.cell("down", "de")).isEqualTo("untranslated");
        undo(lina, undone.change());
        assertThat(ledger.cell("down", "de")).isEqualTo("offered");
        assertThat(ledger.ask(String.class, "select text from offer where answer = 0"))
                .isEqualTo("Rampe unten");
    }

    @Test
    void amongManyATextBesideASettledOneIsOfferedAndAllOfItIsOneUndo() {
        List<ManyChanges.One> both = List.of(
                new ManyChanges.One(ledger.entry("up"), "de", 1, "Klappe oben", null, null),
                new ManyChanges.One(ledger.entry("down"), "de", 0, "Klappe unten", null, null));
        Many done = cells.changeMany(oskar, new ManyChanges(Action.PENCIL, both, null, false, CellChange.How.PASTED));
        assertThat(done.changed()).isEqualTo(2);
        assertThat(ledger.cell("up", "de"))
                .as("the settled text stays in force")
                .isEqualTo("offered Rampe oben");
        assertThat(ledger.cell("down", "de")).isEqualTo("pencilled Klappe unten");
        undo(oskar, done.change());
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
        assertThat(ledger.cell("down", "de")).isEqualTo("untranslated");
    }

    @Test
    void aSettlingIsTakenBackWithItsOffer() {
        CellChanged offered = change(lina, "up", CellChange.text(Action.PUT_FORWARD, 1, "Rampe gehoben"));
        long offer = offered.cell().offers().get(0).id();
        CellChanged settled = change(oskar, "up", CellChange.answer(Action.SETTLE, 2, offer, null));
        undo(oskar, settled.change());
        assertThat(ledger.cell("up", "de")).isEqualTo("offered Rampe oben");
        change(oskar, "up", CellChange.answer(Action.SETTLE, 4, offer, null));
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe gehoben");
    }

    @Test
    void whatSomeoneChangedSinceStays() throws Exception {
        CellChanged pencilled = change(lina, "down", CellChange.text(Action.PENCIL, 0, "Unten"));
        change(oskar, "down", CellChange.text(Action.PENCIL, 1, "Ganz unten"));
        Http.Reply reply = http.json(lina, HttpMethod.POST, "/api/changes/" + pencilled.change() + "/undo", "{}");
        assertThat(reply.code()).isEqualTo("changed-since");
        assertThat(reply.sentence()).contains("down, de");
        assertThat(ledger.cell("down", "de")).isEqualTo("pencilled Ganz unten");
    }

    @Test
    void onlyOnesOwnChangesAreTakenBack() throws Exception {
        CellChanged pencilled = change(lina, "down", CellChange.text(Action.PENCIL, 0, "Unten"));
        assertThat(http.json(mara, HttpMethod.POST, "/api/changes/" + pencilled.change() + "/undo", "{}")
                        .code())
                .isEqualTo("nothing-to-undo");
    }

    @Test
    void aBulkChangeIsOneAndItsUndoToo() {
        String rows = IntStream.range(0, 1200)
                .mapToObj(i -> "k" + i + ",Source " + i + ",Text " + i)
                .collect(Collectors.joining("\n"));
        ledger.takeIn(mara, "Bulk", "key,en,de\n" + rows + "\n", Arrival.SETTLED);
        ledger.takeIn(mara, "Bulk", "key,en\n" + rows.replaceAll(",Text \\d+", " anew") + "\n", Arrival.SETTLED);
        List<ManyChanges.One> all = ledger.entries("Bulk").stream()
                .map(entry -> new ManyChanges.One(entry, "de", null, null, null, null))
                .toList();
        Many held = cells.changeMany(oskar, new ManyChanges(Action.STILL_HOLDS, all, null, false, null));
        assertThat(held.changed()).isEqualTo(1200);
        assertThat(ledger.ask(Integer.class, "select count(*) from cell where state = 2"))
                .isZero();
        Many again = cells.changeMany(oskar, new ManyChanges(Action.STILL_HOLDS, all, null, false, null));
        assertThat(again.changed()).isZero();
        assertThat(again.refusedInAll()).isEqualTo(1200);
        assertThat(again.refused()).hasSize(200).allSatisfy(one -> assertThat(one.code())
                .isEqualTo("not-stale"));
        Many undone = undo(oskar, held.change());
        assertThat(undone.changed()).isEqualTo(1200);
        assertThat(ledger.ask(Integer.class, "select count(*) from cell where state = 2"))
                .isEqualTo(1200);
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void manyTextsAtOnceNeedTheVersionsThatWereSeen() throws Exception {
        long down = ledger.entry("down");
        String body =
                "{\"action\":\"PENCIL\",\"meaningConfirmed\":false,\"how\":\"PASTED\",\"cells\":[{\"entry\":" + down
                        + ",\"language\":\"de\",%s\"text\":\"Unten\"},{\"entry\":" + ledger.entry("up")
                        + ",\"language\":\"de\",%s\"text\":\"Oben\"}]}";
        assertThat(http.json(lina, HttpMethod.POST, "/api/cells/changes", body.replace("%s", ""))
                        .code())
                .isEqualTo("version-missing");
        Http.Reply reply = http.json(lina, HttpMethod.POST, "/api/cells/changes", body.replace("%s", "\"version\":0,"));
        assertThat(reply.body().path("changed").asInt()).isEqualTo(1);
        assertThat(reply.body().path("refused").get(0).path("code").asString()).isEqualTo("cell-moved-on");
        assertThat(ledger.cell("down", "de")).isEqualTo("pencilled Unten");
        assertThat(ledger.ask(String.class, "select origin from cell where entry_id = " + down))
                .isEqualTo("pasted");
    }

    @Test
    void refusedCellsLeaveNoTrace() {
        Many none = cells.changeMany(
                lina,
                new ManyChanges(
                        Action.CLEAR,
                        List.of(new ManyChanges.One(ledger.entry("down"), "de", 0, null, null, null)),
                        null,
                        false,
                        null));
        assertThat(none.changed()).isZero();
        assertThat(ledger.ask(Integer.class, "select count(*) from cell where entry_id = " + ledger.entry("down")))
                .isZero();
    }

    @Test
    void whoLostTheRightSinceTakesNothingBack() {
        CellChanged offered = change(lina, "down", CellChange.text(Action.PUT_FORWARD, 0, "Rampe unten"));
        ledger.run("update person_right set level = 'reader' where person_id = " + lina);
        Many undone = undo(lina, offered.change());
        assertThat(undone.changed()).isZero();
        assertThat(undone.refused()).extracting(CellChanged.RefusedCell::code).containsExactly("no-right-to-offer");
        assertThat(ledger.cell("down", "de")).isEqualTo("offered");
    }

    @Test
    void whatBringsASettledTextBackNeedsAReviewer() {
        CellChanged offered = change(lina, "up", CellChange.text(Action.PUT_FORWARD, 1, "Rampe gehoben"));
        long offer = offered.cell().offers().get(0).id();
        CellChanged settled = change(oskar, "up", CellChange.answer(Action.SETTLE, 2, offer, null));
        ledger.run("update person_right set level = 'contributor' where person_id = " + oskar);
        Many undone = undo(oskar, settled.change());
        assertThat(undone.refused()).extracting(CellChanged.RefusedCell::code).containsExactly("no-right-to-settle");
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe gehoben");
    }

    @Test
    void oneTextThatIsForTheSourceAsItReadsNowNeedsNoWord() {
        assertThat(cells.changeMany(
                                oskar,
                                new ManyChanges(
                                        Action.STILL_HOLDS,
                                        List.of(new ManyChanges.One(ledger.entry("up"), "de", 1, null, null, null)),
                                        null,
                                        false,
                                        null))
                        .refused())
                .extracting(CellChanged.RefusedCell::code)
                .containsExactly("not-stale");
    }
}
