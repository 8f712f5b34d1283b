package mellow.server.intake;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a file would do, or did.
 *
 * @param groups what happens, grouped; groups of zero are absent
 * @param unchanged entries that the file leaves as they are
 * @param problems what is wrong with the file, as sentences
 * @param problemCount number of problems, those not listed included
 */
record PreviewReply(List<Group> groups, int unchanged, List<String> problems, int problemCount) {

    /** How many lines of a group are shown. */
    static final int SHOWN = 200;

    /**
     * A kind of change.
     *
     * @param kind its stable name
     * @param count how many there are
     * @param lines the first {@value #SHOWN} of them
     */
    record Group(Kind kind, int count, List<Line> lines) {}

    /** The kinds, in the order in which people want to see them. */
    enum Kind {
        NEW_ENTRIES,
        SOURCES_REWRITTEN,
        SOURCE_CONFLICTS,
        TEXTS_ADDED,
        TEXTS_REPLACED,
        CONFLICTS,
        DIFFER_FROM_SETTLED,
        GO_STALE,
        DESCRIPTIONS,
        EMPTIED_IN_FILE,
        OTHER_SHAPE,
        EDITED_HERE,
        GONE_FROM_FILE,
        WITHOUT_SOURCE,
        NO_RIGHT
    }

    /**
     * One change.
     *
     * @param key the entry's key
     * @param language the language concerned, null for the source
     * @param before what the record says
     * @param after what the file says
     * @param becomes what becomes of the file's text: settled, pencilled, offered; null where nothing does
     */
    record Line(
            String key,
            @Nullable String language,
            @Nullable String before,
            @Nullable String after,
            @Nullable String becomes) {}
}
