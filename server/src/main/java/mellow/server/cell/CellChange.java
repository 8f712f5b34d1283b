package mellow.server.cell;

import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import org.jspecify.annotations.Nullable;

/**
 * A change of a cell as a screen or program asks for it.
 *
 * @param action what to do
 * @param version the version of the cell that the person saw
 * @param text for PENCIL, PUT_FORWARD and AMEND
 * @param offer for SETTLE, AMEND, RETURN and WITHDRAW: the offer's number
 * @param reason for RETURN
 * @param meaningConfirmed for SETTLE: the offer fits the source as it reads now
 * @param line for PUT_BACK: the story line's number
 */
public record CellChange(
        @NotNull Action action,
        @Min(0) int version,
        @Nullable @Size(max = 1_000_000) String text,
        @Nullable Long offer,
        @Nullable @Size(max = 2000) String reason,
        boolean meaningConfirmed,
        @Nullable Long line) {

    /** What can be done to a cell. */
    public enum Action {
        PENCIL,
        PUT_FORWARD,
        SETTLE,
        AMEND,
        RETURN,
        WITHDRAW,
        STILL_HOLDS,
        CLEAR,
        PUT_BACK
    }

    /** A change that brings a text. */
    public static CellChange text(Action action, int version, String text) {
        return new CellChange(action, version, text, null, null, false, null);
    }

    /** A change that answers an offer. */
    public static CellChange answer(Action action, int version, long offer, @Nullable String reason) {
        return new CellChange(action, version, null, offer, reason, false, null);
    }
}
