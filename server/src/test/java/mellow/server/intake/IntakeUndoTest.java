package mellow.server.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.util.List;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.cell.CellChange;
import mellow.server.cell.CellChange.Action;
import mellow.server.common.Refusal;
import mellow.server.intake.Previews.ChoiceRequest;
import mellow.server.people.Level;
import mellow.server.record.BulkUndo;
import mellow.server.run.RunService.Progress;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;

/** Taking an intake back. What the record holds is compared as a whole; the audit runs after every test. */
class IntakeUndoTest extends ServerTest {

    private static final String FIRST =
            "key,note,limit,en,de,fi\nup,look up,20,Ramp up,Rampe oben,\ndown,,,Ramp down,Rampe unten,Ramppi alhaalla\nmid,,,Halfway,Halb,\nlast,,,The last,,\n";
    private static final String RECORD =
            """
            select coalesce(string_agg(e.key || '|' || e.source || '|' || e.note || '|' || e.max_length || '|' || e.source_revision || '|' || e.meaning_revision
                || '|' || coalesce((select string_agg(l.tag || c.state || c.standing || c.based_on || coalesce(c.text, ''), ';' order by l.tag)
                    from cell c join language l on l.id = c.language_id where c.entry_id = e.id and (c.text is not null or c.open_offers > 0)), ''), E'\\n' order by e.position), '')
            from entry e where e.removed_at is null
            """;
    private static final String OFFERS =
            "select coalesce(string_agg(text || answer, ';' order by id), '') from offer where answer <> 5";

    @Autowired
    private IntakeService intakes;

    @Autowired
    private IntakeReplies replies;

    @Autowired
    private Previews previews;

    @Autowired
    private Comparing comparing;

    @Autowired
    private Undoing undoing;

    private long mara;

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp panel", FIRST, Arrival.SETTLED);
        ledger.allowOwn("Ramp panel", "de");
    }

    private String record() {
        return ledger.ask(String.class, RECORD) + "\n" + ledger.ask(String.class, OFFERS);
    }

    private long prepared(String csv) {
        long intake = intakes.upload(mara, "Ramp panel.csv", csv.getBytes(StandardCharsets.UTF_8));
        comparing.compare(mara, intake, Progress.UNWATCHED);
        return intake;
    }

    private void choose(long intake, ChangeKind kind, Choice choice) {
        previews.choose(mara, intake, new ChoiceRequest(kind, choice, null, null));
    }

    private long taken(String csv) {
        long intake = prepared(csv);
        intakes.apply(mara, intake, Progress.UNWATCHED);
        return intake;
    }

    @Test
    void everythingBecomesWhatItWas() {
        String before = record();
        String second =
                "key,note,limit,en,de,fi\nup,look up high,25,Ramp fully up,Rampe ganz oben,Ylhäällä\ndown,,,Ramp down,Klappe unten,\nhalf,,,Halfway,Halb,\nnew,,,New,Neu,Uusi\n";
        long intake = prepared(second);
        choose(intake, ChangeKind.RENAMED, Choice.RENAME);
        choose(intake, ChangeKind.EMPTIED_IN_FILE, Choice.CLEAR);
        choose(intake, ChangeKind.GONE_FROM_FILE, Choice.REMOVE);
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.ask(
                        String.class,
                        "select string_agg(key, ',' order by position) from entry where removed_at is null"))
                .isEqualTo("up,down,half,new");
        assertThat(ledger.cell("down", "fi")).isEqualTo("untranslated");
        assertThat(ledger.cell("half", "de")).isEqualTo("settled Halb");
        assertThat(ledger.differences()).isZero();

        intakes.undo(mara, intake, false);
        assertThat(record()).isEqualTo(before);
        assertThat(ledger.differences()).isZero();
        IntakeReply reply = replies.reply(mara, intake);
        assertThat(reply.about().status()).isEqualTo("undone");
        assertThat(reply.done().undo().removed()).isEqualTo(1);
        assertThat(reply.done().undo().changedSince()).isZero();
        assertThatThrownBy(() -> intakes.undo(mara, intake, false))
                .hasMessageContaining("Only a file that was taken in");
    }

    @Test
    void aTableThatTheIntakeMadeGoesWithIt() {
        long made = intakes.upload(mara, "Deck.csv", FIRST.getBytes(StandardCharsets.UTF_8));
        intakes.apply(mara, made, Progress.UNWATCHED);
        intakes.undo(mara, made, false);
        assertThat(ledger.ask(String.class, "select string_agg(name, ',') from ledger_table where removed_at is null"))
                .isEqualTo("Ramp panel");
        assertThat(ledger.ask(String.class, "select name from ledger_table where removed_at is not null"))
                .as("it can be put back")
                .isEqualTo("Deck");
    }

    @Test
    void aTableWithEntriesOfOthersStaysWhenTheIntakeThatMadeItIsTakenBack() {
        long made = intakes.upload(mara, "Deck.csv", FIRST.getBytes(StandardCharsets.UTF_8));
        intakes.apply(mara, made, Progress.UNWATCHED);
        ledger.takeIn(mara, "Deck", "key,en\nother,Other\n", Arrival.SETTLED);
        intakes.undo(mara, made, false);
        assertThat(ledger.ask(Integer.class, "select count(*)::int from ledger_table where removed_at is null"))
                .isEqualTo(2);
    }

    @Test
    void theSameFileCanBeTakenInAgainAfterwards() {
        String second = FIRST.replace("Rampe oben", "Klappe oben");
        long intake = taken(second);
        intakes.undo(mara, intake, false);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
        taken(second);
        assertThat(ledger.cell("up", "de"))
                .as("the base is what the path held before the one that was taken back")
                .isEqualTo("settled Klappe oben");
    }

    @Test
    void offersAreWithdrawnAndThoseTheySetAsideAreOpenAgain() {
        long lina = ledger.person("lina", "fi", Level.CONTRIBUTOR);
        ledger.takeIn(
                lina, "Ramp panel", "lina.csv", "key,fi\nup,Ylös\n".getBytes(StandardCharsets.UTF_8), Arrival.OFFERED);
        String before = record();
        long second = ledger.takeIn(
                lina,
                "Ramp panel",
                "lina.csv",
                "key,fi\nup,Ylhäällä\nmid,Puoli\n".getBytes(StandardCharsets.UTF_8),
                Arrival.OFFERED);
        assertThat(ledger.ask(String.class, OFFERS)).isEqualTo("Ylös4;Ylhäällä0;Puoli0");
        intakes.undo(lina, second, false);
        assertThat(record()).isEqualTo(before);
        assertThat(ledger.cell("up", "fi")).isEqualTo("offered");
        assertThat(ledger.cell("mid", "fi")).isEqualTo("untranslated");
    }

    @Test
    void anOfferInACellThatWasChangedSinceIsLeft() {
        long lina = ledger.person("lina", "fi", Level.CONTRIBUTOR);
        long beata = ledger.person("beata", "fi", Level.CONTRIBUTOR);
        byte[] file = "key,fi\nup,Ylös\nmid,Puoli\n".getBytes(StandardCharsets.UTF_8);
        long intake = ledger.takeIn(lina, "Ramp panel", "lina.csv", file, Arrival.OFFERED);
        ledger.change(beata, "up", "fi", CellChange.text(Action.PUT_FORWARD, 1, "Ylhäällä"));
        intakes.undo(lina, intake, false);
        assertThat(ledger.ask(String.class, "select string_agg(text || answer, ';' order by id) from offer"))
                .isEqualTo("Ylös0;Puoli5;Ylhäällä0");
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void whatWasChangedSinceIsListedAndLeft() {
        long intake = taken(FIRST.replace("Rampe oben", "Klappe oben")
                .replace("Halb", "Mitte")
                .replace("The last,,", "The very last,Ganz zuletzt,"));
        ledger.change(mara, "up", "de", CellChange.text(Action.PUT_FORWARD, 2, "Klappe ganz oben"));
        Undoing.UndoReply look = intakes.undoing(mara, intake);
        assertThat(look.changedSince()).isEqualTo(1);
        assertThat(look.changed()).containsExactly(new BulkUndo.Since("up", "de", "Klappe ganz oben"));
        intakes.undo(mara, intake, false);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Klappe ganz oben");
        assertThat(ledger.cell("mid", "de")).isEqualTo("settled Halb");
        assertThat(ledger.cell("last", "de")).isEqualTo("untranslated");
        assertThat(ledger.ask(String.class, "select source from entry where key = 'last'"))
                .isEqualTo("The last");
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void whatWasChangedSinceIsPutBackTooWhenSomebodySaysSo() {
        long intake = taken(FIRST.replace("Rampe oben", "Klappe oben"));
        ledger.change(mara, "up", "de", CellChange.text(Action.PUT_FORWARD, 2, "Klappe ganz oben"));
        intakes.undo(mara, intake, true);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Rampe oben");
        assertThat(ledger.ask(
                        Integer.class,
                        "select count(*) from cell_story where what = 'undone' and before = 'Klappe ganz oben'"))
                .as("what it said stays in its story")
                .isEqualTo(1);
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void aSourceForWhichTextsWereMadeSinceIsLeft() {
        long intake = taken(FIRST.replace("Ramp down", "Ramp fully down"));
        ledger.change(mara, "down", "de", CellChange.text(Action.PUT_FORWARD, 1, "Rampe ganz unten"));
        intakes.undo(mara, intake, false);
        assertThat(ledger.ask(String.class, "select source from entry where key = 'down'"))
                .isEqualTo("Ramp fully down");
        assertThat(ledger.cell("down", "de")).isEqualTo("settled Rampe ganz unten");
        assertThat(ledger.cell("down", "fi")).isEqualTo("stale Ramppi alhaalla");
        assertThat(ledger.differences()).isZero();
    }

    @Test
    void aNewEntryThatSomebodyWorkedOnStays() {
        long intake = taken(FIRST + "new,,,New,Neu,\nother,,,Other,,\n");
        ledger.change(mara, "new", "de", CellChange.text(Action.PUT_FORWARD, 1, "Ganz neu"));
        intakes.undo(mara, intake, false);
        assertThat(ledger.ask(
                        String.class,
                        "select string_agg(key, ',' order by position) from entry where removed_at is null"))
                .isEqualTo("up,down,mid,last,new");
    }

    @Test
    void refusesWhenAKeyIsTakenByAnother() {
        long intake = prepared(
                "key,en,de,fi\nup,Ramp up,Rampe oben,\ndown,Ramp down,Rampe unten,Ramppi alhaalla\nmid,Halfway,Halb,\nend,The last,,\n");
        choose(intake, ChangeKind.RENAMED, Choice.RENAME);
        intakes.apply(mara, intake, Progress.UNWATCHED);
        ledger.takeIn(
                mara,
                "Ramp panel",
                "more.csv",
                "key,en\nlast,Another\n".getBytes(StandardCharsets.UTF_8),
                Arrival.SETTLED);
        String before = record();
        assertThatThrownBy(() -> intakes.undo(mara, intake, false))
                .isInstanceOf(Refusal.class)
                .hasMessageContaining("The key “last” has been given to another entry since");
        assertThat(record()).isEqualTo(before);
    }

    @Test
    void onlyWhoTookItInOrACoordinatorMay() {
        long lina = ledger.person("lina", "fi", Level.CONTRIBUTOR);
        long intake = taken(FIRST.replace("Halb", "Mitte"));
        assertThatThrownBy(() -> intakes.undo(lina, intake, false)).hasMessageContaining("Only the person who took");
        assertThat(List.of(ledger.cell("mid", "de"))).containsExactly("settled Mitte");
    }

    @Test
    void whoLostTheRightSinceTakesNothingBack() {
        ledger.allowOwn("Ramp panel", "de");
        long oskar = ledger.person("oskar", "de", Level.REVIEWER);
        long intake = ledger.takeIn(
                oskar,
                "Ramp panel",
                "oskar.csv",
                "key,en,de\nlast,The last,Das letzte\n".getBytes(StandardCharsets.UTF_8),
                Arrival.SETTLED);
        String before = record();
        ledger.run("update person_right set level = 'contributor' where person_id = " + oskar);
        assertThatThrownBy(() -> intakes.undo(oskar, intake, false))
                .isInstanceOfSatisfying(
                        Refusal.class, refusal -> assertThat(refusal.code()).isEqualTo("no-right"));
        assertThat(record()).isEqualTo(before);
    }

    @Test
    void aTextThatWouldNotPassTheChecksTodayComesBackPencilled() {
        long intake = prepared("key,en,de\nup,Ramp up,Hoch\n");
        choose(intake, ChangeKind.DIFFER_FROM_SETTLED, Choice.TAKE);
        choose(intake, ChangeKind.TEXTS_REPLACED, Choice.TAKE);
        intakes.apply(mara, intake, Progress.UNWATCHED);
        assertThat(ledger.cell("up", "de")).isEqualTo("settled Hoch");
        ledger.limit("up", 5);
        Undoing.UndoReply undone = undoing.undo(mara, intake, false);
        assertThat(undone.pencilled()).satisfies(pencilled -> {
            assertThat(pencilled.amount()).isEqualTo(1);
            assertThat(pencilled.first()).singleElement().satisfies(one -> assertThat(one.key())
                    .isEqualTo("up"));
        });
        assertThat(ledger.cell("up", "de")).isEqualTo("pencilled Rampe oben");
    }

    @Test
    void anEntryThatWasChangedSinceStaysUnlessAllIsPutBack() {
        long intake = taken(FIRST.replace("look up", "look higher"));
        ledger.run("update entry set version = version + 1, note = 'look twice' where key = 'up'");
        assertThat(intakes.undoing(mara, intake).changedSince()).isEqualTo(1);
        intakes.undo(mara, intake, false);
        assertThat(ledger.ask(String.class, "select note from entry where key = 'up'"))
                .isEqualTo("look twice");
    }

    @Test
    void anEntryThatWasChangedSinceGoesBackWhenAllIsPutBack() {
        long intake = taken(FIRST.replace("look up", "look higher"));
        ledger.run("update entry set version = version + 1, note = 'look twice' where key = 'up'");
        intakes.undo(mara, intake, true);
        assertThat(ledger.ask(String.class, "select note from entry where key = 'up'"))
                .isEqualTo("look up");
    }
}
