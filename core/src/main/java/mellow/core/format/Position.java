package mellow.core.format;

/**
 * A place in a file.
 *
 * @param line 1-based; a line ends with LF, CR or CRLF
 * @param column 1-based, in characters as far as the format counts them
 * @param offset bytes from the start of the file, 0-based; -1 when it is not known
 */
public record Position(int line, int column, long offset) {

    /** The place is not known, or it is the whole file. */
    public static final Position WHOLE_FILE = new Position(0, 0, -1);

    public Position {
        if (offset >= 0 && (line < 1 || column < 1)) {
            throw new IllegalArgumentException("lines and columns count from 1");
        }
    }

    /** The line that {@code line} is, when nobody noted where in it. */
    public static Position ofLine(int line) {
        return new Position(line, 1, -1);
    }

    /** Whether this is a place and not the whole file. */
    public boolean known() {
        return line > 0;
    }
}
