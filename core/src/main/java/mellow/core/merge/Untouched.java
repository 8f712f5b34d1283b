package mellow.core.merge;

import java.util.BitSet;

/** Counts the entries that the record and a file both have and to which nothing is done, whatever order they are told in. */
public final class Untouched {

    private final BitSet met = new BitSet();
    private final BitSet touched = new BitSet();

    /** Both have the entry that stands at {@code index} in the file. */
    public void met(int index) {
        met.set(index);
    }

    /** Something is done to it; those that only the record has say -1. */
    public void touched(int index) {
        if (index >= 0) {
            touched.set(index);
        }
    }

    /** How many were met and never touched. */
    public int count() {
        BitSet rest = (BitSet) met.clone();
        rest.andNot(touched);
        return rest.cardinality();
    }
}
