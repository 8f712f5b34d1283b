package mellow.bench;

import static java.lang.System.out;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.IntStream;
import mellow.core.memory.MemoryIndex;
import mellow.core.memory.MemoryIndex.Hit;
import mellow.core.memory.MemoryIndex.Unit;
import mellow.core.memory.Similarity;

/**
 * {@code ./mellow bench memory}: a million units of made-up sources in 12 languages: heap, time to build, similar searches one by one, 50 at once and while texts
 * are settled, and how many of the best hits are found against comparing with all. Then a million different sources in one language.
 */
public final class MemoryBench {

    private static final int UNITS = 1_000_000;
    private static final int LANGUAGES = 12;
    private static final int QUERIES = 2_000;
    private static final int LEAST = 70;
    private static final int MOST = 8;
    private static final int AT_ONCE = 50;
    private static final int BATCH = 20_000;
    private static final int SETTLED_EVERY_MILLIS = 600;

    private final List<String> sources = new ArrayList<>();
    private final List<Unit> units = new ArrayList<>();
    private final List<Unit> asked = new ArrayList<>();

    private MemoryBench(int perSource) {
        MadeUpSources made = new MadeUpSources(22);
        Random random = new Random(1);
        while (units.size() < UNITS) {
            String source = made.next();
            sources.add(source);
            // Which languages a source was settled in: about so many of them.
            for (int language = 1; language <= LANGUAGES && units.size() < UNITS; language++) {
                if (perSource == 1 ? language == 1 : random.nextInt(LANGUAGES) < perSource) {
                    units.add(new Unit(units.size(), 0, language, source));
                }
            }
        }
        for (int i = 0; i < QUERIES; i++) {
            asked.add(new Unit(-1, 0, perSource == 1 ? 1 : 1 + random.nextInt(LANGUAGES), made.next()));
        }
    }

    public static void main(String[] arguments) throws Exception {
        new MemoryBench(3).run(true);
        new MemoryBench(1).run(false);
    }

    private static long used() throws InterruptedException {
        for (int i = 0; i < 3; i++) {
            System.gc();
            Thread.sleep(200);
        }
        return Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
    }

    private void run(boolean recall) throws Exception {
        long before = used();
        long start = System.nanoTime();
        MemoryIndex index = new MemoryIndex();
        for (int i = 0; i < units.size(); i += BATCH) {
            index.put(units.subList(i, Math.min(units.size(), i + BATCH)));
            while (index.tidy()) {
                // As in the background of a server.
            }
        }
        double built = (System.nanoTime() - start) / 1e9;
        long bytes = used() - before;
        out.printf(
                Locale.ROOT,
                "%,d units of %,d sources built in %.1f s (goal with reading them 30); %d bytes of heap a unit (goal 400), %d by its own count, %d parts%n",
                index.size().units(),
                sources.size(),
                built,
                bytes / UNITS,
                index.size().bytes() / UNITS,
                index.size().parts());
        asked.subList(0, 500).forEach(one -> search(index, one));
        print(
                "one by one",
                asked.stream().mapToDouble(one -> millis(index, one)).toArray());
        together(index);
        whileSettling(index);
        if (recall) {
            recall(index);
        }
    }

    private static List<Hit> search(MemoryIndex index, Unit asked) {
        return index.search(asked.space(), asked.language(), asked.source(), LEAST, MOST);
    }

    private static double millis(MemoryIndex index, Unit asked) {
        long start = System.nanoTime();
        search(index, asked);
        return (System.nanoTime() - start) / 1e6;
    }

    private static void print(String what, double[] millis) {
        Arrays.sort(millis);
        out.printf(
                Locale.ROOT,
                "searches of %d %% and more, %s: p50 %.1f ms, p95 %.1f ms (goal 20 one by one), the longest %.1f ms%n",
                LEAST,
                what,
                millis[millis.length / 2],
                millis[millis.length * 95 / 100],
                millis[millis.length - 1]);
    }

    private void together(MemoryIndex index) throws Exception {
        ExecutorService people = Executors.newFixedThreadPool(AT_ONCE);
        List<Future<double[]>> all = new ArrayList<>();
        for (int person = 0; person < AT_ONCE; person++) {
            int first = person;
            all.add(people.submit(() -> IntStream.range(0, 40)
                    .mapToDouble(i -> millis(index, asked.get((first + i * AT_ONCE) % QUERIES)))
                    .toArray()));
        }
        List<double[]> times = new ArrayList<>();
        for (Future<double[]> one : all) {
            times.add(one.get());
        }
        people.shutdown();
        print(
                AT_ONCE + " at once",
                times.stream().flatMapToDouble(Arrays::stream).toArray());
    }

    private void whileSettling(MemoryIndex index) {
        AtomicBoolean done = new AtomicBoolean();
        CompletableFuture<Integer> settling = CompletableFuture.supplyAsync(() -> {
            int settled = 0;
            while (!done.get()) {
                Unit one = units.get(settled * 37);
                index.put(List.of(new Unit(one.id(), 0, one.language(), one.source() + " " + settled++)));
                index.tidy();
                pause();
            }
            return settled;
        });
        print(
                "while texts are settled",
                asked.stream().mapToDouble(one -> millis(index, one)).toArray());
        done.set(true);
        out.printf(Locale.ROOT, "(%d were settled meanwhile)%n", settling.join());
    }

    private static void pause() {
        try {
            Thread.sleep(SETTLED_EVERY_MILLIS);
        } catch (InterruptedException ended) {
            Thread.currentThread().interrupt();
        }
    }

    /** How many of the best hits have the likeness that comparing with all finds. */
    private void recall(MemoryIndex index) {
        List<Similarity> all = new ArrayList<>();
        units.forEach(unit -> all.add(
                all.isEmpty() || !unit.source().equals(units.get(all.size() - 1).source())
                        ? Similarity.to(unit.source())
                        : all.get(all.size() - 1)));
        int[] counted = IntStream.range(0, QUERIES)
                .parallel()
                .mapToObj(i -> {
                    Unit one = asked.get(i);
                    Similarity wanted = Similarity.to(one.source());
                    int[] compared = IntStream.range(0, UNITS)
                            .filter(at -> units.get(at).language() == one.language())
                            .map(at -> -wanted.percent(all.get(at), LEAST))
                            .filter(percent -> percent < 0)
                            .sorted()
                            .limit(MOST)
                            .toArray();
                    int[] found = search(index, one).stream()
                            .mapToInt(hit -> -hit.percent())
                            .limit(MOST)
                            .toArray();
                    int same = 0;
                    for (int j = 0; j < compared.length; j++) {
                        same += j < found.length && found[j] == compared[j] ? 1 : 0;
                    }
                    return new int[] {same, compared.length};
                })
                .reduce(new int[2], (one, other) -> new int[] {one[0] + other[0], one[1] + other[1]});
        out.printf(
                Locale.ROOT,
                "recall of the %d best against comparing with all, %,d searches, %,d hits: %.2f %% (goal 99)%n",
                MOST,
                QUERIES,
                counted[1],
                100.0 * counted[0] / counted[1]);
    }
}
