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
     * Whether what came of an event may stand where the text in force was drafted by a machine and nobody changed it since: it is put forward or settled by somebody
     * who opened it, however that is done.
     *
     * @param opened whether somebody looked at this cell by itself
     */
    public static Outcome byMachine(Cell before, Outcome outcome, boolean opened) {
        if (opened || !(outcome instanceof Changed changed) || before.text().isEmpty()) {
            return outcome;
        }
        Cell after = changed.cell();
        boolean settled = before.standing() != Standing.SETTLED
                && after.standing() == Standing.SETTLED
                && after.text().equals(before.text());
        boolean offered = after.offers().stream()
                .anyMatch(offer -> offer.open()
                        && before.openOffer(offer.id()).isEmpty()
                        && offer.text().equals(before.text().get()));
        return settled || offered ? new Refused(Reason.MACHINE_TEXT) : outcome;
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
