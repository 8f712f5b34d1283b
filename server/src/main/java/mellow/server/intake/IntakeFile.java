package mellow.server.intake;

import java.util.List;
import mellow.server.master.ReadingChoice;
import org.jspecify.annotations.Nullable;

/**
 * A file of an intake.
 *
 * @param position its place among them, 0-based; that of the sources comes first
 * @param path its name or path; names the base of the comparison
 * @param file the stored file's number
 * @param reading how it is read, with the language of its texts; null where the intake's options say it
 * @param source whether it holds the sources of a set
 * @param leftOut whether somebody wants it to stay out
 * @param facts what was found in it when it was looked at last; null for the only file of an intake
 */
record IntakeFile(
        int position,
        String path,
        long file,
        @Nullable ReadingChoice reading,
        boolean source,
        boolean leftOut,
        @Nullable Facts facts) {

    /**
     * What was found in a file of a set.
     *
     * @param texts texts in its language
     * @param missing entries of the source that have no text in it
     * @param unknown keys that the source lacks
     * @param problems what is wrong with it, as sentences
     * @param problemCount number of problems, those not listed included
     * @param blocked why it cannot go in as it is, null when it can
     */
    record Facts(
            String format,
            String charset,
            @Nullable String language,
            int texts,
            int missing,
            int unknown,
            List<String> problems,
            int problemCount,
            @Nullable String blocked) {}

    /** The same, left out or not, read in another way. */
    IntakeFile decided(@Nullable ReadingChoice otherwise, boolean isSource, boolean staysOut, @Nullable Facts found) {
        return new IntakeFile(position, path, file, otherwise, isSource, staysOut, found);
    }

    /** The same with what was found in it. */
    IntakeFile found(Facts now) {
        return decided(reading, source, leftOut, now);
    }
}
