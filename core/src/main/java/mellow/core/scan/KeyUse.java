package mellow.core.scan;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A place in code that uses a key.
 *
 * @param key the key, with {@code *} where a part of it is computed; a name of a resource when {@code folded}
 * @param how how sure it is
 * @param folded whether the key is a name of a resource, which has underscores for dots and hyphens
 * @param context the context, null when none or an empty one is named
 * @param text the text that the code has for it, null for none
 * @param note what the code says to translators, empty for nothing
 * @param values what is put into the text, null when that cannot be told
 * @param place where it is
 */
public record KeyUse(
        String key,
        How how,
        boolean folded,
        @Nullable String context,
        @Nullable String text,
        String note,
        @Nullable Values values,
        Place place) {

    /** Without an empty context, which is none. */
    public KeyUse {
        context = context == null || context.isEmpty() ? null : context;
    }

    /** How sure a use is. */
    public enum How {
        /** The whole key is there. */
        WHOLE,
        /** A part of it is computed. */
        PART,
        /** A string that reads like it, where no habit expects a key. */
        MENTION
    }

    /**
     * What is put into a text.
     *
     * @param count how many values, named or not
     * @param names their names, empty when they go by their places
     */
    public record Values(int count, List<String> names) {

        /** A copy of what is given. */
        public Values {
            names = List.copyOf(names);
        }
    }

    /**
     * A place in a file.
     *
     * @param line from 1
     * @param column from 1, in UTF-16 units
     * @param around the line without the space around it, cut when it is long
     */
    public record Place(int line, int column, String around) {}
}
