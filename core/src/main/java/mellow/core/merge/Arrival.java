package mellow.core.merge;

import java.util.Optional;
import mellow.core.cell.Actor;
import mellow.core.cell.Standing;
import mellow.core.format.FileState;

/** How a text of a file arrives in a cell: as chosen for the intake, but never higher than the person may or the file itself says. */
public enum Arrival {
    /** In force, as final. */
    SETTLED,
    /** As an offer beside what is in force. */
    OFFERED,
    /** In force, as a draft. */
    PENCILLED;

    /**
     * The same for a file that {@code actor} brings: its texts count as theirs, so they settle only where their own texts do.
     *
     * @param vouches they answer for all languages of the ledger and bring what others settled elsewhere
     */
    public Arrival by(Actor actor, boolean vouches) {
        boolean settles = actor.reviews() && (actor.settlesOwn() || vouches);
        return this == SETTLED && !settles ? OFFERED : this;
    }

    /** The same for a text about which the file says something: a text marked unsure is pencilled, one that nobody called final is offered. */
    public Arrival within(Optional<FileState> stated) {
        if (stated.isEmpty() || this == PENCILLED) {
            return this;
        }
        return switch (stated.get()) {
            case UNTRANSLATED, PENCILLED -> this == OFFERED ? OFFERED : PENCILLED;
            case OFFERED -> OFFERED;
            case SETTLED -> this;
        };
    }

    /** What taking gives over a text of that standing: a draft never replaces a settled text. */
    public Arrival over(Standing mine) {
        return this == PENCILLED && mine == Standing.SETTLED ? OFFERED : this;
    }

    /** The standing of its text in force; none for an offer, which is not. */
    public Standing standing() {
        return switch (this) {
            case SETTLED -> Standing.SETTLED;
            case PENCILLED -> Standing.PENCILLED;
            case OFFERED -> Standing.NONE;
        };
    }
}
