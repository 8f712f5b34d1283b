package mellow.server.cell;

import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mellow.core.cell.Actor;
import mellow.core.cell.Cell;
import mellow.core.cell.CellEvent;
import mellow.core.cell.CellRules;
import mellow.core.cell.CellState;
import mellow.core.cell.Offer;
import mellow.core.cell.Outcome;
import mellow.core.cell.Outcome.Changed;
import mellow.core.cell.Outcome.Reason;
import mellow.core.cell.Outcome.Refused;
import mellow.core.language.LanguageTag;
import mellow.core.text.Text;
import mellow.server.cell.CellStory.StoryLine;
import mellow.server.common.Refusal;
import mellow.server.coverage.CoverageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Changes one cell: rights, the version that was seen, the rules of core, offers, story and counters, in one transaction. */
@Service
public class CellService {

    private static final String TYPED = "typed";
    private static final String UNDO = "undo";

    private final CellRepository cells;
    private final OfferRepository offers;
    private final CellStory story;
    private final CellReader reader;
    private final TableService tables;
    private final PeopleService people;
    private final CoverageService coverage;
    private final Clock clock;

    CellService(
            CellRepository cells,
            OfferRepository offers,
            CellStory story,
            CellReader reader,
            TableService tables,
            PeopleService people,
            CoverageService coverage,
            Clock clock) {
        this.cells = cells;
        this.offers = offers;
        this.story = story;
        this.reader = reader;
        this.tables = tables;
        this.people = people;
        this.coverage = coverage;
        this.clock = clock;
    }

    /**
     * Changes a cell.
     *
     * @param person who does it
     * @return the cell afterwards
     * @throws Refusal 409 {@code cell-moved-on} with the cell as it is now, when {@code change.version()} is not its version; 403 or 422 with the rule
     *     that stands against it
     */
    @Transactional
    public CellView change(long person, long entryId, LanguageTag tag, CellChange change) {
        return change(person, entryId, tag, change, clock.instant());
    }

    /** The same at a given time, for demo data with a past. */
    @Transactional
    public CellView change(long person, long entryId, LanguageTag tag, CellChange change, Instant at) {
        Rights rights = people.rights(person);
        long tableId = cells.tableOf(entryId).orElseThrow(CellService::noSuchEntry);
        tables.holdForChange(tableId);
        TableInfo table = tables.find(tableId);
        Kept kept = table.language(tag)
                .orElseThrow(() -> Refusal.unacceptable(
                        "language-not-kept", "The table " + table.name() + " is not kept in " + tag + "."));
        EntryRow entry =
                cells.holdEntry(entryId).filter(found -> !found.removed()).orElseThrow(CellService::noSuchEntry);
        CellKey key = new CellKey(entryId, kept.number());
        CellRow row = cells.hold(entryId, kept.number()).orElseGet(() -> new CellRow(entryId, kept.number()));
        if (row.version() != change.version()) {
            throw movedOn(key);
        }
        Map<Long, OfferRow> offerRows = new HashMap<>();
        List<OfferRow> made = cells.offers(entryId, kept.number());
        made.forEach(offer -> offerRows.put(offer.id(), offer));
        Cell before = row.value(made.stream().map(OfferRow::value).toList());
        Actor actor = new Actor(person, rights.contributes(tag), rights.reviews(tag), kept.settlesOwn(), false);
        CellEvent event = event(key, change);
        Changed changed = require(CellRules.apply(before, event, entry.sourceRevision(), actor));
        Cell after = changed.cell();
        CellState stateBefore = row.state();
        CellState stateAfter = after.state(entry.meaningRevision());

        Offer opened = keepOffers(key, before, after, offerRows, person, at, change.reason());
        boolean isNew = row.version() == 0;
        String origin = change.action() == CellChange.Action.PUT_BACK ? UNDO : TYPED;
        row.become(after, stateAfter, origin, person, at);
        if (isNew) {
            insert(row, key);
        }
        story.add(
                key,
                at,
                person,
                changed.what(),
                origin,
                before,
                after,
                opened != null ? Long.valueOf(opened.id()) : change.offer(),
                opened != null ? opened.text().main() : null,
                change.reason());
        if (entry.counts()) {
            coverage.moved(tableId, kept.number(), stateBefore, stateAfter, entry.words());
        }
        cells.flush();
        return reader.one(entryId, kept.number());
    }

    /** The story of a cell, newest first. */
    @Transactional(readOnly = true)
    public List<StoryLine> story(long entryId, LanguageTag tag) {
        TableInfo table = tables.find(cells.tableOf(entryId).orElseThrow(CellService::noSuchEntry));
        return table.language(tag)
                .map(kept -> story.lines(new CellKey(entryId, kept.number())))
                .orElse(List.of());
    }

    private CellEvent event(CellKey key, CellChange change) {
        return switch (change.action()) {
            case PENCIL -> new CellEvent.Pencil(text(change));
            case PUT_FORWARD -> new CellEvent.PutForward(text(change), cells.nextOffer());
            case SETTLE -> new CellEvent.Settle(offer(change), change.meaningConfirmed());
            case AMEND -> new CellEvent.Amend(offer(change), text(change));
            case RETURN -> new CellEvent.Return(offer(change), Objects.requireNonNullElse(change.reason(), ""));
            case WITHDRAW -> new CellEvent.Withdraw(offer(change));
            case STILL_HOLDS -> new CellEvent.StillHolds();
            case CLEAR -> new CellEvent.Clear();
            case PUT_BACK ->
                story.putBack(key, Objects.requireNonNullElse(change.line(), 0L))
                        .orElseThrow(() -> Refusal.unacceptable(
                                "no-such-line",
                                "This line of the story holds no text that can be put back.",
                                Map.of("field", "line")));
        };
    }

    private static Text text(CellChange change) {
        String text = Objects.requireNonNullElse(change.text(), "")
                .replace("\r\n", "\n")
                .replace('\r', '\n');
        if (text.isEmpty()) {
            throw Refusal.unacceptable(
                    "empty-text", "There is no text to keep; clear the cell instead.", Map.of("field", "text"));
        }
        if (text.indexOf('\0') >= 0) {
            throw Refusal.unacceptable(
                    "nul-in-text", "A NUL character cannot be part of a text.", Map.of("field", "text"));
        }
        return Text.plain(text);
    }

    private static long offer(CellChange change) {
        if (change.offer() == null) {
            throw Refusal.unacceptable("offer-missing", "Say which offer is meant.", Map.of("field", "offer"));
        }
        return change.offer();
    }

    private static Changed require(Outcome outcome) {
        if (outcome instanceof Changed changed) {
            return changed;
        }
        Reason reason = ((Refused) outcome).reason();
        String code = reason.name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
        throw switch (reason) {
            case NO_RIGHT_TO_OFFER, NO_RIGHT_TO_SETTLE, OWN_OFFER, NOT_YOURS ->
                Refusal.forbidden(code, reason.sentence());
            default -> Refusal.unacceptable(code, reason.sentence());
        };
    }

    /** Saves what became of the offers; the one that was opened, if any. */
    private @Nullable Offer keepOffers(
            CellKey key,
            Cell before,
            Cell after,
            Map<Long, OfferRow> rows,
            long person,
            Instant at,
            @Nullable String reason) {
        Offer opened = null;
        for (Offer offer : after.offers()) {
            OfferRow row = rows.get(offer.id());
            if (row == null) {
                offers.save(new OfferRow(key.entryId(), key.languageId(), offer, at));
                opened = offer;
            } else if (!before.offers().contains(offer)) {
                row.answered(offer, person, at, offer.standing() == Offer.Answer.RETURNED ? reason : null);
            }
        }
        return opened;
    }

    /** Two people may touch an untouched cell at once; the second sees what the first wrote. */
    private void insert(CellRow row, CellKey key) {
        if (!cells.claim(key.entryId(), key.languageId(), row.authorId())) {
            throw movedOn(key);
        }
        cells.save(row);
    }

    private Refusal movedOn(CellKey key) {
        return Refusal.conflict(
                "cell-moved-on",
                "Someone changed this text meanwhile; both texts are shown, choose one.",
                Map.of("cell", reader.one(key.entryId(), key.languageId())));
    }

    private static Refusal noSuchEntry() {
        return Refusal.notFound("no-such-entry", "This entry does not exist any more.");
    }
}
