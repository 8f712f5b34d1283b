package mellow.server.entry;

import java.util.SortedMap;
import org.jspecify.annotations.Nullable;

/** How an entry was before a change, as a story line keeps it: enough to undo any change of it. */
record Snapshot(
        long table,
        double position,
        Description description,
        SortedMap<String, String> source,
        int meaningRevision,
        @Nullable Long picture,
        boolean removed) {}
