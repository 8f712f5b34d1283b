package mellow.core.bundle;

import java.util.SortedMap;
import mellow.core.text.Text;

/**
 * What is in force of an entry in a language, or would be.
 *
 * @param forms its text by form
 * @param offered whether it is only offered
 */
public record BundleText(String key, String context, SortedMap<String, String> forms, boolean offered) {

    /** What is in force. */
    public BundleText(String key, String context, SortedMap<String, String> forms) {
        this(key, context, forms, false);
    }

    /** Between a context and a key, as in compiled catalogues (GNU gettext, "The Format of GNU MO Files"). */
    private static final char JOINED = '\u0004';

    /** What it is called in a bundle: its key, after its context where it has one. */
    String name() {
        return context.isEmpty() ? key : context + JOINED + key;
    }

    /** A plain text, or its forms. */
    Object value() {
        String only = forms.get(Text.OTHER);
        return forms.size() == 1 && only != null ? only : forms;
    }
}
