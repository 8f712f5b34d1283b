package mellow.core.format;

import java.util.ArrayList;
import java.util.List;

/** Collects what is wrong with one file: all that is counted, the first {@value #KEPT} kept, so that a hostile file cannot fill the memory. */
public final class Problems {

    /** Nobody reads more, and each may quote a cell. */
    public static final int KEPT = 500;

    private final String file;
    private final List<Problem> kept = new ArrayList<>();
    private int count;

    /** No problems yet in {@code file}. */
    public Problems(String file) {
        this.file = file;
    }

    /** The name of the file, for sentences. */
    public String file() {
        return file;
    }

    /** Notes something that reading got over. */
    public void warn(Position position, String found, String madeOfIt) {
        add(Problem.warning(file, position, found, madeOfIt));
    }

    /** Notes something that must be corrected before the file can be taken in. */
    public void error(Position position, String found, String expected) {
        add(Problem.error(file, position, found, expected));
    }

    /** The exception that refuses the file on the spot. */
    public UnreadableFileException refuse(Position position, String found, String expected) {
        return new UnreadableFileException(Problem.error(file, position, found, expected));
    }

    private void add(Problem problem) {
        count++;
        if (kept.size() < KEPT) {
            kept.add(problem);
        }
    }

    /** How many there were, the ones not kept included. */
    public int count() {
        return count;
    }

    /** The first {@value #KEPT}, in the order they were met. */
    public List<Problem> kept() {
        return List.copyOf(kept);
    }
}
