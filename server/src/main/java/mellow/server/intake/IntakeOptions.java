package mellow.server.intake;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import jakarta.validation.Valid;
import mellow.server.master.ReadingChoice;

/**
 * What a person said about a file.
 *
 * @param how how it is read
 * @param where where it goes
 */
record IntakeOptions(@JsonUnwrapped @Valid ReadingChoice how, @JsonUnwrapped @Valid Destination where) {

    static final IntakeOptions UNDECIDED = new IntakeOptions(ReadingChoice.UNDECIDED, Destination.UNDECIDED);

    /** The same read in another way. */
    IntakeOptions read(ReadingChoice otherwise) {
        return new IntakeOptions(otherwise, where);
    }

    /** The same going elsewhere. */
    IntakeOptions going(Destination elsewhere) {
        return new IntakeOptions(how, elsewhere);
    }
}
