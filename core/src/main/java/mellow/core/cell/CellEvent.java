package mellow.core.cell;

import mellow.core.text.Text;

/** Something that somebody wants to happen to a cell. */
public sealed interface CellEvent {

    /** Keep a text without putting it forward. */
    record Pencil(Text text) implements CellEvent {}

    /** Put a text forward: an offer, or in force at once where the language lets reviewers settle their own. */
    record PutForward(Text text, long offerId) implements CellEvent {}

    /** Put a text forward as an offer, whatever else the person may do. */
    record MakeOffer(Text text, long offerId) implements CellEvent {}

    /**
     * Put an offer in force.
     *
     * @param meaningConfirmed the reviewer has seen that the source moved on and says the offer fits it
     */
    record Settle(long offerId, boolean meaningConfirmed) implements CellEvent {}

    /** Put one's own new offer in force, because a {@link StandingRule} of the language says so. */
    record SettleByRule(long offerId) implements CellEvent {}

    /** Put a changed offer in force. */
    record Amend(long offerId, Text text) implements CellEvent {}

    /** Send an offer back. */
    record Return(long offerId, String reason) implements CellEvent {}

    /** Take one's own offer back. */
    record Withdraw(long offerId) implements CellEvent {}

    /** The text in force fits the source as it reads now: at once by a reviewer, as an offer of the same text by a contributor. */
    record StillHolds(long offerId) implements CellEvent {}

    /** Take the text out of force. */
    record Clear() implements CellEvent {}

    /**
     * Restore the text of an earlier story line.
     *
     * @param author whose text it is: the person's number, 0 for a text of a file
     */
    record PutBack(Text text, Standing standing, int basedOn, long author) implements CellEvent {}

    /**
     * Take back the last change of the cell.
     *
     * @param version the version that the change left
     * @param was how the cell was before it
     * @param aloneBy who both wrote the text that was in force before and put it in force; 0 when two people stand behind it, or a file
     */
    record Undo(int version, CellWas was, long aloneBy) implements CellEvent {}
}
