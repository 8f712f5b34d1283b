package mellow.server.code;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What screens are told about the code of a product. */
final class CodeReplies {

    private CodeReplies() {}

    /**
     * A look through the code.
     *
     * @param name what was looked through
     * @param doneAt null until it is through
     * @param status queued, going, done, failed, cancelled or lost
     * @param message why it failed, empty otherwise
     * @param ignored files that the tree's own rules leave out
     * @param binary files that are no text
     * @param large files that are too large to be written by people
     * @param keysNew keys that the one before did not have; 0 when there was none
     * @param textsMoved texts without keys that stand in another file now
     */
    record ScanReply(
            long id,
            String name,
            String person,
            Instant begunAt,
            @Nullable Instant doneAt,
            String status,
            long done,
            long total,
            String message,
            int files,
            long lines,
            int ignored,
            int binary,
            int large,
            boolean compared,
            int keysNew,
            int keysGone,
            int textsNew,
            int textsGone,
            int textsMoved) {}

    /**
     * All of it in figures.
     *
     * @param last the last look that is through, null before the first
     * @param going a later one that is not through or failed, null for none
     * @param used entries that the code uses; {@code maybe} those of which it has a part of the key only or a mention
     * @param missing keys that the code uses and no table of the product has
     * @param differing places whose text differs from the source
     * @param misfits places that put other values in than the text has places for
     * @param open texts without keys that nobody decided about
     */
    record CodeOverview(
            @Nullable ScanReply last,
            @Nullable ScanReply going,
            int used,
            int maybe,
            int tests,
            int unused,
            int missing,
            int differing,
            int misfits,
            int open,
            int later,
            int ignored,
            int taken) {}

    /**
     * A key that code uses and no table has.
     *
     * @param context the one that code asks for it in, empty where any will do
     * @param proposed how the entry could be called: the key, or what a name of a resource may stand for
     * @param places how many places use it
     * @param said the text that the code has, null for none
     * @param note what the code says to translators
     * @param fresh whether the look before did not have it
     */
    record MissingKey(
            String key,
            String context,
            boolean folded,
            String proposed,
            int places,
            String path,
            int line,
            String around,
            @Nullable String said,
            String note,
            boolean fresh) {}

    /**
     * An entry by how code uses it.
     *
     * @param since since when it is so
     */
    record CodeEntry(long entry, String table, String tableName, String key, String source, Instant since) {}

    /** A place whose text differs from the entry's source. */
    record DifferingText(
            long entry, String table, String key, String source, String said, String path, int line, String around) {}

    /**
     * A place that puts other values in than the text has places for.
     *
     * @param missing places that get no value
     * @param needless values that no place takes, by name or how many
     */
    record MisfitValues(
            long entry,
            String table,
            String key,
            String source,
            List<String> missing,
            List<String> needless,
            String path,
            int line,
            String around) {}

    /**
     * A text without a key.
     *
     * @param position its number in the look
     * @param composed whether a programmer has to take it out by hand
     * @param patched whether a patch can be made of it
     * @param proposed a key for it; the one of an entry that says the same when {@code known}
     * @param decision open, later, ignored or taken
     * @param entry what it became, null unless it was taken
     */
    record TextWithoutKey(
            int position,
            String path,
            int line,
            String around,
            String text,
            String kind,
            int likelihood,
            boolean composed,
            boolean patched,
            boolean fresh,
            String proposed,
            boolean known,
            String decision,
            @Nullable Long entry,
            @Nullable String key) {}
}
