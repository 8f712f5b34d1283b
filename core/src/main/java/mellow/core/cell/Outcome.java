package mellow.core.cell;

import java.util.List;
import mellow.core.check.Finding;

/** What came of an event. */
public sealed interface Outcome {

    /**
     * The cell changed.
     *
     * @param cell the cell afterwards
     * @param what what the story says happened
     * @param lowered why a text that was settled once came back pencilled: what its checks say against it; empty when it did not
     */
    record Changed(Cell cell, What what, List<Finding> lowered) implements Outcome {

        Changed(Cell cell, What what) {
            this(cell, what, List.of());
        }
    }

    /**
     * Nothing changed, because a rule stands against it.
     *
     * @param blockers what the checks say against settling the text, when that is the reason
     */
    record Refused(Reason reason, List<Finding> blockers) implements Outcome {

        Refused(Reason reason) {
            this(reason, List.of());
        }
    }

    /** The kinds of story lines of a cell. */
    enum What {
        PENCILLED,
        OFFERED,
        SETTLED,
        SETTLED_BY_RULE,
        AMENDED,
        RETURNED,
        WITHDRAWN,
        STILL_HOLDS,
        CLEARED,
        PUT_BACK,
        UNDONE
    }

    /** Why an event was refused, with the sentence that people read. */
    enum Reason {
        NO_RIGHT_TO_OFFER("You have no right to offer texts in this language; ask a coordinator for it."),
        NO_RIGHT_TO_SETTLE("Only a reviewer of this language can do that."),
        SETTLED_IS_NOT_PENCILLED_OVER("A settled text is not pencilled over; put the new text forward instead."),
        SAME_AS_IN_FORCE("This is the text in force already; there is nothing to offer."),
        OFFER_NOT_OPEN("This offer has been answered or taken back in the meantime."),
        CHANGED_SINCE("This cell was changed again since; put back the line of its story that you want."),
        NOT_STALE("This text was made for the source as it reads now."),
        OWN_OFFER("Nobody puts their own text in force in this language; another reviewer has to settle it."),
        BLOCKED("This cannot be settled."),
        MACHINE_TEXT(
                "A machine drafted this text and nobody opened it; many of them are not put forward in one go in this language."),
        REASON_MISSING("Say why it goes back, so that its author can improve it."),
        NOT_YOURS("Only its author can take an offer back."),
        NOTHING_IN_FORCE("There is no text in force here.");

        private final String sentence;

        Reason(String sentence) {
            this.sentence = sentence;
        }

        public String sentence() {
            return sentence;
        }
    }
}
