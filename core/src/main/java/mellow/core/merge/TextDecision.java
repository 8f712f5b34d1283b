package mellow.core.merge;

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
     * Decides for one text. An empty string is "no text"; values are compared exactly.
     *
     * @param base what the file held last time, or null when it was never taken in
     * @param mine the text in force, empty for none
     * @param theirs the file's text now, empty for none
     */
    public static TextDecision decide(@Nullable String base, String mine, String theirs) {
        if (base == null) {
            if (theirs.isEmpty()) {
                return NOTHING_NEW;
            }
            if (mine.isEmpty()) {
                return ADD;
            }
            return theirs.equals(mine) ? SAME : DIFFERS;
        }
        if (theirs.equals(base)) {
            return NOTHING_NEW;
        }
        if (theirs.equals(mine)) {
            return SAME;
        }
        if (theirs.isEmpty()) {
            return EMPTIED;
        }
        return mine.equals(base) ? TAKE : CONFLICT;
    }
}
