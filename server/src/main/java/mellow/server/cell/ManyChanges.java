package mellow.server.cell;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.SortedMap;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChange.How;
import org.jspecify.annotations.Nullable;

/**
 * One change of many cells, undone as one. Cells that a rule stands against stay as they are and are named.
 *
 * @param action what to do to each; PENCIL offers where a settled text stands; SETTLE and RETURN answer the only open offer where none is named
 * @param cells the cells, at most {@value #MOST}
 * @param reason for RETURN: why; for PUT_FORWARD and OFFER: what the author says to the reviewer
 * @param meaningConfirmed for SETTLE
 * @param how how the texts came to be
 */
public record ManyChanges(
        @NotNull Action action,
        @NotEmpty @Size(max = MOST) List<@Valid One> cells,
        @Nullable @Size(max = 2000) String reason,
        boolean meaningConfirmed,
        @Nullable How how) {

    /** More cells than one screen selects; keeps one transaction within seconds. */
    public static final int MOST = 20_000;

    /**
     * One of the cells.
     *
     * @param entry the entry
     * @param language the language's tag
     * @param version the version that was seen; null changes it whatever it is now, which only STILL_HOLDS, SETTLE and RETURN may
     * @param text the text, for actions that bring one
     * @param forms instead of the text, for an entry that is not plain
     * @param offer the offer to answer, where several are open
     */
    public record One(
            long entry,
            @NotNull String language,
            @Nullable @Min(0) Integer version,
            @Nullable @Size(max = 1_000_000) String text,
            @Nullable SortedMap<String, String> forms,
            @Nullable Long offer) {}
}
