package mellow.core.cell;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import mellow.core.cell.Offer.Answer;
import mellow.core.text.Text;

/**
 * How a cell was before a change, as far as the change touched it: enough to undo it, and the undo in turn.
 *
 * @param text the text then in force
 * @param standing its standing
 * @param basedOn the source revision it was made from
 * @param textAt the version at which it was put in force
 * @param offers the offers that the change touched, as they were
 */
public record CellWas(Optional<Text> text, Standing standing, int basedOn, int textAt, List<OfferWas> offers) {

    public CellWas {
        offers = List.copyOf(offers);
    }

    /**
     * An offer as it was. One that the change made counts as withdrawn before it.
     *
     * @param id its number
     * @param answer how it stood
     * @param answeredAt the cell's version when it was answered, 0 for an open one
     */
    public record OfferWas(long id, Answer answer, int answeredAt) {}

    /** What the step from {@code before} to {@code after} replaced. */
    public static CellWas between(Cell before, Cell after) {
        List<OfferWas> touched = new ArrayList<>();
        for (Offer offer : after.offers()) {
            Optional<Offer> was = before.offers().stream()
                    .filter(earlier -> earlier.id() == offer.id())
                    .findFirst();
            if (was.isEmpty()) {
                touched.add(new OfferWas(offer.id(), Answer.WITHDRAWN, offer.openedAt()));
            } else if (!was.get().equals(offer)) {
                touched.add(
                        new OfferWas(offer.id(), was.get().standing(), was.get().answeredAt()));
            }
        }
        return new CellWas(before.text(), before.standing(), before.basedOn(), before.textAt(), touched);
    }

    Cell restored(Cell now) {
        List<Offer> restored = now.offers().stream()
                .map(offer -> offers.stream()
                        .filter(was -> was.id() == offer.id())
                        .findFirst()
                        .map(was -> offer.answered(was.answer(), was.answeredAt()))
                        .orElse(offer))
                .toList();
        return new Cell(text, standing, basedOn, textAt, now.version() + 1, restored);
    }
}
