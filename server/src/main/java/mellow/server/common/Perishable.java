package mellow.server.common;

import java.time.Instant;

/** Rows that nobody needs any more after a while. Whoever owns a table says so of it; docs/kept.md tells people. */
public interface Perishable {

    /** What it is, for the log: a few words. */
    String what();

    /** Whether it is what others name, and is known to be forgotten only when they have been cleared. */
    default boolean namedByOthers() {
        return false;
    }

    /** Forgets what had its time, in one transaction; how much it was. */
    int forget(Instant now);
}
