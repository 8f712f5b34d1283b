package mellow.server.cell;

import java.time.Instant;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A line of a cell's story.
 *
 * @param id its number in the cell's story
 * @param at when
 * @param person who
 * @param what what happened: pencilled, offered, settled, …
 * @param origin how: typed, file, undo, …
 * @param before the text in force before
 * @param beforeForms its forms, null for a plain text
 * @param after the text in force after, or the text offered
 * @param afterForms its forms, null for a plain text
 * @param file the file it came from
 * @param reason why an offer was returned, or what its author said with it
 * @param canBePutBack whether this line's text can be put back
 */
public record StoryLine(
        long id,
        Instant at,
        String person,
        String what,
        String origin,
        @Nullable String before,
        @Nullable Map<String, String> beforeForms,
        @Nullable String after,
        @Nullable Map<String, String> afterForms,
        @Nullable String file,
        @Nullable String reason,
        boolean canBePutBack) {}
