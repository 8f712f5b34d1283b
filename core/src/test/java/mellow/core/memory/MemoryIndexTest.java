package mellow.core.memory;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.IntStream;
import mellow.core.memory.MemoryIndex.Hit;
import mellow.core.memory.MemoryIndex.Unit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The index finds what comparing with everything finds. */
class MemoryIndexTest {

    private static final String[] WORDS = {
        "ramp", "Ramp", "door", "is", "open", "closed", "by", "vehicle", "{n}", "%s", "<b>", "12", "7", "船倉", "and",
        "الباب"
    };
    private static final int ALL = 1_000;

    private final Random random = new Random(22);
    private final MemoryIndex index = new MemoryIndex();
    private final Map<Long, Unit> known = new HashMap<>();

    private String source() {
        int words =
                random.nextInt(20) == 0 ? 20 + random.nextInt(60) : random.nextInt(60) == 0 ? 0 : 2 + random.nextInt(5);
        StringBuilder source = new StringBuilder();
        for (int i = 0; i < words; i++) {
            source.append(i == 0 ? "" : " ").append(WORDS[random.nextInt(WORDS.length)]);
        }
        if (random.nextInt(30) == 0) {
            source.append("{n, plural, one {# car} other {# ")
                    .append(WORDS[random.nextInt(4)])
                    .append("}}");
        }
        return source.toString();
    }

    private Unit unit(long id) {
        return new Unit(id, random.nextInt(2), 60 + random.nextInt(8), source());
    }

    private void put(List<Unit> units) {
        index.put(units);
        units.forEach(unit -> known.put(unit.id(), unit));
    }

    /** Likeness by units, the most alike first. */
    private List<Hit> compared(int space, int language, String source, int least) {
        Similarity wanted = Similarity.to(source);
        return known.values().stream()
                .filter(unit -> unit.space() == space && unit.language() == language)
                .map(unit -> new Hit(unit.id(), wanted.percent(unit.source())))
                .filter(hit -> hit.percent() >= least)
                .sorted(Comparator.comparingInt(Hit::percent).reversed().thenComparing(Hit::unit))
                .toList();
    }

    private static List<Hit> sorted(List<Hit> hits) {
        return hits.stream()
                .sorted(Comparator.comparingInt(Hit::percent).reversed().thenComparing(Hit::unit))
                .toList();
    }

    private void requireSame(int least) {
        for (int i = 0; i < 40; i++) {
            String source = i % 3 == 0 || known.isEmpty()
                    ? source()
                    : new ArrayList<>(known.values())
                            .get(random.nextInt(known.size()))
                            .source();
            int space = random.nextInt(2);
            int language = 60 + random.nextInt(8);
            assertThat(sorted(index.search(space, language, source, least, ALL)))
                    .as(source + " at " + least)
                    .isEqualTo(compared(space, language, source, least));
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 30, 50, 55, 70, 85, 95, 99, 100})
    void findsWhatComparingWithEverythingFinds(int least) {
        put(IntStream.range(0, 2_000).mapToObj(this::unit).toList());
        requireSame(least);
    }

    @Test
    void afterAnySequenceOfChangesItIsAsIfItHadBeenBuiltAnew() {
        for (int round = 0; round < 60; round++) {
            int many = random.nextInt(6) == 0 ? 600 : random.nextInt(40);
            put(IntStream.range(0, many)
                    .mapToObj(i -> unit(random.nextInt(3_000)))
                    // Of two with one id the last one counts.
                    .toList());
            List<Long> out = IntStream.range(0, random.nextInt(80))
                    .mapToObj(i -> (long) random.nextInt(3_000))
                    .toList();
            index.remove(out);
            out.forEach(known::remove);
            if (random.nextBoolean()) {
                index.tidy();
            }
            assertThat(index.size().units()).isEqualTo(known.size());
            if (round % 10 == 9) {
                requireSame(60);
            }
        }
        while (index.tidy()) {
            // Until nothing is left to do.
        }
        requireSame(60);
        assertThat(index.size().parts()).isLessThan(20);
        index.remove(List.copyOf(known.keySet()));
        known.clear();
        while (index.tidy()) {
            // What has no units goes.
        }
        assertThat(index.size()).isEqualTo(new MemoryIndex.Size(0, 0, 0, 0));
    }

    @Test
    void takesWhateverATextMayHold() {
        String[] hostile = {
            "",
            "\u0000",
            "\uD800",
            "x\uDC00y",
            "1".repeat(5_000),
            "1.".repeat(5_000),
            "{".repeat(5_000),
            "{n,".repeat(2_000),
            "%".repeat(5_000),
            "<b>".repeat(3_000),
            "ramp ".repeat(200_000),
            "\u202E\u2066",
            "{n, plural, other {".repeat(60)
        };
        for (int i = 0; i < hostile.length; i++) {
            put(List.of(new Unit(i, 0, 61, hostile[i])));
        }
        for (int i = 0; i < hostile.length; i++) {
            assertThat(index.search(0, 61, hostile[i], 100, 5)).containsExactly(new Hit(i, 100));
            assertThat(sorted(index.search(0, 61, hostile[i], 60, ALL))).isEqualTo(compared(0, 61, hostile[i], 60));
        }
    }

    @Test
    void tellsTheBestFirstAndNoMoreSourcesThanAskedFor() {
        put(List.of(
                new Unit(1, 0, 1, "Ramp is closed"),
                new Unit(2, 0, 1, "Ramp is open"),
                new Unit(3, 0, 1, "Ramp is opened"),
                new Unit(4, 0, 1, "Ramp is open"),
                new Unit(5, 0, 2, "Ramp is open"),
                new Unit(6, 1, 1, "Ramp is open"),
                new Unit(7, 0, 65, "Ramp is open")));
        assertThat(index.search(0, 1, "Ramp is open", 60, 2))
                .containsExactly(new Hit(4, 100), new Hit(2, 100), new Hit(3, 85));
        assertThat(index.search(0, 1, "Ramp is open", 86, 9))
                .extracting(Hit::percent)
                .containsExactly(100, 100);
        assertThat(index.search(9, 1, "Ramp is open", 60, 9)).isEmpty();
        index.clear();
        assertThat(index.search(0, 1, "Ramp is open", 60, 9)).isEmpty();
    }

    @Test
    void isSearchedAndPutInOrderWhileItChanges() {
        put(IntStream.range(0, 3_000).mapToObj(this::unit).toList());
        AtomicBoolean done = new AtomicBoolean();
        CompletableFuture<Integer> tidying = CompletableFuture.supplyAsync(() -> {
            int rounds = 0;
            while (!done.get()) {
                rounds += index.tidy() ? 1 : 0;
            }
            return rounds;
        });
        CompletableFuture<Void> searching = CompletableFuture.runAsync(() -> {
            while (!done.get()) {
                index.search(0, 61, "Ramp is open", 60, 8);
            }
        });
        for (int i = 0; i < 200; i++) {
            put(IntStream.range(0, 30)
                    .mapToObj(j -> unit(random.nextInt(4_000)))
                    .toList());
            List<Long> out = List.of((long) random.nextInt(4_000), (long) random.nextInt(4_000));
            index.remove(out);
            out.forEach(known::remove);
        }
        done.set(true);
        searching.join();
        assertThat(tidying.join()).isPositive();
        assertThat(index.size().units()).isEqualTo(known.size());
        requireSame(60);
    }
}
