package mellow.core.cell;

import java.util.Locale;

/** The displayed state of a cell: the first in this order that holds. Exactly one holds, so the states of a scope add up to its size. */
public enum CellState {
    OFFERED,
    RETURNED,
    STALE,
    SETTLED,
    PENCILLED,
    UNTRANSLATED;

    /**
     * The first state that holds.
     *
     * @param open whether an offer waits for an answer
     * @param returned whether the newest offer was returned and no newer text is in force
     * @param standing the standing of the text in force
     * @param basedOn the source revision the text was made from
     * @param meaningRevision the source revision at which the meaning last changed
     */
    public static CellState of(boolean open, boolean returned, Standing standing, int basedOn, int meaningRevision) {
        if (open) {
            return OFFERED;
        }
        if (returned) {
            return RETURNED;
        }
        if (standing == Standing.NONE) {
            return UNTRANSLATED;
        }
        if (basedOn < meaningRevision) {
            return STALE;
        }
        return standing == Standing.SETTLED ? SETTLED : PENCILLED;
    }

    /** The name in addresses, files and the HTTP interface: lower case. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
