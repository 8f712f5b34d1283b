package mellow.server.cell;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import mellow.core.cell.Cell;
import mellow.core.cell.CellState;
import mellow.core.cell.Offer;
import mellow.core.cell.Standing;
import mellow.core.text.Text;
import org.jspecify.annotations.Nullable;

/** A cell with a text or offers. A row stays when its text is cleared, because versions only grow. */
@Entity
@Table(name = "cell")
@IdClass(CellKey.class)
class CellRow {

    @Id
    private long entryId;

    @Id
    private short languageId;

    private @Nullable String text;
    private short standing;
    private short state = (short) CellState.UNTRANSLATED.ordinal();
    private int basedOn;
    private int textAt;
    private int version;
    private String origin = "";
    private long authorId;
    private Instant changedAt = Instant.EPOCH;
    private short openOffers;

    protected CellRow() {}

    CellRow(long entryId, short languageId) {
        this.entryId = entryId;
        this.languageId = languageId;
    }

    Cell value(List<Offer> offers) {
        return new Cell(
                Optional.ofNullable(text).map(Text::plain),
                Standing.values()[standing],
                basedOn,
                textAt,
                version,
                offers);
    }

    void become(Cell cell, CellState newState, String newOrigin, long author, Instant at) {
        text = cell.text().map(Text::main).orElse(null);
        standing = (short) cell.standing().ordinal();
        state = (short) newState.ordinal();
        basedOn = cell.basedOn();
        textAt = cell.textAt();
        version = cell.version();
        origin = newOrigin;
        authorId = author;
        changedAt = at;
        openOffers = (short) cell.openOffers();
    }

    long authorId() {
        return authorId;
    }

    int version() {
        return version;
    }

    CellState state() {
        return CellState.values()[state];
    }
}
