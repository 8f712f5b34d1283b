package mellow.core.format.xliff;

import mellow.core.format.source.SourceText;

/** Limits of texts as both versions spell them. */
final class SizeLimit {

    private static final int DIGITS = 6;

    private SizeLimit() {}

    /** The number that {@code value} is; 0 with a warning when it is none. */
    static int number(SourceText source, int place, String value) {
        String digits = value.strip();
        if (digits.matches("[0-9]{1," + DIGITS + "}")) {
            return Integer.parseInt(digits);
        }
        source.warn(place, "the limit “" + value + "” is no number of characters", "taken in without a limit");
        return 0;
    }
}
