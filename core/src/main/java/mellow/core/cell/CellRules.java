package mellow.core.cell;

import java.util.List;
import java.util.function.Function;
import mellow.core.cell.Outcome.Changed;
import mellow.core.cell.Outcome.Reason;
import mellow.core.cell.Outcome.Refused;
import mellow.core.check.Finding;
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
     * @param blockers what the checks say against settling a text
     * @return the changed cell, or why nothing changed; the cell given is never modified
     */
    public static Outcome apply(
            Cell cell, CellEvent event, int revision, Actor actor, Function<Text, List<Finding>> blockers) {
        Outcome outcome = event.step(cell, revision, actor);
        return outcome instanceof Changed changed ? judged(cell, event, changed, actor, blockers) : outcome;
    }

    /**
     * Four eyes and the checks, by the outcome: they hold for every way on which a text can come into force as settled. What is restored and does not pass
     * the checks comes back pencilled; everything else that does not is refused.
     */
    private static Outcome judged(
            Cell before, CellEvent event, Changed step, Actor actor, Function<Text, List<Finding>> blockers) {
        Cell after = step.cell();
        boolean stood = before.standing() == Standing.SETTLED && before.text().equals(after.text());
        if (after.standing() != Standing.SETTLED || stood) {
            return step;
        }
        Text text = after.text().orElseThrow();
        if (!actor.settlesOwn() && event.isOwn(before, text, actor.person())) {
            return new Refused(Reason.OWN_OFFER);
        }
        List<Finding> against = blockers.apply(text);
        if (against.isEmpty()) {
            return step;
        }
        return event.restores()
                ? new Changed(after.pencilled(), step.what(), against)
                : new Refused(Reason.BLOCKED, against);
    }
}
