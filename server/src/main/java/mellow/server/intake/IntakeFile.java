package mellow.server.intake;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import mellow.server.master.ReadingChoice;
import org.jspecify.annotations.Nullable;

/**
 * A file of an intake.
 *
 * @param at which one it is
 * @param reading how it is read, with the language of its texts; null where the intake's options say it
 * @param source whether it holds the sources of a set
 * @param leftOut whether somebody wants it to stay out
 * @param facts what was found in it when it was looked at last; null for the only file of an intake
 */
record IntakeFile(
        @JsonUnwrapped Place at,
        @Nullable ReadingChoice reading,
        boolean source,
        boolean leftOut,
        @Nullable Facts facts) {

    /**
     * Which file it is.
     *
     * @param position its place among them, 0-based; that of the sources comes first
     * @param path its name or path; names the base of the comparison
     * @param file the stored file's number
     */
    record Place(int position, String path, long file) {}

    /**
     * What was found in a file of a set; its sums and problems are flat on the wire.
     *
     * @param blocked why it cannot go in as it is, null when it can
     */
    record Facts(
            String format,
            String charset,
            @Nullable String language,
            @JsonUnwrapped Counts counts,
            @JsonUnwrapped ProblemList wrong,
            @Nullable String blocked) {}

    /**
     * How much of the table a file of a set holds.
     *
     * @param texts texts in its language
     * @param missing entries of the source that have no text in it
     * @param unknown keys that the source lacks
     */
    record Counts(int texts, int missing, int unknown) {

        static final Counts NONE = new Counts(0, 0, 0);
    }

    int position() {
        return at.position();
    }

    String path() {
        return at.path();
    }

    long file() {
        return at.file();
    }

    /** The same, left out or not, read in another way. */
    IntakeFile decided(@Nullable ReadingChoice otherwise, boolean isSource, boolean staysOut, @Nullable Facts found) {
        return new IntakeFile(at, otherwise, isSource, staysOut, found);
    }

    /** The same with what was found in it. */
    IntakeFile found(Facts now) {
        return decided(reading, source, leftOut, now);
    }
}
