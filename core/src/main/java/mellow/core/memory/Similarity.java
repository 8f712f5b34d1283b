package mellow.core.memory;

/**
 * How alike two sources are, in percent: 100 minus the share of symbols that have to be changed, put in or left out (Levenshtein 1966), where placeholders
 * and numbers are one symbol each and cost little for one another, as does the other case of a letter. The words of ICU messages count as other words do.
 * 100 is kept for equal texts. Symmetric. Cost: product of the lengths, bounded by {@link #LONGEST}.
 */
public final class Similarity {

    /** Longer texts are compared by their beginnings and are never 100 % unless equal; in symbols. */
    public static final int LONGEST = Symbols.LONGEST;

    private final String text;
    private final int[] symbols;

    private Similarity(String text) {
        this.text = text;
        this.symbols = Symbols.of(text);
    }

    /** Prepares a source that is compared with many. */
    public static Similarity to(String source) {
        return new Similarity(source);
    }

    /** The likeness of another source in whole percent, rounded down; 0 for nothing in common. */
    public int percent(String other) {
        if (text.equals(other)) {
            return 100;
        }
        return percent(new Similarity(other), 0);
    }

    /** As {@link #percent(String)}, of a source that is compared with many too; 0 for less than {@code least}, which takes less time. */
    public int percent(Similarity other, int least) {
        if (text.equals(other.text)) {
            return 100;
        }
        int longest = Math.max(symbols.length, other.symbols.length);
        int most = mostApart(least, longest);
        int distance = Symbols.distance(symbols, other.symbols, most);
        return distance > most ? 0 : percent(distance, longest);
    }

    /**
     * The likeness of sources that are not equal.
     *
     * @param distance in tenths of a symbol
     * @param longest how many symbols the longer one has
     */
    static int percent(int distance, int longest) {
        if (longest == 0) {
            return 99;
        }
        return Math.max(0, Math.min(99, 100 - (int) Math.ceil(100.0 * distance / (Symbols.WHOLE * longest))));
    }

    /** The largest distance, in tenths of a symbol, at which sources are at least so much alike. */
    static int mostApart(int percent, int longest) {
        return (100 - percent) * longest / 10;
    }
}
