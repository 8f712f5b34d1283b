package mellow.core.merge;

import static mellow.core.merge.MergeFiles.ENGLISH;
import static mellow.core.merge.MergeFiles.GERMAN;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.cell.CellState;
import mellow.core.cell.Standing;
import mellow.core.check.Finding;
import mellow.core.check.Ground;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.format.FileReading.Field;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rules of an intake that need more than a key, a source and a text to be told. */
class MergeRulesTest {

    private static FileReading csv(String lines) {
        return Formats.read("texts.csv", lines.getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC);
    }

    private static RecordEntry entry(String key, String source, String note, int limit, String german) {
        RecordCell cell = new RecordCell(
                FileText.plain(german), Standing.SETTLED, 1, false, false, new RecordCell.Waiting(0, FileText.NONE));
        Map<LanguageTag, RecordCell> cells = german.isEmpty() ? Map.of() : Map.of(GERMAN, cell);
        return new RecordEntry(
                1,
                1,
                new EntryId(key, ""),
                new RecordEntry.Source(Shape.PLAIN, FileText.plain(source), new Revisions(3, 2), 2),
                new RecordEntry.About(note, "", "", limit, 0, true),
                cells);
    }

    private static List<Change> compare(
            LanguageTag source, FileReading now, @Nullable FileReading before, RecordEntry mine, Choices choices) {
        Terms terms = new Terms(
                source,
                Map.of(GERMAN, Arrival.SETTLED),
                new Terms.May(Set.of(), Set.of(GERMAN), true),
                true,
                Set.of(),
                choices,
                tag -> Ground.of(source, tag));
        List<Change> changes = new ArrayList<>();
        Comparison comparison = new Comparison(now, before, terms);
        comparison.compare(mine, changes::add);
        comparison.rest(changes::add);
        return changes;
    }

    private static List<Change> compare(FileReading now, @Nullable FileReading before, RecordEntry mine) {
        return compare(ENGLISH, now, before, mine, Choices.NONE);
    }

    @ParameterizedTest
    @CsvSource({"en-GB, 1", "en, 1", "fr, 0"})
    void aFileInEnglishIsInTheTablesEnglish(String source, int rewritten) {
        FileReading before = csv("key,en,de\nup,Ramp up,Rampe hoch\n");
        FileReading now = csv("key,en,de\nup,Ramp raised,Rampe hoch\n");
        List<Change> changes = compare(
                new LanguageTag(source), now, before, entry("up", "Ramp up", "", 0, "Rampe hoch"), Choices.NONE);
        assertThat(changes.stream().filter(change -> change.kind() == ChangeKind.SOURCES_REWRITTEN))
                .hasSize(rewritten);
    }

    @Test
    void aChangedNoteAloneIsADescriptionAndNothingElse() {
        FileReading before = csv("key,note,limit,en,de\nup,the big one,20,Ramp up,Rampe hoch\n");
        FileReading now = csv("key,note,limit,en,de\nup,the small one,20,Ramp up,Rampe hoch\n");
        List<Change> changes = compare(now, before, entry("up", "Ramp up", "the big one", 20, "Rampe hoch"));
        assertThat(changes).singleElement().satisfies(change -> {
            assertThat(change.kind()).isEqualTo(ChangeKind.DESCRIPTIONS);
            assertThat(change.choice()).isEqualTo(Choice.TAKE);
            assertThat(change.described().fields()).isEqualTo(Map.of(Field.NOTE, "the small one"));
        });
    }

    @Test
    void aChangedLimitAloneIsADescriptionAndNothingElse() {
        FileReading before = csv("key,note,limit,en,de\nup,the big one,20,Ramp up,Rampe hoch\n");
        FileReading now = csv("key,note,limit,en,de\nup,the big one,12,Ramp up,Rampe hoch\n");
        List<Change> changes = compare(now, before, entry("up", "Ramp up", "the big one", 20, "Rampe hoch"));
        assertThat(changes).singleElement().satisfies(change -> {
            assertThat(change.kind()).isEqualTo(ChangeKind.DESCRIPTIONS);
            assertThat(change.described().fields()).isEqualTo(Map.of(Field.LIMIT, "12"));
        });
    }

    @Test
    void aTextIsHeldAgainstTheLimitThatTheFileBrings() {
        FileReading before = csv("key,limit,en,de\nup,20,Ramp up,Rampe\n");
        FileReading now = csv("key,limit,en,de\nup,6,Ramp up,Rampe hoch\n");
        List<Change> changes = compare(now, before, entry("up", "Ramp up", "", 20, "Rampe"));
        assertThat(changes)
                .filteredOn(change -> change.language() != null)
                .singleElement()
                .satisfies(change -> {
                    assertThat(change.kind()).isEqualTo(ChangeKind.STOPPED);
                    assertThat(change.arrives()).isEqualTo(Arrival.OFFERED);
                });
    }

    @Test
    void textsOfARenamedEntryAreComparedWithIts() {
        FileReading before = csv("key,en,de\nup,Ramp up,Rampe hoch\n");
        FileReading now = csv("key,en,de\nramp.up,Ramp up,Rampe oben\n");
        List<Change> changes = compare(now, before, entry("up", "Ramp up", "", 0, "Rampe hoch"));
        assertThat(changes)
                .extracting(change -> change.kind() + " " + change.id().key() + " "
                        + change.before().main() + " > " + change.after().main())
                .containsExactlyInAnyOrder(
                        "RENAMED ramp.up Ramp up > Ramp up", "TEXTS_REPLACED ramp.up Rampe hoch > Rampe oben");
        assertThat(changes).allSatisfy(change -> assertThat(change.entry()).isNotNull());
        assertThat(changes)
                .filteredOn(change -> change.kind() == ChangeKind.RENAMED)
                .extracting(Change::formerKey)
                .containsExactly("up");
    }

    @Test
    void aNewEntrysTextWithALostPlaceholderIsPencilled() {
        FileReading now = csv("key,en,de\nup,Ramp up,Rampe hoch\ncars,{n} cars left,Autos\nfine,{n} cars,{n} Autos\n");
        List<Change> changes = compare(now, null, entry("up", "Ramp up", "", 0, "Rampe hoch"));
        assertThat(changes)
                .filteredOn(change -> change.language() != null)
                .extracting(change -> change.kind() + " " + change.id().key() + " " + change.arrives())
                .containsExactly("STOPPED cars PENCILLED", "TEXTS_ADDED fine SETTLED");
        assertThat(changes)
                .filteredOn(change -> change.kind() == ChangeKind.STOPPED)
                .flatExtracting(change -> change.decided().against())
                .extracting(Finding::sentence)
                .containsExactly("The placeholder {n} is missing.");
    }

    @Test
    void aChoiceThatTheKindDoesNotOfferIsNone() {
        FileReading before = csv("key,en,de\nup,Ramp up,Rampe hoch\n");
        FileReading now = csv("key,en,de\nup,Ramp up,Rampe oben\n");
        Choices remove = (kind, id, language) -> Choice.REMOVE;
        assertThat(compare(ENGLISH, now, before, entry("up", "Ramp up", "", 0, "Rampe hoch"), remove))
                .extracting(Change::choice)
                .containsExactly(Choice.TAKE);
        Choices keep = (kind, id, language) -> Choice.KEEP;
        assertThat(compare(ENGLISH, now, before, entry("up", "Ramp up", "", 0, "Rampe hoch"), keep))
                .extracting(Change::choice)
                .containsExactly(Choice.KEEP);
    }

    private static Change text(boolean current, boolean older) {
        FileText text = older ? FileText.plain("x").forOlder() : FileText.plain("x");
        return new Change(
                ChangeKind.TEXTS_ADDED,
                new Change.At(new EntryId("up", ""), null, null, 0, GERMAN),
                new Change.Words(FileText.plain("y"), FileText.NONE, text),
                new Change.Decided(Choice.TAKE, Arrival.SETTLED, current),
                Description.NONE);
    }

    /** What a text is based on when it arrives, and so whether it is stale. */
    @ParameterizedTest
    @CsvSource({
        "3, 2, true, false, 3, SETTLED",
        "3, 2, false, false, 2, SETTLED",
        "3, 3, false, false, 2, STALE",
        "3, 2, false, true, 1, STALE",
        "1, 1, false, false, 1, SETTLED",
        "1, 1, false, true, 0, STALE",
        "1, 1, true, false, 1, SETTLED"
    })
    void whatATextIsBasedOn(int revision, int meaning, boolean current, boolean older, int basedOn, CellState state) {
        Revisions at = new Revisions(revision, meaning);
        assertThat(at.basedOn(text(current, older))).isEqualTo(basedOn);
        assertThat(CellState.of(false, false, Standing.SETTLED, at.basedOn(text(current, older)), at.meaning()))
                .isEqualTo(state);
    }

    @Test
    void aRewrittenSourceHasOneRevisionMore() {
        Revisions now = Revisions.of(entry("up", "Ramp up", "", 0, ""));
        assertThat(now).isEqualTo(new Revisions(3, 2));
        assertThat(now.rewritten(true)).isEqualTo(new Revisions(4, 4));
        assertThat(now.rewritten(false)).isEqualTo(new Revisions(4, 2));
        assertThat(Revisions.NEW).isEqualTo(new Revisions(1, 1));
    }

    @Test
    void onlyWhatIsInForceHasAStanding() {
        assertThat(Arrival.SETTLED.standing()).isEqualTo(Standing.SETTLED);
        assertThat(Arrival.PENCILLED.standing()).isEqualTo(Standing.PENCILLED);
        assertThat(Arrival.OFFERED.standing()).isEqualTo(Standing.NONE);
    }
}
