package mellow.core.text;

import java.util.Collections;
import java.util.Map;
import java.util.Objects;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * What an entry says in one language, as forms by name: a plain text has the single form {@value #OTHER}, a plural text one form per CLDR plural
 * category, a states text one per number ("0", "1", …). Two texts are equal when their forms are equal, compared exactly.
 *
 * @param forms the forms by name, never empty, no empty plain text
 */
public record Text(SortedMap<String, String> forms) {

    /** The form of a plain text, and the plural category that every language has. */
    public static final String OTHER = "other";

    public Text {
        if (forms.isEmpty()) {
            throw new IllegalArgumentException("a text needs at least one form");
        }
        forms = Collections.unmodifiableSortedMap(new TreeMap<>(forms));
    }

    /**
     * A text of shape plain.
     *
     * @param text the words, not empty: "no text" is the absence of a {@code Text}
     */
    public static Text plain(String text) {
        if (text.isEmpty()) {
            throw new IllegalArgumentException("an empty text is the absence of a text");
        }
        return new Text(new TreeMap<>(Map.of(OTHER, text)));
    }

    /** The form {@value #OTHER}, or the last form when there is none of that name. */
    public String main() {
        String other = forms.get(OTHER);
        return other != null ? other : Objects.requireNonNull(forms.get(forms.lastKey()));
    }
}
