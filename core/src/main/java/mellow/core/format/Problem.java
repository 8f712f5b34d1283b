package mellow.core.format;

/**
 * One thing wrong with a file.
 *
 * @param severity ERROR when the file cannot be taken in as it is, WARNING when it can
 * @param file the file's name as the person knows it
 * @param position where
 * @param found what stands there
 * @param expected what should, or what was made of it; may be empty
 */
public record Problem(Severity severity, String file, Position position, String found, String expected) {

    /** How bad it is. */
    public enum Severity {
        ERROR,
        WARNING
    }

    /** An error. */
    public static Problem error(String file, Position position, String found, String expected) {
        return new Problem(Severity.ERROR, file, position, found, expected);
    }

    /** A warning: reading went on. */
    public static Problem warning(String file, Position position, String found, String madeOfIt) {
        return new Problem(Severity.WARNING, file, position, found, madeOfIt);
    }

    /** The one sentence that people read: "deck.csv, line 14, column 3: found …; expected …." */
    public String sentence() {
        StringBuilder sentence = new StringBuilder(file);
        if (position.known()) {
            sentence.append(", line ").append(position.line());
            if (position.column() > 1) {
                sentence.append(", column ").append(position.column());
            }
        }
        sentence.append(": ").append(found);
        if (!expected.isEmpty()) {
            sentence.append(severity == Severity.ERROR ? "; expected " : "; ").append(expected);
        }
        return sentence.append('.').toString();
    }
}
