package mellow.core.set;

import java.util.Arrays;
import java.util.Set;
import java.util.stream.IntStream;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;

/**
 * What a file says, as prints of 64 bits: enough to tell which files have keys and texts in common, at sixteen bytes an entry. Two different keys have
 * the same print once in some billion files.
 */
public final class Prints {

    /** Nothing. */
    public static final Prints NONE = new Prints(new long[0], new long[0]);

    private static final Set<String> FORMS = Set.of("zero", "one", "two", "few", "many", "other", "plural");

    /** The print of no text. */
    private static final long NO_TEXT = 0;

    private final long[] keys;
    private final long[] texts;

    private Prints(long[] keys, long[] texts) {
        this.keys = keys;
        this.texts = texts;
    }

    /** The prints of a file's keys, and of its texts in the language at {@code column}; -1 for no texts. */
    public static Prints of(FileReading file, int column) {
        int size = file.size();
        long[] keys = new long[size];
        long[] texts = new long[size];
        for (int i = 0; i < size; i++) {
            EntryId id = file.id(i);
            keys[i] = print(id.context(), print(stem(id.key()), 1));
            FileText text = column < 0 ? FileText.NONE : file.entry(i).texts().get(column);
            texts[i] = text.isEmpty() ? NO_TEXT : Math.max(1, print(text.main(), 1) >>> 1);
        }
        int[] order = IntStream.range(0, size)
                .boxed()
                .sorted((one, other) -> Long.compare(keys[one], keys[other]))
                .mapToInt(Integer::intValue)
                .toArray();
        return new Prints(
                Arrays.stream(order).mapToLong(i -> keys[i]).toArray(),
                Arrays.stream(order).mapToLong(i -> texts[i]).toArray());
    }

    /** Languages spell other forms of a plural, {@code days_one} here and {@code days_other} there, and mean one key. */
    private static String stem(String key) {
        int underscore = key.lastIndexOf('_');
        return underscore > 0 && FORMS.contains(key.substring(underscore + 1)) ? key.substring(0, underscore) : key;
    }

    /** FNV-1a with a last mix, so that near keys are far apart. */
    private static long print(String words, long seed) {
        long hash = 0xcbf29ce484222325L ^ seed;
        for (int i = 0; i < words.length(); i++) {
            hash = (hash ^ words.charAt(i)) * 0x100000001b3L;
        }
        hash = (hash ^ (hash >>> 32)) * 0x9e3779b97f4a7c15L;
        return hash ^ (hash >>> 29);
    }

    /** Number of entries. */
    public int size() {
        return keys.length;
    }

    /** Number of entries that have a text. */
    public int texts() {
        return (int) Arrays.stream(texts).filter(text -> text != NO_TEXT).count();
    }

    /** How many keys both have. */
    public int common(Prints other) {
        int common = 0;
        for (int i = 0, j = 0; i < keys.length && j < other.keys.length; ) {
            int side = Long.compare(keys[i], other.keys[j]);
            common += side == 0 ? 1 : 0;
            i += side <= 0 ? 1 : 0;
            j += side >= 0 ? 1 : 0;
        }
        return common;
    }

    /** How many keys have the same text in both. */
    public int same(Prints other) {
        int same = 0;
        for (int i = 0, j = 0; i < keys.length && j < other.keys.length; ) {
            int side = Long.compare(keys[i], other.keys[j]);
            same += side == 0 && texts[i] != NO_TEXT && texts[i] == other.texts[j] ? 1 : 0;
            i += side <= 0 ? 1 : 0;
            j += side >= 0 ? 1 : 0;
        }
        return same;
    }

    /** About {@code most} of the entries, the same keys of every file, so that what is compared of large files is small and comparable. */
    public Prints sample(int most, int largest) {
        if (largest <= most) {
            return this;
        }
        long every = largest / most + 1L;
        int[] kept = IntStream.range(0, keys.length)
                .filter(i -> Long.remainderUnsigned(keys[i], every) == 0)
                .toArray();
        return new Prints(
                Arrays.stream(kept).mapToLong(i -> keys[i]).toArray(),
                Arrays.stream(kept).mapToLong(i -> texts[i]).toArray());
    }
}
