package mellow.core.check;

import java.util.SortedMap;
import mellow.core.placeholder.IcuMessage;
import org.jspecify.annotations.Nullable;

/**
 * A text that is looked at.
 *
 * @param text the text by form, without empty forms
 */
record Inspected(Measure measure, SortedMap<String, String> text, Ground ground) {

    /**
     * One form of it.
     *
     * @param name the form
     * @param source the source that it stands beside
     * @param message the text as an ICU message where the source is one with types, else null; read once for all checks
     */
    record Form(Inspected of, String name, String source, String text, @Nullable IcuMessage message) {

        Measure measure() {
            return of.measure;
        }

        /** Whether it is a message that cannot be read. */
        boolean broken() {
            return message != null && message.error() != null;
        }
    }

    Form form(String name, String words) {
        String source = measure.source(name);
        return new Form(this, name, source, words, IcuMessage.parse(source).typed() ? IcuMessage.parse(words) : null);
    }
}
