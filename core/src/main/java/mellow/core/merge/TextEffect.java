package mellow.core.merge;

import mellow.core.cell.Standing;

/** What an intake does to a cell, once it is decided what the file's text means. */
public enum TextEffect {
    /** Nothing; what is there stays. */
    KEEP,
    /** The file's text comes in force with the standing of this intake. */
    PUT,
    /** The file's text becomes an offer beside what is in force. */
    OFFER;

    /** The standing that the person chose for what this intake brings. */
    public enum Arrival {
        SETTLED,
        OFFERED,
        PENCILLED
    }

    /**
     * The default effect by the table of record.md. A settled text is replaced only when the file alone moved on and arrives as settled.
     *
     * @param decision what the file's text means
     * @param mine the standing of the text in force
     * @param arrival what the person chose
     */
    public static TextEffect of(TextDecision decision, Standing mine, Arrival arrival) {
        return switch (decision) {
            case NOTHING_NEW, SAME, EMPTIED -> KEEP;
            case ADD -> arrival == Arrival.OFFERED ? OFFER : PUT;
            case TAKE ->
                arrival == Arrival.SETTLED || (arrival == Arrival.PENCILLED && mine != Standing.SETTLED) ? PUT : OFFER;
            case CONFLICT -> OFFER;
            case DIFFERS -> mine == Standing.SETTLED || arrival == Arrival.OFFERED ? OFFER : PUT;
        };
    }
}
