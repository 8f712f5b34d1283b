package mellow.core.cell;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.Supplier;
import mellow.core.cell.Offer.Answer;
import mellow.core.cell.Outcome.Changed;
import mellow.core.cell.Outcome.Reason;
import mellow.core.cell.Outcome.Refused;
import mellow.core.cell.Outcome.What;
import mellow.core.text.Text;

/** What each event does to a cell and who may want it, before four eyes and the checks are asked. */
final class CellSteps {

    private CellSteps() {}

    static Outcome settle(Cell cell, CellEvent.Settle settle, int revision, Actor actor) {
        return settling(
                cell, settle.offerId(), actor, offer -> settle(cell, offer, settle.meaningConfirmed(), revision));
    }

    static Outcome amend(Cell cell, CellEvent.Amend amend, int revision, Actor actor) {
        return settling(cell, amend.offerId(), actor, offer -> {
            Cell answered = withOffers(cell, cell.answered(offer.id(), Answer.AMENDED));
            return new Changed(answered.withText(amend.text(), Standing.SETTLED, revision), What.AMENDED);
        });
    }

    static Outcome sendBack(Cell cell, CellEvent.Return back, Actor actor) {
        return answering(
                cell,
                back.offerId(),
                actor,
                offer -> back.reason().isBlank()
                        ? new Refused(Reason.REASON_MISSING)
                        : new Changed(cell.withOffers(cell.answered(offer.id(), Answer.RETURNED)), What.RETURNED));
    }

    static Outcome clear(Cell cell, Actor actor) {
        return onText(cell, actor, () -> new Changed(cell.cleared(), What.CLEARED));
    }

    static Outcome pencil(Cell cell, Text text, int revision, Actor actor) {
        if (!actor.contributes() && !actor.program()) {
            return new Refused(Reason.NO_RIGHT_TO_OFFER);
        }
        if (cell.standing() == Standing.SETTLED) {
            return new Refused(Reason.SETTLED_IS_NOT_PENCILLED_OVER);
        }
        return new Changed(cell.withText(text, Standing.PENCILLED, revision), What.PENCILLED);
    }

    static Outcome putForward(Cell cell, CellEvent.PutForward forward, int revision, Actor actor) {
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

    static Outcome offer(Cell cell, Text text, long number, int revision, Actor actor) {
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

    static Outcome stillHolds(Cell cell, CellEvent.StillHolds holds, int revision, Actor actor) {
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

    static Outcome settleByRule(Cell cell, long offerId, Actor actor) {
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

    static Outcome withdraw(Cell cell, long offerId, Actor actor) {
        Optional<Offer> offer = cell.openOffer(offerId);
        if (offer.isEmpty()) {
            return new Refused(Reason.OFFER_NOT_OPEN);
        }
        if (offer.get().author() != actor.person()) {
            return new Refused(Reason.NOT_YOURS);
        }
        return new Changed(cell.withOffers(cell.answered(offerId, Answer.WITHDRAWN)), What.WITHDRAWN);
    }

    static Outcome putBack(Cell cell, CellEvent.PutBack back, Actor actor) {
        boolean overSettled = back.standing() == Standing.SETTLED || cell.standing() == Standing.SETTLED;
        if (overSettled && !actor.reviews()) {
            return new Refused(Reason.NO_RIGHT_TO_SETTLE);
        }
        if (!actor.contributes()) {
            return new Refused(Reason.NO_RIGHT_TO_OFFER);
        }
        return new Changed(cell.withText(back.text(), back.standing(), back.basedOn()), What.PUT_BACK);
    }

    static Outcome undo(Cell cell, CellEvent.Undo undo, Actor actor) {
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

    private static Outcome onText(Cell cell, Actor actor, Supplier<Outcome> change) {
        if (!actor.reviews()) {
            return new Refused(Reason.NO_RIGHT_TO_SETTLE);
        }
        return cell.text().isEmpty() ? new Refused(Reason.NOTHING_IN_FORCE) : change.get();
    }

    private static List<Offer> setAside(Cell cell, Predicate<Offer> which) {
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
