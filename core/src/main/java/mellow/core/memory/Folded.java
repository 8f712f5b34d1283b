package mellow.core.memory;

import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;

/**
 * The distance of a row of symbols from others in whole symbols, where those are equal that cost less than a whole one for each other; so never more than
 * {@link Symbols#distance}. 64 symbols are compared in one step (Myers 1999, in the form of Hyyrö 2003 for longer rows).
 */
final class Folded {

    private static final int DIRECT = 128;
    private static final long[] NOWHERE = {};

    private final int length;
    private final int words;
    /** Where each symbol stands, a bit for each place; those of ASCII by themselves. */
    private final long[][] direct = new long[DIRECT][];

    private final Map<Integer, long[]> others = new HashMap<>();
    private final long[] more;
    private final long[] less;

    Folded(int[] symbols) {
        length = symbols.length;
        words = Math.max(1, (length + 63) / 64);
        more = new long[words];
        less = new long[words];
        Arrays.fill(direct, NOWHERE);
        for (int i = 0; i < length; i++) {
            int symbol = Symbols.folded(symbols[i]);
            long[] places = places(symbol);
            if (places.length == 0) {
                places = new long[words];
                if (symbol >= 0 && symbol < DIRECT) {
                    direct[symbol] = places;
                } else {
                    others.put(symbol, places);
                }
            }
            places[i / 64] |= 1L << i;
        }
    }

    private long[] places(int symbol) {
        return symbol >= 0 && symbol < DIRECT ? direct[symbol] : others.getOrDefault(symbol, NOWHERE);
    }

    /** In how many steps another row is compared. */
    int steps(int other) {
        return words * other;
    }

    /**
     * Whether another row is at most so many symbols apart. Not for several threads at once.
     *
     * @param most in whole symbols
     */
    boolean within(int[] other, int most) {
        if (length == 0) {
            return other.length <= most;
        }
        Arrays.fill(more, -1L);
        Arrays.fill(less, 0L);
        int last = (length - 1) % 64;
        int distance = length;
        for (int j = 0; j < other.length; j++) {
            long[] places = places(Symbols.folded(other[j]));
            // The row of nothing grows by one with each symbol.
            int in = 1;
            for (int word = 0; word < words; word++) {
                long equal = places.length == 0 ? 0 : places[word];
                long up = more[word];
                long down = less[word];
                long vertical = equal | down;
                equal |= in < 0 ? 1 : 0;
                long horizontal = (equal & up) + up ^ up | equal;
                long grows = down | ~(horizontal | up);
                long shrinks = up & horizontal;
                int at = word == words - 1 ? last : 63;
                int out = (int) (grows >>> at & 1) - (int) (shrinks >>> at & 1);
                grows = grows << 1 | (in > 0 ? 1 : 0);
                shrinks = shrinks << 1 | (in < 0 ? 1 : 0);
                more[word] = shrinks | ~(vertical | grows);
                less[word] = grows & vertical;
                in = out;
            }
            distance += in;
            if (distance - (other.length - 1 - j) > most) {
                return false;
            }
        }
        return distance <= most;
    }
}
