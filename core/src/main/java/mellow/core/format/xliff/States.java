package mellow.core.format.xliff;

import java.util.Optional;
import mellow.core.format.FileState;

/** States of XLIFF 1.2 §2.3 and 2.1 §4.3.1.29 and those of the record. */
final class States {

    private States() {}

    /**
     * The state of a target in XLIFF 1.2.
     *
     * @param state its {@code state}, empty for none
     * @param approved the unit's {@code approved}, empty for none
     * @param empty whether it has no text
     */
    static Optional<FileState> of12(String state, String approved, boolean empty) {
        if (empty) {
            return Optional.of(FileState.UNTRANSLATED);
        }
        if (approved.equals("yes") || state.equals("final") || state.equals("signed-off")) {
            return Optional.of(FileState.SETTLED);
        }
        if (state.equals("translated")) {
            return Optional.of(FileState.OFFERED);
        }
        if (state.startsWith("needs-")) {
            return Optional.of(FileState.PENCILLED);
        }
        return state.equals("new") ? Optional.of(FileState.UNTRANSLATED) : Optional.empty();
    }

    /** The state of a segment in XLIFF 2; "reviewed" is not "final", so nobody has settled it. */
    static Optional<FileState> of2(String state, boolean empty) {
        if (empty) {
            return Optional.of(FileState.UNTRANSLATED);
        }
        return switch (state) {
            case "final" -> Optional.of(FileState.SETTLED);
            case "translated", "reviewed" -> Optional.of(FileState.OFFERED);
            case "initial" -> Optional.of(FileState.UNTRANSLATED);
            default -> Optional.empty();
        };
    }

    /** What XLIFF 1.2 calls it. */
    static String word12(FileState state) {
        return switch (state) {
            case SETTLED -> "final";
            case OFFERED -> "translated";
            case PENCILLED -> "needs-review-translation";
            case UNTRANSLATED -> "new";
        };
    }

    /** What XLIFF 2 calls it; it has no word for pencilled. */
    static String word2(FileState state) {
        return switch (state) {
            case SETTLED -> "final";
            case OFFERED -> "translated";
            case PENCILLED, UNTRANSLATED -> "initial";
        };
    }

    /** {@code subState} that tells pencilled from untranslated in XLIFF 2, empty for none. */
    static String subState(FileState state) {
        return state == FileState.PENCILLED ? PENCILLED : "";
    }

    /** The sub-state of our own for a text that is not finished. */
    static final String PENCILLED = "mellow:pencilled";
}
