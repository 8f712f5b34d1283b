package mellow.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.function.IntFunction;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.registry.Formats;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;

/** Which new entries of a catalogue are those that are gone from it. */
class SuccessionTest {

    private static FileReading catalogue(int count, IntFunction<String> source) {
        List<FileEntry> entries = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            entries.add(FileEntry.of(source.apply(i))
                    .plain(List.of(source.apply(i), ""))
                    .build());
        }
        return MergeFiles.file("po", entries);
    }

    private static Succession of(FileReading base, FileReading file) {
        Set<EntryId> then = ids(base);
        Set<EntryId> now = ids(file);
        return Succession.of(
                base, file, i -> !now.contains(base.id(i)), i -> !then.contains(file.id(i)), MergeFiles.ENGLISH);
    }

    private static Set<EntryId> ids(FileReading file) {
        Set<EntryId> ids = new HashSet<>();
        for (int i = 0; i < file.size(); i++) {
            ids.add(file.id(i));
        }
        return ids;
    }

    private static String heir(FileReading base, FileReading file, String gone) {
        Integer at = of(base, file).heirOf(new EntryId(gone, ""));
        return at == null ? "" : file.entry(at).key();
    }

    private static FileReading of(String... sources) {
        return catalogue(sources.length, i -> sources[i]);
    }

    @Test
    void theSamePlaceAndAlikeIsTheSameEntry() {
        FileReading base = of("All aboard", "The ramp is down", "Mind the gap");
        assertThat(heir(base, of("All aboard", "The ramp is up", "Mind the gap"), "The ramp is down"))
                .isEqualTo("The ramp is up");
        assertThat(heir(base, of("All aboard", "Dense fog", "Mind the gap"), "The ramp is down"))
                .as("nothing in common")
                .isEmpty();
        assertThat(heir(base, of("All aboard", "Mind the gap", "The ramp is up"), "The ramp is down"))
                .as("another place")
                .isEmpty();
    }

    @Test
    void inOnePlaceTheMostAlikeGoTogether() {
        FileReading base = of("A", "Deck three is open", "Ramp is down for cars", "Z");
        FileReading file = of("A", "Ramp is down for lorries", "Deck three is open now", "Z");
        assertThat(heir(base, file, "Deck three is open")).isEqualTo("Deck three is open now");
        assertThat(heir(base, file, "Ramp is down for cars")).isEqualTo("Ramp is down for lorries");
    }

    @Test
    void whereTwoAreEquallyAlikeNothingIsGuessed() {
        FileReading base = of("A", "Deck 3 open", "Z");
        FileReading file = of("A", "Deck 4 open", "Deck 5 open", "Z");
        assertThat(heir(base, file, "Deck 3 open")).isEmpty();
    }

    @Test
    void aPreviousMsgidTellsWhereverItStands() {
        FileReading base = of("Open", "A", "B");
        List<FileEntry> entries = List.of(
                FileEntry.of("A").plain(List.of("A", "")).build(),
                FileEntry.of("B").plain(List.of("B", "")).build(),
                FileEntry.of("Unlock the door")
                        .plain(List.of("Unlock the door", "x"))
                        .build());
        FileReading plain = MergeFiles.file("po", entries);
        assertThat(heir(base, plain, "Open")).isEmpty();
        byte[] told = ("msgid \"A\"\nmsgstr \"\"\n\nmsgid \"B\"\nmsgstr \"\"\n\n"
                        + "#, fuzzy\n#| msgid \"Open\"\nmsgid \"Unlock the door\"\nmsgstr \"x\"\n")
                .getBytes(StandardCharsets.UTF_8);
        FileReading file = Formats.named("po").orElseThrow().read("de.po", told, ReadOptions.AUTOMATIC);
        assertThat(heir(base, file, "Open")).isEqualTo("Unlock the door");
    }

    @Test
    void everyEntryHasOneHeirAndIsTheHeirOfOne() {
        Random random = new Random(3);
        for (int round = 0; round < 60; round++) {
            List<String> sources = new ArrayList<>();
            for (int i = 0; i < 40; i++) {
                sources.add("Door " + i + " of deck " + random.nextInt(4));
            }
            FileReading base = of(sources.stream().distinct().toArray(String[]::new));
            sources.replaceAll(one -> random.nextInt(3) == 0 ? one + " is " + random.nextInt(3) : one);
            if (random.nextBoolean()) {
                Collections.shuffle(sources, random);
            }
            FileReading file = of(sources.stream().distinct().toArray(String[]::new));
            Succession succession = of(base, file);
            List<Integer> heirs = new ArrayList<>();
            for (int i = 0; i < base.size(); i++) {
                Integer heir = succession.heirOf(base.id(i));
                if (heir != null) {
                    heirs.add(heir);
                    assertThat(succession.formerOf(heir)).isEqualTo(i);
                }
            }
            assertThat(heirs).doesNotHaveDuplicates();
        }
    }

    @Test
    void aCatalogueWithNothingInCommonTakesNoTime() {
        String long1 = "a".repeat(1_500);
        FileReading base = catalogue(20_000, i -> long1 + i);
        FileReading file = catalogue(20_000, i -> long1 + (i + 1) + "b");
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> of(base, file));
    }

    @Test
    void keysThatAreNamesAreNotGuessedAbout() {
        List<FileEntry> before = List.of(
                FileEntry.of("a")
                        .texts(List.of(FileText.plain("A"), FileText.NONE))
                        .build(),
                FileEntry.of("ramp")
                        .texts(List.of(FileText.plain("Ramp is down"), FileText.NONE))
                        .build());
        List<FileEntry> after = List.of(
                before.get(0),
                FileEntry.of("door")
                        .texts(List.of(FileText.plain("Ramp is up"), FileText.NONE))
                        .build());
        FileReading base = MergeFiles.file("csv", before);
        FileReading file = MergeFiles.file("csv", after);
        assertThat(of(base, file).heirOf(new EntryId("ramp", ""))).isNull();
    }
}
