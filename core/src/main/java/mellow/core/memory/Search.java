package mellow.core.memory;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import mellow.core.memory.MemoryIndex.Hit;

/** One search: first whatever may be alike by its length and marks, then the likeness of the most promising. */
final class Search {

    /** As many steps of {@link Folded} are done, on those sources whose marks differ least; some milliseconds. */
    private static final int MOST_STEPS = 1_500_000;
    /** As many units of the same source are told. */
    private static final int MOST_OF_ONE = 20;

    private final int[] wanted;
    private final Folded folded;
    private final long hash;
    private final int language;
    private final int least;
    /** How many whole symbols apart a source may be, by its length. */
    private final int[] wholeApart = new int[Symbols.LONGEST + 1];

    private final long[][] marks = new long[Marks.CLASSES][];

    private final List<Part> parts = new ArrayList<>();
    private int[] partOf = new int[64];
    private int[] sources = new int[64];
    private int[] apart = new int[64];
    private int count;

    private record Found(Part part, int source, int percent) {}

    Search(String source, int language, int least) {
        wanted = Symbols.of(source);
        folded = new Folded(wanted);
        hash = Part.hash(source);
        this.language = language;
        this.least = Math.max(1, least);
        for (int length = 0; length < wholeApart.length; length++) {
            wholeApart[length] = Similarity.mostApart(this.least, Math.max(length, wanted.length)) / Symbols.WHOLE;
        }
        for (int of = 0; of < Marks.CLASSES; of++) {
            marks[of] = new long[Marks.words(of)];
            Marks.write(wanted, of, marks[of], 0);
        }
    }

    /** The fewest symbols that a source can have to be alike enough. */
    int shortest() {
        return (wanted.length * least + 99) / 100;
    }

    /** The most. */
    int longest() {
        return Math.min(Symbols.LONGEST, wanted.length * 100 / least);
    }

    long[] marks(int ofClass) {
        return marks[ofClass];
    }

    long languages() {
        return 1L << language;
    }

    void in(Part part) {
        parts.add(part);
        part.search(this);
    }

    /** Takes a source of a part where its marks leave it a chance. */
    void consider(int source, int length, long[] mine, long[] theirs, int at) {
        int whole = wholeApart[length];
        if (Marks.lettersApart(mine, theirs, at) > whole) {
            return;
        }
        int pairs = Marks.pairsApart(mine, theirs, at);
        if (pairs > 2 * whole) {
            return;
        }
        if (count == sources.length) {
            partOf = Arrays.copyOf(partOf, 2 * count);
            sources = Arrays.copyOf(sources, 2 * count);
            apart = Arrays.copyOf(apart, 2 * count);
        }
        partOf[count] = parts.size() - 1;
        sources[count] = source;
        apart[count++] = pairs;
    }

    /** The units that are most alike, at most so many sources of them. */
    List<Hit> hits(int most) {
        List<Found> best = new ArrayList<>();
        int floor = least;
        int steps = 0;
        for (int at : promising()) {
            if (steps > MOST_STEPS) {
                break;
            }
            Part part = parts.get(partOf[at]);
            steps += folded.steps(part.length(sources[at]));
            int percent = percent(part, sources[at], floor);
            if (percent >= floor && !part.units(sources[at], language).isEmpty()) {
                best.add(new Found(part, sources[at], percent));
                if (best.size() >= 2 * most) {
                    best.sort(Comparator.comparingInt(Found::percent).reversed());
                    best.subList(most, best.size()).clear();
                    floor = best.get(most - 1).percent;
                }
            }
        }
        best.sort(Comparator.comparingInt(Found::percent).reversed());
        List<Hit> hits = new ArrayList<>();
        for (Found found : best.subList(0, Math.min(most, best.size()))) {
            found.part.units(found.source, language).stream()
                    .limit(MOST_OF_ONE)
                    .forEach(unit -> hits.add(new Hit(unit, found.percent)));
        }
        return hits;
    }

    private int percent(Part part, int source, int floor) {
        if (part.hash(source) == hash) {
            return 100;
        }
        int[] theirs = part.symbols(source);
        int longest = Math.max(theirs.length, wanted.length);
        int most = Similarity.mostApart(floor, longest);
        if (!folded.within(theirs, most / Symbols.WHOLE)) {
            return 0;
        }
        int distance = Symbols.distance(wanted, theirs, most);
        return distance > most ? 0 : Similarity.percent(distance, longest);
    }

    /** Where the most promising stand, the best first: by counting, as there may be very many. */
    private int[] promising() {
        int farthest = 0;
        for (int i = 0; i < count; i++) {
            farthest = Math.max(farthest, apart[i]);
        }
        int[] from = new int[farthest + 2];
        for (int i = 0; i < count; i++) {
            from[apart[i] + 1]++;
        }
        for (int i = 1; i < from.length; i++) {
            from[i] += from[i - 1];
        }
        int[] sorted = new int[count];
        for (int i = 0; i < count; i++) {
            sorted[from[apart[i]]++] = i;
        }
        return sorted;
    }
}
