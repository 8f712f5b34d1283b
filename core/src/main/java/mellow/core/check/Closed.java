package mellow.core.check;

import java.util.BitSet;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholders;

/** Places of placeholders, tags and links: their digits are no numbers, and their letters no words. */
final class Closed {

    private Closed() {}

    /**
     * Where they stand in a text, in UTF-16 units.
     *
     * @param traits the text's {@link Traits}
     */
    static BitSet in(String text, int traits, Form form) {
        BitSet closed = new BitSet(0);
        if (Traits.in(traits, Traits.PLACEHOLDER)
                || form.ground().settings().placeholders().custom()) {
            Placeholders syntax = form.ground().settings().placeholders();
            for (Placeholder one : PlaceholderCheck.meant(syntax.in(text), syntax.in(form.source()))) {
                closed.set(one.start(), one.end());
            }
        }
        if (Traits.in(traits, Traits.ANGLE)) {
            for (Tag tag : Tag.in(text, form.source())) {
                closed.set(tag.start(), tag.end());
            }
        }
        int link = Traits.in(traits, Traits.LINK) ? text.indexOf("://") : -1;
        while (link >= 0) {
            int end = link;
            while (end < text.length() && !Character.isWhitespace(text.charAt(end))) {
                end++;
            }
            closed.set(link, end);
            link = text.indexOf("://", end);
        }
        return closed;
    }
}
