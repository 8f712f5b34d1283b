package mellow.server.record;

import mellow.core.cell.Standing;
import org.jspecify.annotations.Nullable;

/**
 * A cell of the record.
 *
 * @param text the text in force, empty for none
 * @param standing its standing
 * @param version the cell's version, 0 when there is no row
 * @param openOffers number of open offers
 * @param ownOffer what the person asking has on offer, null for nothing
 */
public record RecordCell(String text, Standing standing, int version, int openOffers, @Nullable String ownOffer) {

    /** A cell nobody has touched. */
    public static final RecordCell NONE = new RecordCell("", Standing.NONE, 0, 0, null);
}
