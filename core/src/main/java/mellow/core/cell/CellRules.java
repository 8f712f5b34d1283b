package mellow.core.cell;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import mellow.core.cell.Offer.Answer;
import mellow.core.cell.Outcome.Changed;
import mellow.core.cell.Outcome.Reason;
import mellow.core.cell.Outcome.Refused;
import mellow.core.cell.Outcome.What;
import mellow.core.text.Text;

/** The state machine of a cell: a pure function from a cell and an event to what comes of it. Its table is in the package comment. */
public final class CellRules {

    private CellRules() {}

    /**
     * Applies {@code event} to {@code cell}. Whatever the event, a text that comes into force as settled was not put there by its author alone, unless the
     * language lets them, and passes the checks: see {@link #judged}.
     *
     * @param revision the entry's source revision now
     * @param actor who does it
     * @param blockers what the checks say against settling a text, as sentences
     * @return the changed cell, or why nothing changed; the cell given is never modified
     */
    public static Outcome apply(
            Cell cell, CellEvent event, int revision, Actor actor, Function<Text, List<String>> blockers) {
        Outcome outcome = step(cell, event, revision, actor);
        return outcome instanceof Changed changed ? judged(cell, event, changed, actor, blockers) : outcome;
    }

    /**
     * Four eyes and the checks, by the outcome: they hold for every way on which a text can come into force as settled. What is restored and does not pass
     * the checks comes back pencilled; everything else that does not is refused.
     */
    private static Outcome judged(
            Cell before, CellEvent event, Changed step, Actor actor, Function<Text, List<String>> blockers) {
        Cell after = step.cell();
        boolean stood = before.standing() == Standing.SETTLED && before.text().equals(after.text());
        if (after.standing() != Standing.SETTLED || stood) {
            return step;
        }
        Text text = after.text().orElseThrow();
        if (!actor.settlesOwn() && own(before, event, text, actor.person())) {
            return new Refused(Reason.OWN_OFFER);
        }
        List<String> against = blockers.apply(text);
        if (against.isEmpty()) {
            return step;
        }
        boolean restores = event instanceof CellEvent.PutBack || event instanceof CellEvent.Undo;
        return restores ? new Changed(after.pencilled(), step.what(), against) : new Refused(Reason.BLOCKED, against);
    }

    /** Whether {@code person} alone stands behind the text that {@code event} puts in force. */
    private static boolean own(Cell before, CellEvent event, Text text, long person) {
        if (event instanceof CellEvent.PutBack back) {
            return back.author() == person;
        } else if (event instanceof CellEvent.Undo undo) {
            return undo.aloneBy() == person;
        }
        // Somebody else's offer, amended into one's own.
        return event instanceof CellEvent.Amend
                && before.offers().stream()
                        .anyMatch(offer ->
                                offer.author() == person && offer.text().equals(text));
    }

    private static Outcome step(Cell cell, CellEvent event, int revision, Actor actor) {
        // Pattern switches need Java 21, hence the chain.
        if (event instanceof CellEvent.Pencil pencil) {
            return pencil(cell, pencil.text(), revision, actor);
        } else if (event instanceof CellEvent.PutForward forward) {
            return putForward(cell, forward, revision, actor);
        } else if (event instanceof CellEvent.MakeOffer made) {
            return offer(cell, made.text(), made.offerId(), revision, actor);
        } else if (event instanceof CellEvent.Settle settle) {
            return settling(
                    cell, settle.offerId(), actor, offer -> settle(cell, offer, settle.meaningConfirmed(), revision));
        } else if (event instanceof CellEvent.SettleByRule byRule) {
            return settleByRule(cell, byRule.offerId(), actor);
        } else if (event instanceof CellEvent.Amend amend) {
            return settling(cell, amend.offerId(), actor, offer -> {
                Cell answered = withOffers(cell, cell.answered(offer.id(), Answer.AMENDED));
                return new Changed(answered.withText(amend.text(), Standing.SETTLED, revision), What.AMENDED);
            });
        } else if (event instanceof CellEvent.Return back) {
            return answering(
                    cell,
                    back.offerId(),
                    actor,
                    offer -> back.reason().isBlank()
                            ? new Refused(Reason.REASON_MISSING)
                            : new Changed(cell.withOffers(cell.answered(offer.id(), Answer.RETURNED)), What.RETURNED));
        } else if (event instanceof CellEvent.Withdraw withdraw) {
            return withdraw(cell, withdraw.offerId(), actor);
        } else if (event instanceof CellEvent.StillHolds holds) {
            return stillHolds(cell, holds, revision, actor);
        } else if (event instanceof CellEvent.Clear) {
            return onText(cell, actor, () -> new Changed(cell.cleared(), What.CLEARED));
        } else if (event instanceof CellEvent.PutBack back) {
            return putBack(cell, back, actor);
        } else if (event instanceof CellEvent.Undo undo) {
            return undo(cell, undo, actor);
        }
        throw new IllegalStateException("unknown event " + event);
    }

    private static Outcome pencil(Cell cell, Text text, int revision, Actor actor) {
        if (!actor.contributes() && !actor.program()) {
            return new Refused(Reason.NO_RIGHT_TO_OFFER);
        }
        if (cell.standing() == Standing.SETTLED) {
            return new Refused(Reason.SETTLED_IS_NOT_PENCILLED_OVER);
        }
        return new Changed(cell.withText(text, Standing.PENCILLED, revision), What.PENCILLED);
    }

    private static Outcome putForward(Cell cell, CellEvent.PutForward forward, int revision, Actor actor) {
        if (!actor.contributes()) {
            return new Refused(Reason.NO_RIGHT_TO_OFFER);
        }
        if (actor.reviews() && actor.settlesOwn()) {
            if (inForce(cell, forward.text(), revision)) {
                return new Refused(Reason.SAME_AS_IN_FORCE);
            }
            Cell answered = withOffers(cell, setAside(cell, offer -> true));
            return new Changed(answered.withText(forward.text(), Standing.SETTLED, revision), What.SETTLED);
        }
        return offer(cell, forward.text(), forward.offerId(), revision, actor);
    }

    private static Outcome offer(Cell cell, Text text, long number, int revision, Actor actor) {
        if (!actor.contributes()) {
            return new Refused(Reason.NO_RIGHT_TO_OFFER);
        }
        if (inForce(cell, text, revision)) {
            return new Refused(Reason.SAME_AS_IN_FORCE);
        }
        List<Offer> offers = setAside(cell, offer -> offer.author() == actor.person());
        offers.add(new Offer(number, actor.person(), text, revision, Answer.OPEN, cell.version() + 1, 0));
        return new Changed(cell.withOffers(offers), What.OFFERED);
    }

    /** One equal to a text made for an older source says that it still holds, which is news. */
    private static boolean inForce(Cell cell, Text text, int revision) {
        return cell.standing() == Standing.SETTLED
                && cell.text().equals(Optional.of(text))
                && cell.basedOn() == revision;
    }

    private static Outcome stillHolds(Cell cell, CellEvent.StillHolds holds, int revision, Actor actor) {
        if (cell.text().isPresent() && cell.basedOn() == revision) {
            return new Refused(Reason.NOT_STALE);
        }
        if (actor.reviews() || !actor.contributes() || cell.text().isEmpty()) {
            return onText(cell, actor, () -> new Changed(cell.basedOn(revision), What.STILL_HOLDS));
        }
        return putForward(cell, new CellEvent.PutForward(cell.text().get(), holds.offerId()), revision, actor);
    }

    private static Outcome settle(Cell cell, Offer offer, boolean meaningConfirmed, int revision) {
        Cell answered = withOffers(cell, cell.answered(offer.id(), Answer.SETTLED));
        int basedOn = meaningConfirmed ? revision : offer.basedOn();
        return new Changed(answered.withText(offer.text(), Standing.SETTLED, basedOn), What.SETTLED);
    }

    private static Outcome settleByRule(Cell cell, long offerId, Actor actor) {
        Optional<Offer> offer = cell.openOffer(offerId);
        if (offer.isEmpty()) {
            return new Refused(Reason.OFFER_NOT_OPEN);
        }
        if (offer.get().author() != actor.person()) {
            return new Refused(Reason.NOT_YOURS);
        }
        Cell answered = withOffers(cell, cell.answered(offerId, Answer.SETTLED));
        return new Changed(
                answered.withText(
                        offer.get().text(), Standing.SETTLED, offer.get().basedOn()),
                What.SETTLED_BY_RULE);
    }

    private static Outcome withdraw(Cell cell, long offerId, Actor actor) {
        Optional<Offer> offer = cell.openOffer(offerId);
        if (offer.isEmpty()) {
            return new Refused(Reason.OFFER_NOT_OPEN);
        }
        if (offer.get().author() != actor.person()) {
            return new Refused(Reason.NOT_YOURS);
        }
        return new Changed(cell.withOffers(cell.answered(offerId, Answer.WITHDRAWN)), What.WITHDRAWN);
    }

    private static Outcome putBack(Cell cell, CellEvent.PutBack back, Actor actor) {
        boolean overSettled = back.standing() == Standing.SETTLED || cell.standing() == Standing.SETTLED;
        if (overSettled && !actor.reviews()) {
            return new Refused(Reason.NO_RIGHT_TO_SETTLE);
        }
        if (!actor.contributes()) {
            return new Refused(Reason.NO_RIGHT_TO_OFFER);
        }
        return new Changed(cell.withText(back.text(), back.standing(), back.basedOn()), What.PUT_BACK);
    }

    private static Outcome undo(Cell cell, CellEvent.Undo undo, Actor actor) {
        if (!actor.contributes()) {
            return new Refused(Reason.NO_RIGHT_TO_OFFER);
        }
        if (cell.version() != undo.version()) {
            return new Refused(Reason.CHANGED_SINCE);
        }
        Cell restored = undo.was().restored(cell);
        boolean touchesSettled = (cell.standing() == Standing.SETTLED || restored.standing() == Standing.SETTLED)
                && !(cell.text().equals(restored.text())
                        && cell.standing() == restored.standing()
                        && cell.basedOn() == restored.basedOn());
        return touchesSettled && !actor.reviews()
                ? new Refused(Reason.NO_RIGHT_TO_SETTLE)
                : new Changed(restored, What.UNDONE);
    }

    /** One's own offer is not answered like that, even when its text is in force already. */
    private static Outcome settling(Cell cell, long offerId, Actor actor, Function<Offer, Outcome> answer) {
        return answering(
                cell,
                offerId,
                actor,
                offer -> offer.author() == actor.person() && !actor.settlesOwn()
                        ? new Refused(Reason.OWN_OFFER)
                        : answer.apply(offer));
    }

    private static Outcome answering(Cell cell, long offerId, Actor actor, Function<Offer, Outcome> answer) {
        if (!actor.reviews()) {
            return new Refused(Reason.NO_RIGHT_TO_SETTLE);
        }
        return cell.openOffer(offerId).map(answer).orElseGet(() -> new Refused(Reason.OFFER_NOT_OPEN));
    }

    private static Outcome onText(Cell cell, Actor actor, java.util.function.Supplier<Outcome> change) {
        if (!actor.reviews()) {
            return new Refused(Reason.NO_RIGHT_TO_SETTLE);
        }
        return cell.text().isEmpty() ? new Refused(Reason.NOTHING_IN_FORCE) : change.get();
    }

    private static List<Offer> setAside(Cell cell, java.util.function.Predicate<Offer> which) {
        List<Offer> offers = new ArrayList<>(cell.offers().size() + 1);
        for (Offer offer : cell.offers()) {
            offers.add(
                    offer.open() && which.test(offer) ? offer.answered(Answer.SET_ASIDE, cell.version() + 1) : offer);
        }
        return offers;
    }

    /** The cell with other offers and no new version: the text that follows makes the version. */
    private static Cell withOffers(Cell cell, List<Offer> offers) {
        return new Cell(cell.text(), cell.standing(), cell.basedOn(), cell.textAt(), cell.version(), offers);
    }
}
