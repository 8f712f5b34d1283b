package mellow.core.format.source;

import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;

/** A patch whose insertions wait until all removals are known, so that an entry never follows one that leaves. */
public abstract class OrderedPatch implements FilePatch {

    /** The changes to the characters of the file. */
    protected final Splice splice;

    private final BitSet removed = new BitSet();
    private final List<Insertion> insertions = new ArrayList<>();

    private record Insertion(int after, FileEntry entry) {}

    /** A patch without changes. */
    protected OrderedPatch(Splice splice) {
        this.splice = splice;
    }

    /** Number of entries in the file. */
    protected abstract int size();

    /** Takes an entry out. */
    protected abstract void takeOut(int entry);

    /**
     * Puts an entry in.
     *
     * @param after the entry that it follows, which stays; -1 when no entry stays
     */
    protected abstract void putIn(int after, FileEntry added);

    @Override
    public void remove(int entry) {
        removed.set(entry);
        takeOut(entry);
    }

    @Override
    public void insert(int after, FileEntry added) {
        insertions.add(new Insertion(after < 0 ? size() - 1 : after, added));
    }

    /** Whether an entry was taken out. */
    protected final boolean removed(int entry) {
        return removed.get(entry);
    }

    /** After all insertions are placed, before anything is written. */
    protected void finish() {}

    @Override
    public void writeTo(OutputStream out) throws IOException {
        for (Insertion insertion : insertions) {
            int after = insertion.after;
            while (after >= 0 && removed.get(after)) {
                after--;
            }
            putIn(after, insertion.entry);
        }
        insertions.clear();
        finish();
        splice.writeTo(out);
    }
}
