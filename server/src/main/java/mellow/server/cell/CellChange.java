package mellow.server.cell;

import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.Locale;
import java.util.SortedMap;
import org.jspecify.annotations.Nullable;

/**
 * A change of a cell as a screen or program asks for it.
 *
 * @param action what to do
 * @param version the version of the cell that the person saw
 * @param text for PENCIL, PUT_FORWARD, OFFER and AMEND of a plain text
 * @param offer for SETTLE, AMEND, RETURN and WITHDRAW: the offer's number
 * @param reason for RETURN: why; for PUT_FORWARD and OFFER: what the author says to the reviewer
 * @param meaningConfirmed for SETTLE: the offer fits the source as it reads now
 * @param line for PUT_BACK: the story line's number
 * @param forms instead of the text, for an entry that is not plain: its forms by name
 * @param how how the text came to be, typed unless said otherwise
 */
public record CellChange(
        @NotNull Action action,
        @Min(0) int version,
        @Nullable @Size(max = 1_000_000) String text,
        @Nullable Long offer,
        @Nullable @Size(max = 2000) String reason,
        boolean meaningConfirmed,
        @Nullable Long line,
        @Nullable SortedMap<String, String> forms,
        @Nullable How how) {

    /** What can be done to a cell. */
    public enum Action {
        PENCIL,
        PUT_FORWARD,
        OFFER,
        SETTLE,
        AMEND,
        RETURN,
        WITHDRAW,
        STILL_HOLDS,
        CLEAR,
        PUT_BACK
    }

    /** How a text came to be. */
    public enum How {
        TYPED,
        PASTED,
        MEMORY,
        DRAFT;

        String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** A change of a plain text that someone typed. */
    public CellChange(
            Action action,
            int version,
            @Nullable String text,
            @Nullable Long offer,
            @Nullable String reason,
            boolean meaningConfirmed,
            @Nullable Long line) {
        this(action, version, text, offer, reason, meaningConfirmed, line, null, null);
    }

    /** The same with another action. */
    CellChange as(Action other) {
        return new CellChange(other, version, text, offer, reason, meaningConfirmed, line, forms, how);
    }

    /** A change that brings a text of several forms. */
    public static CellChange forms(Action action, int version, SortedMap<String, String> forms) {
        return new CellChange(action, version, null, null, null, false, null, forms, null);
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
