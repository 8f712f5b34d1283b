package mellow.server.asset;

import java.util.List;
import mellow.server.file.FactsReply;
import mellow.server.run.RunService.RunReply;
import org.jspecify.annotations.Nullable;

/**
 * Pictures and sounds that came together.
 *
 * @param version to be sent back with what is decided
 * @param options what was decided
 * @param proposed patterns that their names tell
 * @param tableName the table's name, null for one to be made
 * @param files the files in the order of their paths; none before they were looked through
 * @param entries how many entries they are for
 * @param languages the languages they are in, and those of the table
 * @param blocked why they cannot be compared before something is corrected, null when they can
 * @param run how looking through them stands, null when nobody started it
 * @param intake the number of the intake that was made of them last, null for none
 * @param taken whether that was taken in, so that they are in the table, and their files are listed no longer than a month
 */
record AssetSetReply(
        long id,
        int version,
        AssetSetOptions options,
        List<String> proposed,
        @Nullable String tableName,
        List<AssetFileReply> files,
        int entries,
        List<AssetLanguageReply> languages,
        @Nullable String blocked,
        @Nullable RunReply run,
        @Nullable Long intake,
        boolean taken) {

    /**
     * A file.
     *
     * @param position its number among them
     * @param file the stored file's number, null when it was not kept
     * @param facts what it is, null when it cannot go in
     * @param key the entry's key, null when nothing tells it
     * @param language its language's tag, null when nothing tells it
     * @param said whether a person said key or language
     * @param leftOut whether it stays out
     * @param why what stands against it, or what is worth to know: one sentence, null for nothing
     * @param gone what was taken out of it, a sentence each
     */
    record AssetFileReply(
            int position,
            String path,
            @Nullable Long file,
            @Nullable FactsReply facts,
            @Nullable String key,
            @Nullable String language,
            boolean said,
            boolean leftOut,
            @Nullable String why,
            List<String> gone) {}

    /**
     * How much of a language there is.
     *
     * @param language its tag
     * @param there entries that have a file in it, in this set or in the table
     * @param missing keys of the first entries that have none
     */
    record AssetLanguageReply(String language, int there, List<String> missing) {}
}
