package mellow.core.check;

/**
 * Something about a text that a person should look at.
 *
 * @param code what it is, stable, such as {@code placeholder-missing}
 * @param severity how much it matters
 * @param form the form of the text it is in
 * @param sentence what is wrong, for people
 * @param start where it begins in that form, in UTF-16 units; -1 when it has no place
 * @param end after its last unit
 */
public record Finding(String code, Severity severity, String form, String sentence, int start, int end) {

    /** How much a finding matters. */
    public enum Severity {
        /** The text must not be used like this. */
        BLOCKER,
        /** It may be meant. */
        WARNING
    }

    static Finding blocker(String code, String form, String sentence) {
        return new Finding(code, Severity.BLOCKER, form, sentence, -1, -1);
    }

    static Finding warning(String code, String form, String sentence) {
        return new Finding(code, Severity.WARNING, form, sentence, -1, -1);
    }

    Finding at(int from, int to) {
        return new Finding(code, severity, form, sentence, from, to);
    }
}
