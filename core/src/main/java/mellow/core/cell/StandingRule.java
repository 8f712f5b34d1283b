package mellow.core.cell;

import java.util.List;
import mellow.core.cell.Offer.Answer;

/**
 * Settles offers of trusted contributors of a language at once. It never chooses between texts: where another offer waits, or a settled text stands
 * that is not stale, a reviewer decides.
 *
 * @param after how many of a contributor's last answered offers must have been settled as they were
 */
public record StandingRule(int after) {

    /** Fewer would trust chance. */
    public static final int LEAST = 3;

    public static final int MOST = 1_000;

    public StandingRule {
        if (after < LEAST || after > MOST) {
            throw new IllegalArgumentException("a rule settles after " + LEAST + " to " + MOST + " in a row");
        }
    }

    /**
     * Whether a contributor is trusted.
     *
     * @param newestFirst what reviewers answered to their offers; what was set aside or withdrawn says nothing about a text
     */
    public boolean trusts(List<Answer> newestFirst) {
        List<Answer> answers = newestFirst.stream()
                .filter(answer -> answer == Answer.SETTLED || answer == Answer.AMENDED || answer == Answer.RETURNED)
                .limit(after)
                .toList();
        return answers.size() == after && answers.stream().allMatch(answer -> answer == Answer.SETTLED);
    }

    /** Whether the only open offer of {@code offered} may be settled without a reviewer's choice. */
    public static boolean leavesNoChoice(Cell offered, int meaningRevision) {
        boolean settledText = offered.standing() == Standing.SETTLED && offered.basedOn() >= meaningRevision;
        return offered.openOffers() == 1 && !settledText;
    }
}
