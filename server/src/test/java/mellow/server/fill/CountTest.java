package mellow.server.fill;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.server.fill.CountService.Band;
import mellow.server.fill.CountService.WorkCounted;
import mellow.server.fill.CountService.WorkCounts;
import mellow.server.fill.SpreadService.SameSource;
import mellow.server.memory.MemoryForTests;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.context.annotation.Import;

/** How much of a scope is new is counted before anybody begins, and a settled text is offered to the same sources elsewhere. */
@Import(MemoryForTests.class)
class CountTest extends ServerTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");

    @Autowired
    private CountService counts;

    @Autowired
    private SpreadService spread;

    @Autowired
    private MemoryForTests memory;

    private long mara;

    @BeforeEach
    void tables() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(
                mara,
                "Ramp",
                "key,en,de\nup,Ramp up,Rampe oben\nseven,Deck 7 is closed today,Deck 7 ist heute geschlossen\nlong,The ferry leaves the harbour at nine in the morning,Die Fähre verlässt den Hafen um neun Uhr\n",
                Arrival.SETTLED);
        ledger.takeIn(
                mara,
                "Deck",
                """
                key,en,de
                same,Ramp up,
                again,Ramp up,
                number,Deck 5 is closed today,
                similar,The ferry leaves the harbour at ten in the morning,
                new1,Nothing is like this one,
                new2,Nothing is like this one,
                done,Stop,Halt
                empty,,
                """,
                Arrival.PENCILLED);
        memory.read();
    }

    @AfterEach
    void theMemoryIsNotForOtherTests() {
        memory.forget();
    }

    @Test
    void everyTextIsInOneBandWithItsWordsAndCharacters() {
        WorkCounts counted = counts.count("table=deck", GERMAN, 0);
        assertThat(counted.bands())
                .extracting(WorkCounted::band, WorkCounted::entries, WorkCounted::words, WorkCounted::characters)
                .containsExactly(
                        tuple(Band.ELSEWHERE, 1, 2L, 7L),
                        tuple(Band.TWICE, 2, 7L, 31L),
                        tuple(Band.NEARLY, 1, 5L, 22L),
                        tuple(Band.SIMILAR, 1, 10L, 50L),
                        tuple(Band.FAR, 0, 0L, 0L),
                        tuple(Band.NEW, 1, 5L, 24L));
        assertThat(counted.next()).isNull();
        assertThat(counted.of()).isEqualTo(7);
    }

    @Test
    void aScopeWithoutAnythingToDoIsNought() {
        assertThat(counts.count("table=ramp", GERMAN, 0).bands())
                .allSatisfy(band -> assertThat(band.entries()).isZero());
        assertThat(counts.count("table=deck", new LanguageTag("fi"), 0).bands())
                .as("a language that it is not kept in")
                .allSatisfy(band -> assertThat(band.entries()).isZero());
    }

    @Test
    void aLargeScopeIsCountedInPartsThatAddUp() {
        StringBuilder many = new StringBuilder("key,en,de\n");
        for (int i = 0; i < 6_200; i++) {
            many.append("k%04d,Text number %d of many,\n".formatted(i, i / 2));
        }
        ledger.takeIn(mara, "Many", many.toString(), Arrival.PENCILLED);
        WorkCounts first = counts.count("table=many", GERMAN, 0);
        WorkCounts rest = counts.count("table=many", GERMAN, first.next());
        assertThat(first.looked() + rest.looked()).isEqualTo(6_200);
        assertThat(rest.next()).isNull();
        assertThat(of(first, Band.TWICE) + of(rest, Band.TWICE)).isEqualTo(3_100);
        assertThat(of(first, Band.NEW) + of(rest, Band.NEW)).isEqualTo(3_100);
    }

    private static int of(WorkCounts counts, Band wanted) {
        return counts.bands().stream()
                .filter(one -> one.band() == wanted)
                .mapToInt(WorkCounted::entries)
                .sum();
    }

    @Test
    void aSettledTextIsOfferedToTheSameSourcesElsewhere() {
        List<SameSource> same = spread.of(ledger.entry("up"), GERMAN);
        assertThat(same)
                .extracting(SameSource::key, SameSource::table, SameSource::version)
                .containsExactly(tuple("same", "Deck", 0), tuple("again", "Deck", 0));
        assertThat(spread.of(ledger.entry("new1"), GERMAN))
                .as("nothing is settled")
                .isEmpty();
        assertThat(spread.of(ledger.entry("done"), GERMAN)).as("only pencilled").isEmpty();
    }
}
