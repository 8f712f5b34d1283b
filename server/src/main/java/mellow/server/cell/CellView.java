package mellow.server.cell;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A cell as screens show it.
 *
 * @param language the language's tag
 * @param state the displayed state
 * @param text the text in force, null for none
 * @param forms all its forms by name, null for a plain text
 * @param settled whether the text in force is settled
 * @param version to be sent back with a change; 0 for a cell nobody has touched
 * @param basedOn the source revision the text was made from
 * @param origin how the last change came: typed, file, …; draft for as long as the text is what a machine drafted
 * @param author who made the last change
 * @param changedAt when
 * @param offers the open offers, oldest first
 * @param stops kinds of findings that stop the text in force, null for none
 * @param returned the reason of the newest offer's return, when that is the state
 */
public record CellView(
        String language,
        String state,
        @Nullable String text,
        @Nullable Map<String, String> forms,
        boolean settled,
        int version,
        int basedOn,
        @Nullable String origin,
        @Nullable String author,
        @Nullable Instant changedAt,
        List<OfferView> offers,
        @Nullable List<String> stops,
        @Nullable String returned) {

    /**
     * An open offer.
     *
     * @param id its number
     * @param text what is offered
     * @param forms all its forms by name, null for a plain text
     * @param author who offers it
     * @param authorId their number
     * @param at when
     * @param basedOn the source revision it was made from
     * @param note what its author says to the reviewer, empty for nothing
     */
    public record OfferView(
            long id,
            String text,
            @Nullable Map<String, String> forms,
            String author,
            long authorId,
            Instant at,
            int basedOn,
            String note) {}
}
