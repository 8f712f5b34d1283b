package mellow.core.cell;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import mellow.core.cell.Offer.Answer;
import mellow.core.text.Text;

/**
 * An entry in one language.
 *
 * @param text the text in force, if any
 * @param standing NONE if and only if there is no text
 * @param basedOn the source revision the text was made from, 0 without a text
 * @param textAt the cell's version when the text in force was put there, 0 without a text
 * @param version grows by one with every change, from 0
 * @param offers every offer ever made, oldest first
 */
public record Cell(Optional<Text> text, Standing standing, int basedOn, int textAt, int version, List<Offer> offers) {

    /** A cell nobody has touched; the database keeps no row for it. */
    public static final Cell EMPTY = new Cell(Optional.empty(), Standing.NONE, 0, 0, 0, List.of());

    public Cell {
        if (text.isEmpty() != (standing == Standing.NONE)) {
            throw new IllegalArgumentException("a text in force has a standing, and nothing else has");
        }
        offers = List.copyOf(offers);
    }

    /**
     * The displayed state.
     *
     * @param meaningRevision the source revision at which the entry's meaning last changed
     */
    public CellState state(int meaningRevision) {
        // An offer that was taken back counts as never made.
        Optional<Offer> newest = offers.stream()
                .filter(offer -> offer.standing() != Answer.WITHDRAWN)
                .max(Comparator.comparingInt(Offer::openedAt));
        boolean returned = newest.isPresent()
                && newest.get().standing() == Answer.RETURNED
                && textAt < newest.get().answeredAt();
        return CellState.of(openOffers() > 0, returned, standing, basedOn, meaningRevision);
    }

    /** Number of offers that wait for an answer. */
    public int openOffers() {
        return (int) offers.stream().filter(Offer::open).count();
    }

    /** The offer with that number, if it is still open. */
    public Optional<Offer> openOffer(long id) {
        return offers.stream().filter(offer -> offer.id() == id && offer.open()).findFirst();
    }

    Cell withText(Text newText, Standing newStanding, int revision) {
        return new Cell(Optional.of(newText), newStanding, revision, version + 1, version + 1, offers);
    }

    /** The same text as a draft. */
    Cell pencilled() {
        return new Cell(text, Standing.PENCILLED, basedOn, textAt, version, offers);
    }

    Cell cleared() {
        return new Cell(Optional.empty(), Standing.NONE, 0, 0, version + 1, offers);
    }

    Cell basedOn(int revision) {
        return new Cell(text, standing, revision, textAt, version + 1, offers);
    }

    Cell withOffers(List<Offer> newOffers) {
        return new Cell(text, standing, basedOn, textAt, version + 1, newOffers);
    }

    /** The offers with {@code answer} given to number {@code id}, and every other open one set aside when the answer puts a text in force. */
    List<Offer> answered(long id, Answer answer) {
        boolean inForce = answer == Answer.SETTLED || answer == Answer.AMENDED;
        List<Offer> result = new ArrayList<>(offers.size());
        for (Offer offer : offers) {
            if (offer.id() == id) {
                result.add(offer.answered(answer, version + 1));
            } else if (offer.open() && inForce) {
                result.add(offer.answered(Answer.SET_ASIDE, version + 1));
            } else {
                result.add(offer);
            }
        }
        return result;
    }
}
