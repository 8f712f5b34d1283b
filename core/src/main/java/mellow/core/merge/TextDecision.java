package mellow.core.merge;

import mellow.core.format.FileText;
import org.jspecify.annotations.Nullable;

/** What a file's text means for a cell, from base (the file's path when last taken in), mine (the record) and theirs (the file now). */
public enum TextDecision {
    /** The file brings nothing: it is as it was, or says nothing. */
    NOTHING_NEW,
    /** The file says what is in force. */
    SAME,
    /** Only the file moved on. */
    TAKE,
    /** Both moved on, differently. */
    CONFLICT,
    /** There was nothing here. */
    ADD,
    /** The two differ and there is no base to tell who moved. */
    DIFFERS,
    /** The file had a text and has none now. */
    EMPTIED;

    /**
     * Decides for one text. Forms are compared exactly; what a file says about their state does not count here.
     *
     * @param base what the file held last time, or null when it was never taken in
     * @param mine the text in force, empty for none
     * @param theirs the file's text now, empty for none
     */
    public static TextDecision decide(@Nullable FileText base, FileText mine, FileText theirs) {
        if (base == null) {
            if (theirs.isEmpty()) {
                return NOTHING_NEW;
            }
            if (mine.isEmpty()) {
                return ADD;
            }
            return theirs.says(mine) ? SAME : DIFFERS;
        }
        if (theirs.says(base)) {
            return NOTHING_NEW;
        }
        if (theirs.says(mine)) {
            return SAME;
        }
        if (theirs.isEmpty()) {
            return EMPTIED;
        }
        return mine.says(base) ? TAKE : CONFLICT;
    }
}
