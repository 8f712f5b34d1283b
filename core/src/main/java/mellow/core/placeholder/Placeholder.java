package mellow.core.placeholder;

/**
 * A piece of a text that a program replaces or that is no language.
 *
 * @param kind what puts something in its place
 * @param spelled as it stands in the text
 * @param identity what makes two placeholders the same wherever they stand: the argument and its type, without widths and white space
 * @param start where it begins, in UTF-16 units
 * @param end after its last character
 */
public record Placeholder(Kind kind, String spelled, String identity, int start, int end) {

    /** What puts something in a placeholder's place. */
    public enum Kind {
        /** C and its heirs: {@code %s}, {@code %1$d}, {@code %@}. */
        PRINTF,
        /** The named forms of Python and Ruby: {@code %(name)s}, {@code %{name}}. */
        NAMED_PRINTF,
        /** Qt's: {@code %1}, {@code %L1}. */
        NUMBERED,
        /** {@code {0}} and {@code {name}}, with a format of .NET or Python after a colon. */
        BRACES,
        /** {@code {{name}}}. */
        DOUBLE_BRACES,
        /** {@code ${name}}. */
        DOLLAR_BRACES,
        /** An argument of an ICU message with a type: {@code {n, plural, …}}, {@code {d, date}}. */
        ICU_ARGUMENT,
        /** An HTML or XML tag, or an inline code of XLIFF. */
        TAG,
        /** {@code #mark#}. */
        MARK,
        /** A pattern of the table's own. */
        CUSTOM
    }
}
