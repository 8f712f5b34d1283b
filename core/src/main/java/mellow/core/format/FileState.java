package mellow.core.format;

import java.util.Locale;

/** What a file itself says about the state of a text; a format without states says nothing. */
public enum FileState {
    UNTRANSLATED,
    PENCILLED,
    OFFERED,
    SETTLED;

    /** The name in the HTTP interface and in {@code inspect}. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
