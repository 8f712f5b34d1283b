package mellow.server.cell;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import mellow.core.cell.Offer;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;

/** A text that someone put forward. */
@Entity
@Table(name = "offer")
class OfferRow {

    @Id
    private long id;

    private long entryId;
    private short languageId;
    private long authorId;
    private String text = "";
    private @Nullable String forms;
    private int basedOn;
    private short answer;
    private int openedAt;
    private int answeredAt;
    private Instant offeredTime = Instant.EPOCH;
    private @Nullable Long answeredBy;
    private @Nullable Instant answeredTime;
    private @Nullable String reason;

    protected OfferRow() {}

    OfferRow(long entryId, short languageId, Offer offer, Instant at) {
        this.id = offer.id();
        this.entryId = entryId;
        this.languageId = languageId;
        this.authorId = offer.author();
        this.text = offer.text().main();
        this.forms = TextColumns.forms(offer.text());
        this.basedOn = offer.basedOn();
        this.openedAt = offer.openedAt();
        this.offeredTime = at;
    }

    long id() {
        return id;
    }

    CellKey key() {
        return new CellKey(entryId, languageId);
    }

    Offer value() {
        return new Offer(
                id,
                authorId,
                TextColumns.read(text, forms).orElseThrow(),
                basedOn,
                Offer.Answer.values()[answer],
                openedAt,
                answeredAt);
    }

    void answered(Offer offer, long by, Instant at, @Nullable String why) {
        answer = (short) offer.standing().ordinal();
        answeredAt = offer.answeredAt();
        answeredBy = by;
        answeredTime = at;
        reason = why;
    }
}
