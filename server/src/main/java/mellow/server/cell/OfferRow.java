package mellow.server.cell;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import mellow.core.cell.Offer;
import mellow.core.text.EditDistance.Changed;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;

/** A text that someone put forward. */
@Entity
@Table(name = "offer")
class OfferRow {

    @Id
    private long id;

    private long entryId;
    private int languageId;
    private long authorId;
    private String text = "";
    private @Nullable String forms;
    private int basedOn;
    private short answer;
    private int openedVersion;
    private int answeredVersion;
    private Instant offeredTime = Instant.EPOCH;
    private @Nullable Long answeredBy;
    private @Nullable Instant answeredTime;
    private @Nullable String reason;
    private String origin = "";
    private String note = "";
    private boolean byRule;
    private @Nullable Integer changed;
    private @Nullable Integer changedOf;

    protected OfferRow() {}

    OfferRow(long entryId, int languageId, Offer offer, Instant at, String origin, String note) {
        this.id = offer.id();
        this.entryId = entryId;
        this.languageId = languageId;
        this.authorId = offer.author();
        this.text = offer.text().main();
        this.forms = TextColumns.forms(offer.text());
        this.basedOn = offer.basedOn();
        this.openedVersion = offer.openedAt();
        this.offeredTime = at;
        this.origin = origin;
        this.note = note;
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
                openedVersion,
                answeredVersion);
    }

    /** Takes the answer; one that is taken back keeps its reason, in case that is undone in turn. */
    void answered(Offer offer, long by, Instant at, @Nullable String why) {
        answer = (short) offer.standing().ordinal();
        answeredVersion = offer.answeredAt();
        answeredBy = offer.open() ? null : by;
        answeredTime = offer.open() ? null : at;
        if (why != null) {
            reason = why;
        }
    }

    boolean waitsFor(long author) {
        return authorId == author && answer == Offer.Answer.OPEN.ordinal();
    }

    void say(String toReviewer) {
        note = toReviewer;
    }

    /** A rule settled it as it was made. */
    void settledByRule(Offer offer, Instant at) {
        answered(offer, authorId, at, null);
        byRule = true;
    }

    /** Keeps how much of it was amended. */
    void amended(Changed difference) {
        changed = difference.changed();
        changedOf = difference.of();
    }
}
