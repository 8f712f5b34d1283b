package mellow.core.check;

import java.util.SortedMap;
import mellow.core.placeholder.DatePattern;
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
        int sourceTraits = Traits.of(source);
        boolean messages = Traits.in(sourceTraits, Traits.BRACE)
                && IcuMessage.maybeTyped(source)
                && IcuMessage.parse(source).typed();
        return new Form(
                this,
                name,
                source,
                words,
                sourceTraits,
                source.equals(words) ? sourceTraits : Traits.of(words),
                messages ? IcuMessage.parse(words) : null,
                DatePattern.is(source));
    }
}
