package mellow.server.cell;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import mellow.core.cell.Cell;
import mellow.core.cell.CellState;
import mellow.core.cell.Offer;
import mellow.core.cell.Standing;
import mellow.server.cell.CellChange.How;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;

/** A cell with a text or offers. A row stays when its text is cleared, because versions only grow. */
@Entity
@Table(name = "cell")
@IdClass(CellKey.class)
class CellRow {

    @Id
    private long entryId;

    @Id
    private int languageId;

    private @Nullable String text;
    private @Nullable String forms;
    private @Nullable String folded;
    private short standing;
    private short state = (short) CellState.UNTRANSLATED.ordinal();
    private int basedOn;
    private int textVersion;
    private int version;
    private String origin = "";
    private long authorId;
    private Instant changedAt = Instant.EPOCH;
    private short openOffers;

    protected CellRow() {}

    Cell value(List<Offer> offers) {
        return new Cell(
                TextColumns.read(text, forms), Standing.values()[standing], basedOn, textVersion, version, offers);
    }

    void become(Cell cell, CellState newState, String newOrigin, long author, Instant at) {
        TextColumns columns = TextColumns.of(cell.text());
        boolean same = Objects.equals(text, columns.text()) && Objects.equals(forms, columns.forms());
        text = columns.text();
        forms = columns.forms();
        folded = columns.folded();
        standing = (short) cell.standing().ordinal();
        state = (short) newState.ordinal();
        basedOn = cell.basedOn();
        textVersion = cell.textAt();
        version = cell.version();
        // A text that a machine drafted is one until it reads otherwise, whoever moves it on.
        origin = same && origin.equals(How.DRAFT.word()) ? origin : newOrigin;
        authorId = author;
        changedAt = at;
        openOffers = (short) cell.openOffers();
    }

    CellKey key() {
        return new CellKey(entryId, languageId);
    }

    /** How the text in force came, or the last change where it was not drafted. */
    String origin() {
        return origin;
    }

    int version() {
        return version;
    }

    CellState state() {
        return CellState.values()[state];
    }
}
