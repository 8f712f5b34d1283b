package mellow.core.merge;

import mellow.core.format.FileText;
import org.jspecify.annotations.Nullable;

/** What a file's source text means for an entry that both have. */
public enum SourceDecision {
    /** The same as in the record, or the file does not say. */
    KEEP,
    /** The file rewrote it and nobody touched it here. */
    REWRITTEN,
    /** It was edited here and the file did not move. */
    EDITED_HERE,
    /** Both rewrote it, differently. */
    CONFLICT;

    /**
     * Decides for one source.
     *
     * @param base what the file held last time, or null when it was never taken in; then a difference counts as rewritten, since the file leads
     * @param mine the entry's source now
     * @param theirs the file's source now
     */
    public static SourceDecision decide(@Nullable FileText base, FileText mine, FileText theirs) {
        if (theirs.isEmpty() || theirs.says(mine)) {
            return KEEP;
        }
        if (base == null || mine.says(base)) {
            return REWRITTEN;
        }
        return theirs.says(base) ? EDITED_HERE : CONFLICT;
    }
}
