package mellow.server.cell;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChanged.Many;
import mellow.server.common.Refusal;
import mellow.server.people.Level;
import mellow.server.support.ServerTest;
import org.assertj.core.api.ThrowableAssert;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Whose texts come into force, and which: the same by whatever way. */
class SettlingTest extends ServerTest {

    private static final String OWN = "own-offer";

    @Autowired
    private CellService cells;

    private long mara;
    private long oskar;
    private long berit;
    private long lina;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        oskar = ledger.person("oskar", "de", Level.REVIEWER);
        berit = ledger.person("berit", "de", Level.REVIEWER);
        lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        ledger.takeIn(
                mara, "Ramp", "key,en,de,limit\nup,Ramp up,,\nleft,%d cars left,,\nshort,Bow,,5\n", Arrival.SETTLED);
    }

    private CellChanged change(long person, String key, CellChange change) {
        return cells.change(person, ledger.entry(key), new LanguageTag("de"), change);
    }

    private long offered(long person, String key, int version, String text) {
        return change(person, key, CellChange.text(Action.PUT_FORWARD, version, text))
                .cell()
                .offers()
                .get(0)
                .id();
    }

    private void refused(String code, ThrowableAssert.ThrowingCallable change) {
        assertThatThrownBy(change).isInstanceOfSatisfying(Refusal.class, refusal -> assertThat(refusal.code())
                .isEqualTo(code));
    }

    private CellChange amend(int version, long offer, String text) {
        return new CellChange(Action.AMEND, version, text, offer, null, false, null);
    }

    private CellChange putBack(int version, long line) {
        return new CellChange(Action.PUT_BACK, version, null, null, null, false, line);
    }

    private long line(String what) {
        return ledger.ask(Long.class, "select max(id) from cell_story where what = '" + what + "'");
    }

    @Test
    void onesOwnOfferIsNotAmendedIntoForce() {
        long own = offered(oskar, "up", 0, "Rampe hoch");
        refused(OWN, () -> change(oskar, "up", amend(1, own, "Rampe hoch")));
        refused(OWN, () -> change(oskar, "up", amend(1, own, "Rampe rauf")));
        change(berit, "up", amend(1, own, "Rampe rauf"));
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe rauf");
    }

    @Test
    void onesOwnTextIsNotPutBackIntoForce() {
        long own = offered(oskar, "up", 0, "Rampe hoch");
        change(berit, "up", CellChange.answer(Action.SETTLE, 1, own, null));
        change(oskar, "up", new CellChange(Action.CLEAR, 2, null, null, null, false, null));
        long line = line("settled");
        refused(OWN, () -> change(oskar, "up", putBack(3, line)));
        change(berit, "up", putBack(3, line));
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe hoch");
    }

    @Test
    void undoBringsBackWhatTwoStoodBehindAndNotWhatOneDid() {
        long own = offered(oskar, "up", 0, "Rampe hoch");
        change(berit, "up", CellChange.answer(Action.SETTLE, 1, own, null));
        CellChanged cleared = change(oskar, "up", new CellChange(Action.CLEAR, 2, null, null, null, false, null));
        assertThat(cells.undo(oskar, cleared.change()).orElseThrow().changed()).isEqualTo(1);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe hoch");

        ledger.allowOwn("Ramp", "de");
        CellChanged alone = change(oskar, "short", CellChange.text(Action.PUT_FORWARD, 0, "Bug"));
        CellChanged gone = change(oskar, "short", new CellChange(Action.CLEAR, 1, null, null, null, false, null));
        ledger.run("update table_language set settles_own = false");
        Many undone = cells.undo(oskar, gone.change()).orElseThrow();
        assertThat(undone.refused()).singleElement().satisfies(one -> assertThat(one.code())
                .isEqualTo(OWN));
        assertThat(ledger.cell("short", "de")).isEqualTo("untranslated");
        assertThat(alone.change()).isPositive();
    }

    @Test
    void undoAsksForTheReviewersLevelAndForTheRightAsTheyAreNow() {
        long offer = offered(lina, "up", 0, "Rampe hoch");
        CellChanged settled = change(oskar, "up", CellChange.answer(Action.SETTLE, 1, offer, null));
        ledger.run("update person_right set level = 'contributor' where person_id = " + oskar);
        assertThat(cells.undo(oskar, settled.change())
                        .orElseThrow()
                        .refused()
                        .get(0)
                        .code())
                .isEqualTo("no-right-to-settle");
        CellChanged pencilled = change(lina, "left", CellChange.text(Action.PENCIL, 0, "Noch %d Autos"));
        ledger.run("update person_right set level = 'reader' where person_id = " + lina);
        assertThat(cells.undo(lina, pencilled.change())
                        .orElseThrow()
                        .refused()
                        .get(0)
                        .code())
                .isEqualTo("no-right-to-offer");
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe hoch");
        assertThat(ledger.cell("left", "de")).isEqualTo("pencilled Noch %d Autos");
    }

    @Test
    void aFileOfAReviewerArrivesAsOffersWhereNobodySettlesTheirOwn() {
        ledger.takeIn(oskar, "Ramp", "key,en,de\nup,Ramp up,Rampe hoch\n", Arrival.SETTLED);
        assertThat(ledger.cell("up", "de")).isEqualTo("offered");
        ledger.allowOwn("Ramp", "de");
        ledger.takeIn(oskar, "Ramp", "key,en,de\nshort,Bow,Bug\n", Arrival.SETTLED);
        assertThat(ledger.cell("short", "de")).isEqualTo("settled Bug");
    }

    @Test
    void whoVouchesForAFileDoesNotSettleTheirOwnByIt() {
        offered(mara, "up", 0, "Rampe hoch");
        change(mara, "short", CellChange.text(Action.PENCIL, 0, "Bug"));
        ledger.takeIn(mara, "Ramp", "key,en,de\nup,Ramp up,Rampe hoch\nshort,Bow,Bug\n", Arrival.SETTLED);
        assertThat(ledger.cell("up", "de")).isEqualTo("offered");
        assertThat(ledger.cell("short", "de")).isEqualTo("pencilled Bug");
    }

    @Test
    void aTextThatLostAPlaceholderComesIntoForceByNoWay() {
        ledger.allowOwn("Ramp", "de");
        refused("blocked", () -> change(oskar, "left", CellChange.text(Action.PUT_FORWARD, 0, "Noch Autos")));
        refused("blocked", () -> change(oskar, "short", CellChange.text(Action.PUT_FORWARD, 0, "Vorschiff")));
        List<ManyChanges.One> both = List.of(
                new ManyChanges.One(ledger.entry("left"), "de", 0, "Noch Autos", null, null),
                new ManyChanges.One(ledger.entry("up"), "de", 0, "Rampe hoch", null, null));
        Many done =
                cells.changeMany(oskar, new ManyChanges(Action.PUT_FORWARD, both, null, false, CellChange.How.PASTED));
        assertThat(done.changed()).isEqualTo(1);
        assertThat(done.refused()).singleElement().satisfies(one -> assertThat(one.code())
                .isEqualTo("blocked"));
    }

    @Test
    void aTooLongTextOfAFileArrivesPencilled() {
        ledger.takeIn(
                mara,
                "Ramp",
                "key,en,de\nup,Ramp up,Rampe hoch\nleft,%d cars left,Autos\nshort,Bow,Vorschiff\n",
                Arrival.SETTLED);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe hoch");
        assertThat(ledger.cell("left", "de")).isEqualTo("pencilled Autos");
        assertThat(ledger.cell("short", "de")).isEqualTo("pencilled Vorschiff");
    }

    @Test
    void aFileDoesNotSettleWhatIsPencilledAndTooLong() {
        change(lina, "short", CellChange.text(Action.PENCIL, 0, "Vorschiff"));
        ledger.takeIn(mara, "Ramp", "key,en,de\nshort,Bow,Vorschiff\n", Arrival.SETTLED);
        assertThat(ledger.cell("short", "de")).isEqualTo("pencilled Vorschiff");
    }

    @Test
    void whatIsPutBackAndDoesNotPassComesBackPencilledAndSaysWhy() {
        long offer = offered(lina, "up", 0, "Rampe hoch");
        change(oskar, "up", CellChange.answer(Action.SETTLE, 1, offer, null));
        CellChanged cleared = change(oskar, "up", new CellChange(Action.CLEAR, 2, null, null, null, false, null));
        ledger.limit("up", 5);
        Many undone = cells.undo(oskar, cleared.change()).orElseThrow();
        assertThat(undone.lowered()).singleElement().satisfies(one -> {
            assertThat(one.key()).isEqualTo("up");
            assertThat(one.sentence()).contains("5 are allowed");
        });
        assertThat(undone.loweredInAll()).isEqualTo(1);
        assertThat(ledger.cell("up", "de")).isEqualTo("pencilled Rampe hoch");
        CellChanged back = change(oskar, "up", putBack(4, line("settled")));
        assertThat(back.lowered()).isNotEmpty();
        assertThat(ledger.cell("up", "de")).isEqualTo("pencilled Rampe hoch");
    }
}
