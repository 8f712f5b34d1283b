package mellow.core.format;

/** A file that cannot be read; nothing of it was kept. */
public final class UnreadableFileException extends RuntimeException {

    private final Problem problem;

    /** Refuses a file for one problem. */
    public UnreadableFileException(Problem problem) {
        super(problem.sentence());
        this.problem = problem;
    }

    /** What is wrong, and where. */
    public Problem problem() {
        return problem;
    }
}
