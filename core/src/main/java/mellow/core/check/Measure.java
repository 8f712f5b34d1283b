package mellow.core.check;

import java.util.Objects;
import java.util.SortedMap;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/**
 * What a text is measured by.
 *
 * @param shape the entry's shape
 * @param source its source by form
 * @param maxLength longest allowed form in characters (code points), 0 for no limit
 * @param maxLines most lines of a form, 0 for no limit
 * @param maxWidth widest allowed line in pixels of the product's font, 0 for no limit
 */
public record Measure(Shape shape, SortedMap<String, String> source, int maxLength, int maxLines, int maxWidth) {

    /** Without a width. */
    public Measure(Shape shape, SortedMap<String, String> source, int maxLength, int maxLines) {
        this(shape, source, maxLength, maxLines, 0);
    }

    /** The source that a form of the text stands beside: the same state, else the main form; empty for none. */
    String source(String form) {
        if (shape == Shape.STATES) {
            return source.getOrDefault(form, "");
        }
        String other = source.get(Text.OTHER);
        return other != null ? other : source.isEmpty() ? "" : Objects.requireNonNull(source.get(source.lastKey()));
    }

    /** Whether it is not known what the text is for. */
    boolean sourceless() {
        for (String form : source.values()) {
            if (!form.isEmpty()) {
                return false;
            }
        }
        return true;
    }
}
