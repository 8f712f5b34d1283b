package mellow.core.memory;

import java.io.ByteArrayOutputStream;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import mellow.core.memory.MemoryIndex.Unit;

/**
 * A part of the memory that does not change but for units that are taken out. Each source is there once, however many units have it; sources stand by their
 * length, so those of a band of lengths stand together.
 */
final class Part {

    private final char[] lengths;
    private final long[] hashes;
    /** The languages that a source has units in; bit {@code language % 64}. */
    private final long[] languages;

    private final int[] symbolsAt;
    private final byte[] symbols;
    /** The marks of each class, and the first source of each. */
    private final long[][] marks = new long[Marks.CLASSES][];

    private final int[] firstOf = new int[Marks.CLASSES + 1];
    /** The units of source {@code i} stand from {@code unitsAt[i]} to {@code unitsAt[i + 1]}. */
    private final int[] unitsAt;

    private final long[] ids;
    private final char[] unitLanguages;
    /** Where units stand, by their ids. */
    private final int[] byId;

    private final BitSet gone;
    private int living;

    /** A source on its way into a part. */
    private record Source(int[] symbols, long hash, List<Long> ids, List<Integer> languages) {

        Source(int[] symbols, long hash) {
            this(symbols, hash, new ArrayList<>(), new ArrayList<>());
        }
    }

    /** Takes sources together that are equal. */
    static final class Builder {

        private final Map<Long, Source> sources = new HashMap<>();
        private int units;

        void add(Unit unit) {
            long hash = hash(unit.source());
            Source source = sources.computeIfAbsent(hash, of -> new Source(Symbols.of(unit.source()), hash));
            source.ids.add(unit.id());
            source.languages.add(unit.language());
            units++;
        }

        /** What is left of a part. */
        void add(Part part, BitSet gone) {
            for (int i = 0; i < part.lengths.length; i++) {
                for (int unit = part.unitsAt[i]; unit < part.unitsAt[i + 1]; unit++) {
                    if (!gone.get(unit)) {
                        int at = i;
                        Source source =
                                sources.computeIfAbsent(part.hashes[i], hash -> new Source(part.symbols(at), hash));
                        source.ids.add(part.ids[unit]);
                        source.languages.add((int) part.unitLanguages[unit]);
                        units++;
                    }
                }
            }
        }

        int units() {
            return units;
        }

        Part part() {
            return new Part(this);
        }
    }

    private Part(Builder builder) {
        List<Source> all = new ArrayList<>(builder.sources.values());
        all.sort(Comparator.comparingInt((Source one) -> one.symbols.length).thenComparingLong(one -> one.hash));
        int count = all.size();
        lengths = new char[count];
        hashes = new long[count];
        languages = new long[count];
        symbolsAt = new int[count + 1];
        unitsAt = new int[count + 1];
        ids = new long[builder.units];
        unitLanguages = new char[builder.units];
        ByteArrayOutputStream written = new ByteArrayOutputStream();
        int unit = 0;
        for (int i = 0; i < count; i++) {
            Source source = all.get(i);
            lengths[i] = (char) source.symbols.length;
            hashes[i] = source.hash;
            write(source.symbols, written);
            symbolsAt[i + 1] = written.size();
            firstOf[Marks.classOf(source.symbols.length) + 1] = i + 1;
            for (int j = 0; j < source.ids.size(); j++) {
                ids[unit] = source.ids.get(j);
                int language = source.languages.get(j);
                unitLanguages[unit] = (char) language;
                languages[i] |= 1L << language;
                unit++;
            }
            unitsAt[i + 1] = unit;
        }
        symbols = written.toByteArray();
        for (int of = 0; of < Marks.CLASSES; of++) {
            firstOf[of + 1] = Math.max(firstOf[of], firstOf[of + 1]);
            int words = Marks.words(of);
            marks[of] = new long[(firstOf[of + 1] - firstOf[of]) * words];
            for (int i = firstOf[of]; i < firstOf[of + 1]; i++) {
                Marks.write(all.get(i).symbols, of, marks[of], (i - firstOf[of]) * words);
            }
        }
        byId = IntStream.range(0, ids.length)
                .boxed()
                .sorted(Comparator.comparingLong(at -> ids[at]))
                .mapToInt(Integer::intValue)
                .toArray();
        gone = new BitSet(ids.length);
        living = ids.length;
    }

    /** A number that is another for another text but once in 2⁶⁴. */
    static long hash(String text) {
        long hash = text.length();
        for (int i = 0; i < text.length(); i++) {
            hash = (hash ^ text.charAt(i)) * 0x9E37_79B9_7F4A_7C15L;
            hash ^= hash >>> 32;
        }
        return hash;
    }

    /** Seven bits at a time, the lowest first. */
    private static void write(int[] symbols, ByteArrayOutputStream to) {
        for (int symbol : symbols) {
            int rest = symbol;
            while ((rest & ~0x7F) != 0) {
                to.write(rest & 0x7F | 0x80);
                rest >>>= 7;
            }
            to.write(rest);
        }
    }

    /** What tells a source from others, see {@link #hash(String)}. */
    long hash(int source) {
        return hashes[source];
    }

    /** How many symbols a source has. */
    int length(int source) {
        return lengths[source];
    }

    /** The symbols of a source. */
    int[] symbols(int source) {
        int[] read = new int[lengths[source]];
        int at = symbolsAt[source];
        for (int i = 0; i < read.length; i++) {
            int shift = 0;
            byte next;
            do {
                next = symbols[at++];
                read[i] |= (next & 0x7F) << shift;
                shift += 7;
            } while (next < 0);
        }
        return read;
    }

    /** False where there is no such unit. */
    boolean remove(long id) {
        int from = 0;
        int to = byId.length - 1;
        while (from <= to) {
            int middle = (from + to) >>> 1;
            long found = ids[byId[middle]];
            if (found == id) {
                if (gone.get(byId[middle])) {
                    return false;
                }
                gone.set(byId[middle]);
                living--;
                return true;
            }
            if (found < id) {
                from = middle + 1;
            } else {
                to = middle - 1;
            }
        }
        return false;
    }

    /** How many units were not taken out. */
    int living() {
        return living;
    }

    /** How many units there are, those that were taken out included. */
    int size() {
        return ids.length;
    }

    int sources() {
        return lengths.length;
    }

    /** What was taken out, as it is now. */
    BitSet gone() {
        return (BitSet) gone.clone();
    }

    /** The units that were taken out since, given what was before. */
    List<Long> goneSince(BitSet before) {
        BitSet since = gone();
        since.andNot(before);
        return since.stream().mapToObj(at -> ids[at]).toList();
    }

    /** As many bytes as its arrays have, roughly. */
    long bytes() {
        long bytes = symbols.length + 26L * lengths.length + 14L * ids.length + ids.length / 8;
        for (long[] of : marks) {
            bytes += 8L * of.length;
        }
        return bytes;
    }

    /** Offers what is alike enough. */
    void search(Search search) {
        int first = atLeast(search.shortest());
        int after = atLeast(search.longest() + 1);
        for (int of = 0; of < Marks.CLASSES; of++) {
            long[] wanted = search.marks(of);
            for (int i = Math.max(first, firstOf[of]); i < Math.min(after, firstOf[of + 1]); i++) {
                if ((languages[i] & search.languages()) != 0) {
                    search.consider(i, lengths[i], wanted, marks[of], (i - firstOf[of]) * wanted.length);
                }
            }
        }
    }

    private int atLeast(int length) {
        int from = 0;
        int to = lengths.length;
        while (from < to) {
            int middle = (from + to) >>> 1;
            if (lengths[middle] < length) {
                from = middle + 1;
            } else {
                to = middle;
            }
        }
        return from;
    }

    /** The units of a source in a language, the newest first. */
    List<Long> units(int source, int language) {
        List<Long> units = new ArrayList<>();
        for (int unit = unitsAt[source]; unit < unitsAt[source + 1]; unit++) {
            if (unitLanguages[unit] == language && !gone.get(unit)) {
                units.add(ids[unit]);
            }
        }
        units.sort(Collections.reverseOrder());
        return units;
    }

    /** Parts by how many units they have, in steps: those of one step are put together. */
    int step() {
        return (int) (Math.log(Math.max(1, living)) / Math.log(4));
    }
}
