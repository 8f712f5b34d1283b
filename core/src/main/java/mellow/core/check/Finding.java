package mellow.core.check;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import mellow.core.text.Places;
import org.jspecify.annotations.Nullable;

/**
 * Something about a text that a person should look at.
 *
 * @param kind what people switch on and off
 * @param code what it is exactly, stable, such as {@code placeholder-missing}
 * @param severity how much it matters
 * @param form the form of the text it is in
 * @param pattern what is wrong and what to do, for people, with {@linkplain Places places} for what differs
 * @param values what fills them, numbers and words of the text
 * @param start where it begins in that form, in UTF-16 units; -1 when it has no place
 * @param end after its last unit
 * @param mend the one sure way to mend it, null when there is none or more than one
 */
public record Finding(
        Kind kind,
        String code,
        Severity severity,
        String form,
        String pattern,
        Map<String, Object> values,
        int start,
        int end,
        @Nullable Mend mend) {

    /** How much a finding matters. */
    public enum Severity {
        /** The text must not be used like this. */
        BLOCKER,
        /** It may be meant. */
        WARNING
    }

    /** What is wrong and what to do, for people; put together when it is asked for, since most findings are only counted. */
    public String sentence() {
        return Places.filled(pattern, values);
    }

    /** The sentences of some findings, one after the other. */
    public static String sentences(List<Finding> findings) {
        return findings.stream().map(Finding::sentence).collect(Collectors.joining(" "));
    }

    /** Whether the text must not be used like this. */
    public boolean blocks() {
        return severity == Severity.BLOCKER;
    }

    Finding withoutMend() {
        return new Finding(kind, code, severity, form, pattern, values, start, end, null);
    }
}
