package mellow.core.check;

import mellow.core.placeholder.IcuMessage;
import org.jspecify.annotations.Nullable;

/**
 * One form of a text that is looked at.
 *
 * @param of the whole text
 * @param name the form
 * @param source the source that it stands beside
 * @param sourceTraits {@link Traits} of the source
 * @param traits of the text
 * @param message the text as an ICU message where the source is one with types, else null; read once for all checks
 * @param pattern whether the source is a pattern of dates or times and no words
 */
record Form(
        Inspected of,
        String name,
        String source,
        String text,
        int sourceTraits,
        int traits,
        @Nullable IcuMessage message,
        boolean pattern) {

    Measure measure() {
        return of.measure();
    }

    Ground ground() {
        return of.ground();
    }

    /** Whether it is a message that cannot be read. */
    boolean broken() {
        return message != null && message.error() != null;
    }

    /** Whether either side has one of these traits. */
    boolean anywhere(int wanted) {
        return ((traits | sourceTraits) & wanted) != 0;
    }

    /** Whether there is a source, other words than it, and no pattern: what checks of style need. */
    boolean comparable() {
        return !source.isEmpty() && !pattern && !source.equals(text);
    }
}
