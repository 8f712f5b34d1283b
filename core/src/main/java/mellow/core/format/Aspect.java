package mellow.core.format;

import java.util.Locale;

/** What the record says of entries and texts that not every format has a place for. */
public enum Aspect {
    /** What tells equal keys apart. */
    CONTEXT,
    NOTE,
    REFERENCE,
    SECTION,
    LIMIT,
    /** That an entry is not to be translated. */
    NOT_FOR_TRANSLATION,
    /** That nobody has settled a text yet. */
    STATE,
    /** Texts that nobody has settled yet, themselves. */
    UNSETTLED_TEXT,
    /** Entries that have no text in the language of the file. */
    UNTRANSLATED,
    /** Plural forms beyond those that the format knows for the language. */
    PLURAL_FORMS,
    /** Carriage returns within texts. */
    LINE_BREAKS;

    /** The name in the HTTP interface. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
