package mellow.core.memory;

/**
 * What a row of symbols has, as bits: its letters in the first 64, its pairs of neighbours in the others. Two rows that are {@code k} whole symbols apart
 * differ in at most {@code k} letters and {@code 2k} pairs, whatever bits they fall on; so rows that differ in more need not be compared.
 */
final class Marks {

    /** How many symbols rows of a class have at most; pairs of longer ones would fill the bits. */
    private static final int[] LONGEST = {48, 120, Symbols.LONGEST};

    private static final int[] WORDS = {4, 8, 24};
    static final int CLASSES = LONGEST.length;

    private Marks() {}

    /** The class of rows of a length, from the shortest. */
    static int classOf(int length) {
        int at = 0;
        while (length > LONGEST[at]) {
            at++;
        }
        return at;
    }

    /** How many words of 64 bits the marks of a class have. */
    static int words(int ofClass) {
        return WORDS[ofClass];
    }

    /** The marks of a row in a class, whatever its length. */
    static void write(int[] symbols, int ofClass, long[] to, int at) {
        int pairs = (WORDS[ofClass] - 1) * Long.SIZE;
        int before = 0;
        for (int i = 0; i < symbols.length; i++) {
            int now = mixed(Symbols.folded(symbols[i]));
            to[at] |= 1L << (now >>> 26);
            if (i > 0) {
                int pair = (int) ((mixed(before * 31 + now) & 0xFFFF_FFFFL) * pairs >>> 32);
                to[at + 1 + pair / Long.SIZE] |= 1L << pair;
            }
            before = now;
        }
    }

    private static int mixed(int value) {
        int mixed = value * 0x9E3779B1;
        return (mixed ^ mixed >>> 15) * 0x85EBCA77;
    }

    /** How many letters one has that the other lacks, the larger of both ways. */
    static int lettersApart(long[] one, long[] other, int at) {
        return Math.max(Long.bitCount(one[0] & ~other[at]), Long.bitCount(other[at] & ~one[0]));
    }

    /** How many pairs one has that the other lacks, the larger of both ways. */
    static int pairsApart(long[] one, long[] other, int at) {
        int mine = 0;
        int theirs = 0;
        for (int i = 1; i < one.length; i++) {
            mine += Long.bitCount(one[i] & ~other[at + i]);
            theirs += Long.bitCount(other[at + i] & ~one[i]);
        }
        return Math.max(mine, theirs);
    }
}
