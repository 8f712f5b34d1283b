package mellow.server.live;

import java.util.List;

/**
 * Something that changed and that open screens may show.
 *
 * @param table the table's number
 * @param entries the entries concerned, empty for "so many that it is quicker to read again"
 * @param languages tags of the languages whose cells changed, empty for the entries themselves
 */
public record LiveChange(long table, List<Long> entries, List<String> languages) {

    /** A notification carries at most 8,000 bytes. */
    static final int MOST_ENTRIES = 300;

    public LiveChange {
        entries = entries.size() > MOST_ENTRIES ? List.of() : List.copyOf(entries);
        languages = List.copyOf(languages);
    }
}
