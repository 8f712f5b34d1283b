package mellow.core.cell;

import mellow.core.text.Text;

/**
 * A text that someone put forward for a cell.
 *
 * @param id its number, unique in the cell
 * @param author the person's number
 * @param text what was offered
 * @param basedOn the source revision it was made from, from 1
 * @param standing what became of it
 * @param openedAt the cell's version when it was opened
 * @param answeredAt the cell's version when it was answered, 0 while open
 */
public record Offer(long id, long author, Text text, int basedOn, Answer standing, int openedAt, int answeredAt) {

    /** What became of an offer. */
    public enum Answer {
        OPEN,
        SETTLED,
        AMENDED,
        RETURNED,
        SET_ASIDE,
        WITHDRAWN
    }

    /** Whether it still waits for an answer. */
    public boolean open() {
        return standing == Answer.OPEN;
    }

    Offer answered(Answer answer, int version) {
        return new Offer(id, author, text, basedOn, answer, openedAt, version);
    }
}
