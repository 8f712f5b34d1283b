package mellow.server.intake;

import java.util.List;

/**
 * What is wrong with a file.
 *
 * @param problems the first of them, as sentences
 * @param problemCount number of problems, those not listed included
 */
record ProblemList(List<String> problems, int problemCount) {

    static final ProblemList NONE = new ProblemList(List.of(), 0);

    static ProblemList of(IntakeRead file) {
        return new ProblemList(file.problems(), file.problemCount());
    }
}
