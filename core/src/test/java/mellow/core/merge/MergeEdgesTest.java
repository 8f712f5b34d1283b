package mellow.core.merge;

import static mellow.core.merge.MergeFiles.ENGLISH;
import static mellow.core.merge.MergeFiles.GERMAN;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.cell.Standing;
import mellow.core.format.EntryId;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileReading.Field;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.FreshOnly;
import mellow.core.format.ReadOptions;
import mellow.core.format.registry.Formats;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Who may what, files that say little, and entries that only one side has. */
class MergeEdgesTest {
    private static FileReading csv(String... lines) {
        return Formats.read(
                "texts.csv", String.join("\n", lines).getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC);
    }

    /** A file whose texts carry states, in English and German. */
    private static FileReading stated(FileEntry... entries) {
        return new FreshOnly(
                EntryList.of(Optional.of(ENGLISH), List.of(ENGLISH, GERMAN), List.of(entries)),
                List.of(),
                "UTF-8",
                Set.of(),
                "A test");
    }

    private static FileEntry said(String key, String source, FileText german) {
        return FileEntry.of(key).texts(List.of(FileText.plain(source), german)).build();
    }

    /** An entry of the record; German as settled, pencilled (~), stale (!), one's own draft (~~) or one's own offer (?). */
    private static RecordEntry mine(int id, String key, String source, String german) {
        return mine(id, key, Shape.PLAIN, FileText.plain(source), german);
    }

    private static RecordEntry mine(int id, String key, Shape shape, FileText source, String german) {
        String text = german.replaceFirst("^[~!?]+", "");
        boolean offered = german.startsWith("?");
        Standing standing = german.isEmpty() || offered
                ? Standing.NONE
                : german.startsWith("~") ? Standing.PENCILLED : Standing.SETTLED;
        RecordCell cell = new RecordCell(
                offered ? FileText.NONE : FileText.plain(text),
                standing,
                1,
                german.startsWith("~~"),
                german.startsWith("!"),
                new RecordCell.Waiting(offered ? 1 : 0, offered ? FileText.plain(text) : FileText.NONE));
        return new RecordEntry(
                id,
                id,
                new EntryId(key, ""),
                new RecordEntry.Source(shape, source, new Revisions(3, 2), 2),
                new RecordEntry.About("", "", "", 0, 0, true),
                german.isEmpty() ? Map.of() : Map.of(GERMAN, cell));
    }

    @Test
    void whoIsNoCoordinatorChangesNoEntry() {
        FileReading before = csv("key,en,de", "up,Ramp up,Rampe", "gone,Gone,Weg", "was,Was here,War da");
        FileReading now = csv("key,en,de", "up,Ramp raised,Rampe oben", "new,New,Neu", "was,Was here,War da");
        RecordEntry[] record = {
            mine(1, "up", "Ramp up", "Rampe"), mine(2, "gone", "Gone", "Weg"),
        };
        assertThat(new Ask(now).after(before).without("was").asContributor().tells(record))
                .containsExactlyInAnyOrder(
                        "NO_RIGHT up KEEP",
                        "TEXTS_REPLACED up de TAKE SETTLED",
                        "GONE_FROM_FILE gone KEEP",
                        "NO_RIGHT new KEEP",
                        "NO_RIGHT was KEEP");
        assertThat(new Ask(now).after(before).without("was").tells(record))
                .containsExactlyInAnyOrder(
                        "SOURCES_REWRITTEN up CHANGED",
                        "TEXTS_REPLACED up de TAKE SETTLED",
                        "GONE_FROM_FILE gone REMOVE",
                        "NEW_ENTRIES new TAKE",
                        "TEXTS_ADDED new de TAKE SETTLED",
                        "REMOVED_HERE was KEEP");
        assertThat(new Ask(now).after(before).ofAPart().without("was").tells(record))
                .contains("GONE_FROM_FILE gone KEEP");
        assertThat(new Ask(csv("key,en,de", "new,,Neu")).asContributor().tells())
                .containsExactly("WITHOUT_SOURCE new KEEP");
        assertThat(new Ask(csv("key,en,de", "new,,Neu")).tells()).containsExactly("WITHOUT_SOURCE new KEEP");
        assertThat(new Ask(csv("key,en,de", "new,,Neu", "x,y,z"))
                        .choosing(Choice.TAKE)
                        .tells())
                .containsExactly(
                        "WITHOUT_SOURCE new TAKE",
                        "TEXTS_ADDED new de TAKE SETTLED",
                        "NEW_ENTRIES x TAKE",
                        "TEXTS_ADDED x de TAKE SETTLED");
    }

    @Test
    void aSourceThatWasEditedHereStaysUnlessSomebodyChooses() {
        FileReading before = csv("key,en,de", "up,Ramp up,Rampe");
        FileReading same = csv("key,en,de", "up,Ramp up,Rampe");
        RecordEntry edited = mine(1, "up", "Ramp is up", "Rampe");
        assertThat(new Ask(same).after(before).tells(edited)).containsExactly("EDITED_HERE up KEEP");
        assertThat(new Ask(same).after(before).asContributor().tells(edited)).containsExactly("EDITED_HERE up KEEP");
        FileReading other = csv("key,en,de", "up,Ramp raised,Rampe");
        assertThat(new Ask(other).after(before).tells(edited)).containsExactly("SOURCE_CONFLICTS up CHANGED");
        assertThat(new Ask(other).after(before).asContributor().tells(edited)).containsExactly("NO_RIGHT up KEEP");
        assertThat(new Ask(csv("key,de", "up,Rampe")).tells(edited)).isEmpty();
    }

    @Test
    void textsAreForTheSourceThatTheFileSays() {
        FileReading before = csv("key,en,de", "up,Ramp up,Rampe");
        FileReading now = csv("key,en,de", "up,Ramp raised,Rampe oben");
        RecordEntry record = mine(1, "up", "Ramp up", "Rampe");
        assertThat(new Ask(now).after(before).changes(record))
                .filteredOn(change -> change.language() != null)
                .singleElement()
                .satisfies(change -> {
                    assertThat(change.source().main()).isEqualTo("Ramp raised");
                    assertThat(change.current()).isTrue();
                });
        assertThat(new Ask(now).after(before).choosing(Choice.KEEP).changes(record))
                .filteredOn(change -> change.language() != null)
                .singleElement()
                .satisfies(change -> {
                    assertThat(change.source().main()).isEqualTo("Ramp up");
                    assertThat(change.current()).isFalse();
                });
        assertThat(new Ask(now).after(before).asContributor().changes(record))
                .filteredOn(change -> change.language() != null)
                .singleElement()
                .satisfies(change -> assertThat(change.current()).isFalse());
        // A file without sources speaks of the one that is here.
        assertThat(new Ask(csv("key,de", "up,Rampe oben")).changes(record))
                .singleElement()
                .satisfies(change -> assertThat(change.current()).isTrue());
    }

    @ParameterizedTest(name = "{0} over {1}")
    @CsvSource({
        // What nobody marked unsure before, and is marked now
        "~Rampe, Rampe, Rampe, DOUBTED up de KEEP",
        "~Rampe, Rampe, -, DOUBTED up de KEEP",
        // It was marked before, is pencilled here, or is stale: nothing new.
        "~Rampe, Rampe, ~Rampe, ''",
        "~Rampe, ~Rampe, Rampe, ''",
        "~Rampe, !Rampe, Rampe, ''",
        // Settled there and pencilled here
        "Rampe, ~Rampe, -, HIGHER_STANDING up de KEEP",
        "Rampe, ~Rampe, Alt, HIGHER_STANDING up de KEEP",
        "Rampe, Rampe, -, ''",
        "Rampe, Rampe, Alt, ''",
        // A draft never replaces what is settled.
        "~Neu, Rampe, Rampe, TEXTS_REPLACED up de TAKE OFFERED",
        "~Neu, ~Rampe, Rampe, TEXTS_REPLACED up de TAKE PENCILLED",
        "~Neu, '', -, TEXTS_ADDED up de TAKE PENCILLED",
        "Neu, '', Alt, CONFLICTS up de OFFER OFFERED",
        "Neu, Rampe, Alt, CONFLICTS up de OFFER OFFERED",
        "Neu, Rampe, -, DIFFER_FROM_SETTLED up de OFFER OFFERED",
        "Neu, ~Rampe, -, TEXTS_REPLACED up de TAKE SETTLED",
        "'', Rampe, Rampe, EMPTIED_IN_FILE up de KEEP",
        "'', '', Rampe, ''",
        "'', Rampe, '', ''"
    })
    void whatATextOfTheFileMeans(String theirs, String record, String then, String told) {
        Ask ask = new Ask(stated(said("up", "Ramp", text(theirs))));
        if (!then.equals("-")) {
            ask.after(stated(said("up", "Ramp", text(then))));
        }
        assertThat(ask.tells(mine(1, "up", "Ramp", record))).isEqualTo(told.isEmpty() ? List.of() : List.of(told));
    }

    private static FileText text(String spelled) {
        return spelled.isEmpty()
                ? FileText.NONE
                : spelled.startsWith("~")
                        ? FileText.plain(spelled.substring(1)).in(FileState.PENCILLED)
                        : FileText.plain(spelled).in(FileState.SETTLED);
    }

    @Test
    void whoMayNotReviewTakesNothingAway() {
        FileReading before = stated(said("up", "Ramp", text("Rampe")), said("down", "Down", text("Ab")));
        FileReading now = stated(said("up", "Ramp", text("~Rampe")), said("down", "Down", FileText.NONE));
        RecordEntry[] record = {mine(1, "up", "Ramp", "Rampe"), mine(2, "down", "Down", "Ab")};
        assertThat(new Ask(now).after(before).choosing(Choice.PENCIL).tells(record))
                .contains("DOUBTED up de PENCIL PENCILLED");
        assertThat(new Ask(now).after(before).choosing(Choice.CLEAR).tells(record))
                .contains("EMPTIED_IN_FILE down de CLEAR");
        for (Choice choice : Choice.values()) {
            assertThat(new Ask(now)
                            .after(before)
                            .asContributor()
                            .choosing(choice)
                            .tells(record))
                    .containsExactly("DOUBTED up de KEEP", "EMPTIED_IN_FILE down de KEEP");
        }
    }

    @Test
    void whereFourEyesAreWantedOnesOwnTextStaysWhatItIs() {
        FileReading now = stated(said("up", "Ramp", text("Rampe")));
        assertThat(new Ask(now).fourEyes().tells(mine(1, "up", "Ramp", "~~Rampe")))
                .isEmpty();
        assertThat(new Ask(now).tells(mine(1, "up", "Ramp", "~~Rampe"))).containsExactly("HIGHER_STANDING up de KEEP");
        assertThat(new Ask(now).fourEyes().tells(mine(1, "up", "Ramp", "~Rampe")))
                .containsExactly("HIGHER_STANDING up de KEEP");
        // One's own offer is offered already.
        assertThat(new Ask(now).fourEyes().tells(mine(1, "up", "Ramp", "?Rampe")))
                .isEmpty();
        assertThat(new Ask(now).tells(mine(1, "up", "Ramp", "?Rampe")))
                .containsExactly("TEXTS_ADDED up de TAKE SETTLED");
        assertThat(new Ask(now).arriving(Arrival.OFFERED).tells(mine(1, "up", "Ramp", "?Rampe")))
                .isEmpty();
        assertThat(new Ask(now).arriving(Arrival.OFFERED).tells(mine(1, "up", "Ramp", "?Anders")))
                .containsExactly("TEXTS_ADDED up de TAKE OFFERED");
    }

    @Test
    void aTextWithoutItsPlaceholderComesAsADraftOrAnOffer() {
        FileReading now = stated(said("up", "{n} cars", text("Autos")));
        assertThat(new Ask(now).tells(mine(1, "up", "{n} cars", "~{n} Wagen")))
                .containsExactly("STOPPED up de TAKE PENCILLED");
        assertThat(new Ask(now).tells(mine(1, "up", "{n} cars", "{n} Wagen")))
                .containsExactly("STOPPED up de TAKE OFFERED");
        assertThat(new Ask(now).arriving(Arrival.OFFERED).tells(mine(1, "up", "{n} cars", "~{n} Wagen")))
                .containsExactly("STOPPED up de TAKE OFFERED");
        assertThat(new Ask(now).tells(mine(1, "up", "{n} cars", "~Autos"))).isEmpty();
        assertThat(new Ask(stated(said("new", "{n} cars", text("Autos"))))
                        .arriving(Arrival.OFFERED)
                        .tells())
                .contains("STOPPED new de TAKE OFFERED");
    }

    @Test
    void aTextOfAnotherShapeIsToldAndNotTaken() {
        FileText boats = FileText.of(new TreeMap<>(Map.of("one", "boat", "other", "boats")));
        RecordEntry plural = mine(1, "boats", Shape.PLURAL, boats, "Boote");
        assertThat(new Ask(csv("key,en,de", "boats,boats,Boote")).tells(plural)).isEmpty();
        assertThat(new Ask(csv("key,en,de", "boats,,")).tells(plural)).isEmpty();
        List<Change> source = new Ask(csv("key,en,de", "boats,ships,Boote")).changes(plural);
        assertThat(source).singleElement().satisfies(change -> {
            assertThat(change.kind()).isEqualTo(ChangeKind.OTHER_SHAPE);
            assertThat(change.choice()).isEqualTo(Choice.KEEP);
            assertThat(change.before().main()).isEqualTo("boats");
            assertThat(change.after().main()).isEqualTo("ships");
            assertThat(change.index()).isZero();
        });
        assertThat(new Ask(csv("key,en,de", "x,y,z", "boats,boats,Schiffe")).changes(plural))
                .filteredOn(change -> change.kind() == ChangeKind.OTHER_SHAPE)
                .singleElement()
                .satisfies(change -> {
                    assertThat(change.before().main()).isEqualTo("Boote");
                    assertThat(change.after().main()).isEqualTo("Schiffe");
                    assertThat(change.index()).isEqualTo(1);
                    assertThat(change.source()).isEqualTo(boats);
                });
    }

    @Test
    void theRestIsWhatOnlyTheFileHas() {
        FileReading now = csv("key,en,de", "a,A a,x", "b,B b,y", "c,C c,z");
        Ask ask = new Ask(now);
        ask.changes(mine(1, "b", "B b", "y"), mine(2, "d", "D d", "q"));
        assertThat(ask.met).containsExactly("b@1", "d alone");
        assertThat(ask.comparison.unmet()).isEqualTo(2);
        Ask renamed = new Ask(csv("key,en,de", "new,A a,x")).after(csv("key,en,de", "old,A a,x"));
        assertThat(renamed.tells(mine(1, "old", "A a", "x"))).containsExactly("RENAMED new RENAME");
        assertThat(renamed.met).containsExactly("old alone", "old@0");
    }

    @Test
    void aNewKeyForAnOldEntryIsWhatWasChosen() {
        FileReading before = csv("key,en,de", "old,Ramp up,Rampe");
        FileReading now = csv("key,en,de", "new,Ramp up,Rampe oben");
        RecordEntry record = mine(1, "old", "Ramp up", "Rampe");
        assertThat(new Ask(now).after(before).tells(record))
                .containsExactly("RENAMED new RENAME", "TEXTS_REPLACED new de TAKE SETTLED");
        Ask both = new Ask(now).after(before).choosing(Choice.BOTH);
        assertThat(both.tells(record)).containsExactly("RENAMED new BOTH", "TEXTS_ADDED new de TAKE SETTLED");
        assertThat(both.met).containsExactly("old alone");
        Ask replaced = new Ask(now).after(before).choosing(Choice.REPLACE);
        assertThat(replaced.tells(record)).containsExactly("RENAMED new REPLACE", "TEXTS_ADDED new de TAKE SETTLED");
        assertThat(replaced.met).containsExactly("old alone");
        // Without the right to rename it is gone, and the new one is no entry.
        assertThat(new Ask(now).after(before).asContributor().tells(record))
                .containsExactly("GONE_FROM_FILE old KEEP", "NO_RIGHT new KEEP");
        // Another file of the table brought the new key before: both are there, and the old one is gone.
        assertThat(new Ask(now).after(before).tells(record, mine(2, "new", "Ramp up", "Rampe oben")))
                .containsExactly("GONE_FROM_FILE old REMOVE");
        assertThat(new Ask(now).after(before).tells(mine(2, "new", "Ramp up", "Rampe oben"), record))
                .containsExactly("GONE_FROM_FILE old REMOVE");
        assertThat(new Ask(now).after(before).tells(mine(2, "new", "Ramp up", "Rampe"), record))
                .containsExactly("TEXTS_REPLACED new de TAKE SETTLED", "GONE_FROM_FILE old REMOVE");
    }

    @Test
    void aFileThatLostMoreThanHalfIsAPart() {
        FileReading four = csv("key,en", "a,A a", "b,B b", "c,C c", "d,D d");
        assertThat(Comparison.holdsMost(csv("key,en", "a,A a", "b,B b"), four)).isFalse();
        assertThat(Comparison.holdsMost(csv("key,en", "a,A a", "b,B b", "c,C c"), four))
                .isTrue();
        assertThat(Comparison.holdsMost(csv("key,en", "a,A a", "x,X x", "y,Y y"), four))
                .isFalse();
    }

    @Test
    void lineBreaksThatAFormatReadsOtherwiseAreNoChange() {
        RecordEntry record = mine(1, "up", "Ramp", "Rampe\r\nauf\rdeck");
        assertThat(new Ask(csv("key,en,de", "up,Ramp,\"Rampe\nauf\ndeck\"")).tells(record))
                .isEmpty();
        assertThat(new Ask(csv("key,en,de", "up,Ramp,\"Rampe\nauf deck\"")).tells(record))
                .containsExactly("DIFFER_FROM_SETTLED up de OFFER OFFERED");
        // One that keeps them says what it says.
        assertThat(new Ask(stated(said("up", "Ramp", text("Rampe\nauf\ndeck")))).tells(record))
                .containsExactly("DIFFER_FROM_SETTLED up de OFFER OFFERED");
    }

    @Test
    void aLimitComesFirstWhereItsChoiceSaysSo() {
        FileReading before = csv("key,limit,en,de", "up,20,Ramp,Rampe");
        FileReading now = csv("key,limit,en,de", "up,6,Ramp,Rampe hoch");
        RecordEntry record = new RecordEntry(
                1,
                1,
                new EntryId("up", ""),
                new RecordEntry.Source(Shape.PLAIN, FileText.plain("Ramp"), new Revisions(1, 1), 1),
                new RecordEntry.About("a note", "a.c:1", "deck", 20, 0, false),
                Map.of());
        assertThat(new Ask(now).after(before).tells(record))
                .containsExactly("STOPPED up de TAKE PENCILLED", "DESCRIPTIONS up TAKE");
        assertThat(new Ask(now).after(before).choosing(Choice.KEEP).tells(record))
                .containsExactly("CONFLICTS up de KEEP", "DESCRIPTIONS up KEEP");
        // Changed on both sides: only who takes it is bound by it.
        FileReading others = csv("key,limit,en,de", "up,30,Ramp,Rampe");
        assertThat(new Ask(now).after(others).tells(record))
                .contains("DESCRIPTION_CONFLICTS up KEEP")
                .anyMatch(one -> one.startsWith("CONFLICTS up de"));
        assertThat(new Ask(now).after(others).choosing(Choice.TAKE).tells(record))
                .containsExactly("STOPPED up de TAKE PENCILLED", "DESCRIPTION_CONFLICTS up TAKE");
        assertThat(record.words()).isEqualTo(1);
        assertThat(record.translatable()).isFalse();
        assertThat(record.revision()).isEqualTo(1);
        assertThat(Description.of(record).shown())
                .isEqualTo("note: a note\nreference: a.c:1\nsection: deck\nlimit: 20"
                        .replace("note", Field.NOTE.word())
                        .replace("reference", Field.REFERENCE.word())
                        .replace("section", Field.SECTION.word())
                        .replace("limit", Field.LIMIT.word()));
        assertThat(Description.of(
                                csv("key,note,en", "a,,b"),
                                csv("key,note,en", "a,,b").entry(0))
                        .shown())
                .isEmpty();
    }

    @Test
    void languagesThatNobodyAskedForAreNotLookedAt() {
        assertThat(new Ask(csv("key,en,de,fi", "up,Ramp,Rampe,Ramppi")).tells(mine(1, "up", "Ramp", "Rampe")))
                .isEmpty();
        assertThat(new Ask(csv("key,en,de,fi", "up,Ramp,Rampe,Ramppi")).tells())
                .containsExactly("NEW_ENTRIES up TAKE", "TEXTS_ADDED up de TAKE SETTLED");
        assertThat(new Ask(csv("key,fi,de", "new,Ramppi,Rampe")).changes())
                .singleElement()
                .satisfies(change -> {
                    assertThat(change.kind()).isEqualTo(ChangeKind.WITHOUT_SOURCE);
                    assertThat(change.after().main()).isEqualTo("Ramppi");
                });
    }
}
