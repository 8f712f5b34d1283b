package mellow.core.format.tree;

import mellow.core.format.Limits;
import mellow.core.format.source.SourceText;

/** Counts the values of a tree while it grows, so that a file of very many small ones is refused before it fills the memory. */
public final class NodeCount {

    private final SourceText source;
    private final int most;
    private int count;

    /** {@code perEntry}: how many values an entry of the format may have. */
    public NodeCount(SourceText source, Limits limits, int perEntry) {
        this.source = source;
        this.most = (int) Math.min(Integer.MAX_VALUE, (long) limits.entries() * perEntry);
    }

    /**
     * One more value, at {@code offset} in UTF-16 units.
     *
     * @throws mellow.core.format.UnreadableFileException when it is one too many
     */
    public void add(int offset) {
        if (++count > most) {
            throw source.refuse(offset, "more than " + most + " values", "at most that many; split the file");
        }
    }
}
