package mellow.server.draft;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicInteger;
import mellow.core.merge.Arrival;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChange.How;
import mellow.server.cell.CellChanged.Many;
import mellow.server.cell.ManyChanges;
import mellow.server.common.Refusal;
import mellow.server.draft.DraftServices.DraftSettings;
import mellow.server.fill.FillService.Fill;
import mellow.server.fill.Filling.FillReply;
import mellow.server.people.Level;
import mellow.server.support.Receiver;
import mellow.server.table.TableInfo.Kept;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

/** What services drafted becomes texts of cells: as one change, never over a text of a person, and moved on by people. */
class DraftFillTest extends DraftCase {

    @Test
    void whatTheMemoryLacksIsDraftedAndTakenBackAsOne() {
        long service = service();
        Fill found = fill.find("table=deck&in=de", GERMAN, 100, 0, service);
        assertThat(found.plan())
                .as("texts, characters with marks, what is left of the day, withheld, unfit")
                .isEqualTo(new Drafting.DraftPlan(2, 18 + 11, 1_000_000, 0, 2));
        assertThat(Receiver.heard()).as("looking asks nobody").isEmpty();
        FillReply done = run(order(found, service));
        assertThat(done)
                .extracting(FillReply::status, FillReply::known, FillReply::drafted, FillReply::refused)
                .containsExactly("done", 1, 2, 2);
        assertThat(text("known")).isEqualTo("Rampe oben memory");
        assertThat(text("closed")).isEqualTo("de:Deck {0} is closed draft");
        assertThat(text("wait")).isEqualTo("de:Please wait draft");
        assertThat(text("written")).isEqualTo("Halt file");
        assertThat(failures(done))
                .containsOnly(
                        Map.entry("branches", "A message with branches is not drafted."),
                        Map.entry("sign", "There is no word in it."));
        assertThat(services.all(mara).services().get(0).today()).isEqualTo(29);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from draft")).isEqualTo(2);
        assertThat(cells.undo(mara, done.change()).orElseThrow().changed()).isEqualTo(3);
        assertThat(text("known") + text("closed") + text("wait")).isEmpty();
    }

    @Test
    void whatSomebodyWritesMeanwhileStays() {
        long service = service();
        Drafter.drafts(text -> {
            if (text.equals("Please wait")) {
                cells.change(mara, ledger.entry("wait"), GERMAN, CellChange.text(Action.PENCIL, 0, "Warte"));
            }
            return "de:" + text;
        });
        FillReply done = fill(service);
        assertThat(text("wait")).isEqualTo("Warte typed");
        assertThat(done.drafted()).isEqualTo(1);
        assertThat(failures(done)).containsKey("wait");
    }

    @Test
    void afterAPowerCutNothingIsAskedTwice() {
        long service = service();
        Fill found = fill.find("table=deck&in=de", GERMAN, 100, 0, service);
        long change = cells.newChange();
        ledger.run("insert into filling (change_id, person_id, language_id, scope, service_id, begun_at) values ("
                + change + ", " + mara + ", (select id from language where tag = 'de'), '', " + service + ", now())");
        ledger.run("insert into filling_draft (change_id, entry_id, text) select " + change
                + ", id, 'Kept draft' from entry where key = 'wait'");
        runs.start("filling", change, mara, JsonMapper.shared().writeValueAsString(order(found, service)));
        runs.await("filling", change, LONG);
        assertThat(text("wait")).isEqualTo("Kept draft draft");
        assertThat(Receiver.heard())
                .singleElement()
                .satisfies(word -> assertThat(word.body()).contains("Deck").doesNotContain("Please wait"));
        assertThat(filling.state(mara, change).drafted()).isEqualTo(2);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from filling_draft"))
                .isZero();
    }

    @Test
    void whoStopsAFillHasWhatCameUntilThen() {
        ledger.takeIn(
                mara,
                "Deck",
                "key,en,de\nm1,More one,\nm2,More two,\nm3,More three,\nm4,More four,\nm5,More five,\n",
                Arrival.PENCILLED);
        DraftSettings usual = Drafter.settings("One by one");
        long service = services.add(
                mara,
                new DraftSettings(usual.name(), usual.address(), List.of(), List.of(), 1_000, 1_000, 1, 1, 5),
                null);
        AtomicInteger asked = new AtomicInteger();
        Drafter.drafts(text -> {
            if (asked.incrementAndGet() == 1) {
                filling.stop(mara, ledger.ask(Long.class, "select max(change_id) from filling"));
            } else {
                // Longer than a run looks away from being stopped.
                await(400);
            }
            return "de:" + text;
        });
        FillReply done = fill(service);
        assertThat(done.status()).isEqualTo("done");
        assertThat(done.drafted()).isBetween(1, 3);
        assertThat(failures(done)).containsValue("It was stopped before this one.");
        assertThat(asked.get()).isLessThan(6);
    }

    @Test
    void oneCellIsDraftedWithOneKeyAndNeverOverAText() {
        service();
        long wait = ledger.entry("wait");
        assertThat(filling.one(mara, wait, GERMAN, 0, null).cell().text()).isEqualTo("de:Please wait");
        assertThat(text("wait")).isEqualTo("de:Please wait draft");
        assertThatThrownBy(() -> filling.one(mara, wait, GERMAN, 1, null))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("untranslated");
        assertThat(ledger.ask(Integer.class, "select count(*)::int from draft")).isEqualTo(1);
        Drafter.drafts(text -> "nothing of it");
        assertThatThrownBy(() -> filling.one(mara, ledger.entry("closed"), GERMAN, 0, null))
                .hasMessage("No draft: The mark ⟦1⟧ got lost.");
    }

    @Test
    void aCellThatMovedOnSinceItWasSeenIsNotDraftedThoughItIsEmptyAgain() {
        service();
        long wait = ledger.entry("wait");
        int version = cells.change(mara, wait, GERMAN, CellChange.text(Action.PENCIL, 0, "Warte"))
                .cell()
                .version();
        cells.change(mara, wait, GERMAN, CellChange.text(Action.CLEAR, version, null));
        assertThatThrownBy(() -> filling.one(mara, wait, GERMAN, 0, null)).isInstanceOf(Refusal.class);
        assertThat(Receiver.heard()).isEmpty();
    }

    @Test
    void aDraftThatIsSettledAsItIsStaysOneAndAChangedOneDoesNot() {
        service();
        long wait = ledger.entry("wait");
        filling.one(mara, wait, GERMAN, 0, null);
        cells.change(mara, wait, GERMAN, CellChange.text(Action.PUT_FORWARD, 1, "de:Please wait"));
        assertThat(text("wait")).isEqualTo("de:Please wait draft");
        cells.change(mara, wait, GERMAN, CellChange.text(Action.PENCIL, 2, "Bitte warten"));
        assertThat(text("wait")).isEqualTo("Bitte warten typed");
    }

    @Test
    void aMachinesTextIsPutForwardByWhoOpenedItOnly() {
        long oskar = ledger.person("oskar", "de", Level.CONTRIBUTOR);
        FillReply done = fill(service());
        long wait = ledger.entry("wait");
        long closed = ledger.entry("closed");
        ManyChanges both = new ManyChanges(
                Action.PUT_FORWARD,
                List.of(
                        new ManyChanges.One(wait, "de", 1, "de:Please wait", null, null),
                        new ManyChanges.One(closed, "de", 1, "Deck {0} ist zu", null, null)),
                null,
                false,
                How.TYPED);
        Many forward = cells.changeMany(oskar, both);
        assertThat(forward.changed()).as("the one that was changed").isEqualTo(1);
        assertThat(forward.refused()).singleElement().satisfies(one -> assertThat(one.code())
                .isEqualTo("machine-text"));
        cells.change(oskar, wait, GERMAN, CellChange.text(Action.PUT_FORWARD, 1, "de:Please wait"));
        assertThat(ledger.ask(String.class, "select string_agg(text, ',' order by text) from offer"))
                .as("by itself it may be")
                .isEqualTo("Deck {0} ist zu,de:Please wait");
        assertThat(done.drafted()).isEqualTo(2);
    }

    @Test
    void aLanguageMayHaveDraftsSettledInBulk() {
        fill(service());
        ManyChanges one = new ManyChanges(
                Action.PUT_FORWARD,
                List.of(new ManyChanges.One(ledger.entry("wait"), "de", 1, "de:Please wait", null, null)),
                null,
                false,
                null);
        assertThat(cells.changeMany(mara, one).changed()).isZero();
        tables.edit(mara, "deck", 0, "Deck", List.of(new Kept(GERMAN, 0, true, true)));
        assertThat(cells.changeMany(mara, one).changed()).isEqualTo(1);
    }

    @Test
    void howMuchPeopleChangeDraftsIsCounted() {
        fill(service());
        tables.edit(mara, "deck", 0, "Deck", List.of(new Kept(GERMAN, 0, true, false)));
        cells.change(mara, ledger.entry("wait"), GERMAN, CellChange.text(Action.PUT_FORWARD, 1, "de:Please wait"));
        cells.change(
                mara, ledger.entry("closed"), GERMAN, CellChange.text(Action.PUT_FORWARD, 1, "de:Deck {0} is clos.."));
        assertThat(worth.of(mara))
                .extracting(
                        DraftWorth.Worth::service,
                        DraftWorth.Worth::language,
                        DraftWorth.Worth::table,
                        DraftWorth.Worth::drafts,
                        DraftWorth.Worth::settled,
                        DraftWorth.Worth::kept,
                        DraftWorth.Worth::changed)
                .containsExactly(tuple("Draft house", "de", "Deck", 2, 2, 1, 6));
    }

    @Test
    void nothingMoreIsSentForSomebodyWhoseRightEnded() {
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        DraftSettings usual = Drafter.settings("One by one");
        long service = services.add(
                mara,
                new DraftSettings(usual.name(), usual.address(), List.of(), List.of(), 1_000, 1_000, 1, 1, 5),
                null);
        Drafter.drafts(text -> {
            ledger.run("delete from person_right where person_id = " + lina);
            return "de:" + text;
        });
        Fill found = fill.find("table=deck&in=de", GERMAN, 100, 0, service);
        long change = filling.start(lina, order(found, service));
        runs.await("filling", change, LONG);
        assertThat(filling.state(lina, change).status()).isEqualTo("failed");
        assertThat(text("wait") + text("closed") + text("known")).isEmpty();
        // One may be on its way while the first is looked at.
        assertThat(Receiver.heard()).hasSizeLessThanOrEqualTo(2);
    }

    @Test
    void aFillWhoseServerStoppedBeforeItBeganIsLost() {
        long service = service();
        ledger.run("insert into filling (change_id, person_id, language_id, scope, service_id, begun_at) values (7, "
                + mara + ", (select id from language where tag = 'de'), '', " + service + ", now())");
        assertThat(filling.state(mara, 7).status()).isEqualTo("lost");
    }
}
