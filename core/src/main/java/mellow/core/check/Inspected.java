package mellow.core.check;

import java.util.SortedMap;
import mellow.core.placeholder.IcuMessage;

/**
 * A text that is looked at.
 *
 * @param text the text by form, without empty forms
 * @param ground what texts of its language are looked at by
 */
record Inspected(Measure measure, SortedMap<String, String> text, Ground ground) {

    Form form(String name, String words) {
        String source = measure.source(name);
        boolean messages =
                IcuMessage.maybeTyped(source) && IcuMessage.parse(source).typed();
        return new Form(
                this,
                name,
                source,
                words,
                Traits.of(source),
                source.equals(words) ? Traits.of(source) : Traits.of(words),
                messages ? IcuMessage.parse(words) : null,
                DatePattern.is(source));
    }
}
