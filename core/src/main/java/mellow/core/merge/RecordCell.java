package mellow.core.merge;

import mellow.core.cell.Standing;
import mellow.core.format.FileText;

/**
 * A cell of the record.
 *
 * @param text the text in force, without a state; {@link FileText#NONE} for none
 * @param standing its standing
 * @param version the cell's version, 0 when there is no row or nobody asked for it
 * @param own whether the person asking changed it last
 * @param stale whether the source changed its meaning since the text was made
 * @param waiting its open offers
 */
public record RecordCell(FileText text, Standing standing, int version, boolean own, boolean stale, Waiting waiting) {

    /** A cell nobody has touched. */
    public static final RecordCell NONE =
            new RecordCell(FileText.NONE, Standing.NONE, 0, false, false, new Waiting(0, FileText.NONE));

    /**
     * Open offers of a cell.
     *
     * @param offers how many there are
     * @param own what the person asking has on offer, or the newest offer of all when nobody in particular asks; {@link FileText#NONE} for nothing
     */
    public record Waiting(int offers, FileText own) {}

    /** Number of open offers. */
    public int openOffers() {
        return waiting.offers;
    }

    /** What the person asking has on offer. */
    public FileText ownOffer() {
        return waiting.own;
    }
}
