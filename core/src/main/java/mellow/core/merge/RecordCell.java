package mellow.core.merge;

import mellow.core.cell.Standing;
import mellow.core.format.FileText;

/**
 * A cell of the record.
 *
 * @param text the text in force, without a state; {@link FileText#NONE} for none
 * @param standing its standing
 * @param version the cell's version, 0 when there is no row
 * @param openOffers number of open offers
 * @param own whether the person asking changed it last
 * @param stale whether the source changed its meaning since the text was made
 * @param ownOffer what the person asking has on offer, {@link FileText#NONE} for nothing
 */
public record RecordCell(
        FileText text, Standing standing, int version, int openOffers, boolean own, boolean stale, FileText ownOffer) {

    /** A cell nobody has touched. */
    public static final RecordCell NONE =
            new RecordCell(FileText.NONE, Standing.NONE, 0, 0, false, false, FileText.NONE);
}
