package mellow.server.people;

import java.util.Locale;

/** What a person may do in one language; each level includes those before it. */
public enum Level {
    READER,
    CONTRIBUTOR,
    REVIEWER;

    /** The name in the database and the HTTP interface. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
