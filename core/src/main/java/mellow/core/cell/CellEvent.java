package mellow.core.cell;

import java.util.OptionalLong;
import mellow.core.text.Text;

/** Something that somebody wants to happen to a cell. Each event answers for itself; {@link CellRules#apply} carries one out. */
public sealed interface CellEvent {

    /**
     * What it does, and whether the actor may want it; four eyes and the checks are asked afterwards, by the outcome.
     *
     * @param revision the entry's source revision now
     */
    Outcome step(Cell cell, int revision, Actor actor);

    /** Whether {@code person} alone stands behind the text that it puts in force as settled. */
    default boolean isOwn(Cell before, Text settled, long person) {
        return false;
    }

    /** Whether it brings back what was: a text that does not pass the checks then comes back pencilled instead of being refused. */
    default boolean restores() {
        return false;
    }

    /** The number of the offer that it answers. */
    default OptionalLong answers() {
        return OptionalLong.empty();
    }

    /** Keep a text without putting it forward. */
    record Pencil(Text text) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.pencil(cell, text, revision, actor);
        }
    }

    /** Put a text forward: an offer, or in force at once where the language lets reviewers settle their own. */
    record PutForward(Text text, long offerId) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.putForward(cell, this, revision, actor);
        }
    }

    /** Put a text forward as an offer, whatever else the person may do. */
    record MakeOffer(Text text, long offerId) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.offer(cell, text, offerId, revision, actor);
        }
    }

    /**
     * Put an offer in force.
     *
     * @param meaningConfirmed the reviewer has seen that the source moved on and says the offer fits it
     */
    record Settle(long offerId, boolean meaningConfirmed) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.settle(cell, this, revision, actor);
        }

        @Override
        public OptionalLong answers() {
            return OptionalLong.of(offerId);
        }
    }

    /** Put one's own new offer in force, because a {@link StandingRule} of the language says so. */
    record SettleByRule(long offerId) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.settleByRule(cell, offerId, actor);
        }
    }

    /** Put a changed offer in force. */
    record Amend(long offerId, Text text) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.amend(cell, this, revision, actor);
        }

        @Override
        public OptionalLong answers() {
            return OptionalLong.of(offerId);
        }

        /** Somebody else's offer, amended into one's own. */
        @Override
        public boolean isOwn(Cell before, Text settled, long person) {
            return before.offers().stream()
                    .anyMatch(offer -> offer.author() == person && offer.text().equals(settled));
        }
    }

    /** Send an offer back. */
    record Return(long offerId, String reason) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.sendBack(cell, this, actor);
        }

        @Override
        public OptionalLong answers() {
            return OptionalLong.of(offerId);
        }
    }

    /** Take one's own offer back. */
    record Withdraw(long offerId) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.withdraw(cell, offerId, actor);
        }

        @Override
        public OptionalLong answers() {
            return OptionalLong.of(offerId);
        }
    }

    /** The text in force fits the source as it reads now: at once by a reviewer, as an offer of the same text by a contributor. */
    record StillHolds(long offerId) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.stillHolds(cell, this, revision, actor);
        }
    }

    /** Take the text out of force. */
    record Clear() implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.clear(cell, actor);
        }
    }

    /**
     * Restore the text of an earlier story line.
     *
     * @param author whose text it is: the person's number, 0 for a text of a file
     */
    record PutBack(Text text, Standing standing, int basedOn, long author) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.putBack(cell, this, actor);
        }

        @Override
        public boolean isOwn(Cell before, Text settled, long person) {
            return author == person;
        }

        @Override
        public boolean restores() {
            return true;
        }
    }

    /**
     * Take back the last change of the cell.
     *
     * @param version the version that the change left
     * @param was how the cell was before it
     * @param aloneBy who both wrote the text that was in force before and put it in force; 0 when two people stand behind it, or a file
     */
    record Undo(int version, CellWas was, long aloneBy) implements CellEvent {
        @Override
        public Outcome step(Cell cell, int revision, Actor actor) {
            return CellSteps.undo(cell, this, actor);
        }

        @Override
        public boolean isOwn(Cell before, Text settled, long person) {
            return aloneBy == person;
        }

        @Override
        public boolean restores() {
            return true;
        }
    }
}
