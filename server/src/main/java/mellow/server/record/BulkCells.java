package mellow.server.record;

import java.util.Locale;
import mellow.core.cell.CellState;
import mellow.core.cell.Standing;
import mellow.core.format.FileText;
import mellow.core.merge.Arrival;
import mellow.core.merge.RecordCell;
import mellow.server.record.BulkWriter.Order;

/** The cells of a bulk change, with their offers and story. */
public final class BulkCells {

    private static final String ORIGIN = "file";

    private final BulkRows rows;
    private final Order order;
    private final boolean unindexed;

    BulkCells(BulkRows rows, Order order, boolean unindexed) {
        this.rows = rows;
        this.order = order;
        this.unindexed = unindexed;
    }

    /**
     * A text that arrives.
     *
     * @param as how
     * @param basedOn the source revision that it is made from
     * @param state what its cell shows then
     */
    public record Arriving(FileText text, Arrival as, int basedOn, CellState state) {

        boolean offered() {
            return as == Arrival.OFFERED;
        }

        Standing standing() {
            return as.standing();
        }
    }

    void take(long entry, int language, RecordCell mine, Arriving arriving) {
        if (mine.version() == 0) {
            rows.cellsWere.add(order.intake(), entry, language, 0, 0, 0, 0);
            insert(entry, language, arriving);
        } else if (arriving.offered()) {
            rows.offered.add(entry, language, arriving.basedOn());
            open(entry, language, arriving, mine.version() + 1);
            tell(entry, language, arriving, mine.text(), mine.standing());
        } else {
            FileText text = arriving.text();
            rows.texts.add(
                    entry,
                    language,
                    text.main(),
                    BulkRows.forms(text),
                    BulkRows.folded(text),
                    arriving.standing().ordinal(),
                    arriving.state().ordinal(),
                    arriving.basedOn());
            tell(entry, language, arriving, mine.text(), arriving.standing());
        }
    }

    void clear(long entry, int language, RecordCell mine, CellState state) {
        rows.texts.add(entry, language, null, null, null, Standing.NONE.ordinal(), state.ordinal(), 0);
        tell(entry, language, "cleared", mine.text(), FileText.NONE, Standing.NONE, 0);
    }

    void insert(long entry, int language, Arriving arriving) {
        boolean offer = arriving.offered();
        FileText text = arriving.text();
        rows.cells.add(
                entry,
                language,
                offer ? null : text.main(),
                offer ? null : BulkRows.forms(text),
                offer ? null : BulkRows.folded(text),
                arriving.standing().ordinal(),
                arriving.state().ordinal(),
                offer ? 0 : arriving.basedOn(),
                offer ? 0 : 1,
                1,
                ORIGIN,
                order.person(),
                order.at(),
                offer ? 1 : 0,
                unindexed);
        if (offer) {
            open(entry, language, arriving, 1);
        }
        tell(entry, language, arriving, FileText.NONE, arriving.standing());
    }

    private void open(long entry, int language, Arriving offer, int version) {
        rows.offers.add(
                entry,
                language,
                order.person(),
                offer.text().main(),
                BulkRows.forms(offer.text()),
                offer.basedOn(),
                version,
                order.at(),
                order.intake());
    }

    private void tell(long entry, int language, Arriving arriving, FileText before, Standing standing) {
        String what = arriving.as().name().toLowerCase(Locale.ROOT);
        tell(entry, language, what, before, arriving.text(), standing, arriving.basedOn());
    }

    private void tell(
            long entry, int language, String what, FileText before, FileText after, Standing standing, int basedOn) {
        rows.story.add(
                entry,
                language,
                order.at(),
                order.person(),
                what,
                ORIGIN,
                before.isEmpty() ? null : before.main(),
                BulkRows.forms(before),
                after.isEmpty() ? null : after.main(),
                BulkRows.forms(after),
                standing.ordinal(),
                basedOn,
                order.intake());
    }
}
