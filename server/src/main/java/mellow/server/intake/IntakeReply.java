package mellow.server.intake;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mellow.core.format.KeyHabit;
import mellow.core.format.SiblingHabit;
import mellow.core.merge.ChangeKind;
import mellow.server.master.ReadingChoice.ColumnChoice;
import mellow.server.run.RunService.RunReply;
import org.jspecify.annotations.Nullable;

/**
 * An intake as the screen shows it; its parts are flat on the wire.
 *
 * @param options what holds: chosen by people where they chose, else found out
 * @param reading how the file was read, null while it is being applied and once it is no longer open
 * @param set its files when it is a set, null for one file
 * @param assetSet the number of the set of pictures and sounds that it was made of, null for other files
 */
record IntakeReply(
        @JsonUnwrapped About about,
        IntakeOptions options,
        @Nullable ReadingReply reading,
        @JsonUnwrapped Into into,
        Sets.@Nullable SetReply set,
        @Nullable Long assetSet,
        @JsonUnwrapped Done done) {

    /**
     * Which intake it is, and how far.
     *
     * @param person who brought the file
     */
    record About(
            long id, String fileName, String status, String person, Instant createdAt, @Nullable Instant appliedAt) {}

    /**
     * The table it goes or went into; null when it makes a new one.
     *
     * @param tableSlug its name in addresses
     */
    record Into(@Nullable String tableSlug, @Nullable String tableName) {}

    /**
     * What became of it.
     *
     * @param report what it did, once applied
     * @param undo what taking it back did, once taken back
     * @param undoneAt when it was taken back
     * @param undoneBy who took it back
     * @param run how taking it in or back stands, null when it never started
     */
    record Done(
            @Nullable PreviewReply report,
            Undoing.@Nullable UndoReply undo,
            @Nullable Instant undoneAt,
            @Nullable String undoneBy,
            @Nullable RunReply run) {}

    /** How a file was read. */
    record ReadingReply(
            @JsonUnwrapped Written written,
            @JsonUnwrapped Shown shown,
            @JsonUnwrapped Held held,
            @JsonUnwrapped Told told,
            @JsonUnwrapped Trouble trouble) {

        /** What is known of a file that cannot be read, and why. */
        static ReadingReply unread(String format, String charset, @Nullable String language, String why) {
            return new ReadingReply(
                    new Written(format, charset, false, null, null, false),
                    new Shown(-1, List.of(), List.of(), List.of()),
                    new Held(language, List.of(), List.of(), 0),
                    new Told(null, List.of(), null, List.of()),
                    new Trouble(true, why, ProblemList.NONE));
        }

        /** The same with what stands against it now. */
        ReadingReply now(@Nullable String why, List<String> missing) {
            return new ReadingReply(
                    written,
                    shown,
                    new Held(held.language, held.languages, missing, held.entries),
                    told,
                    new Trouble(trouble.unread, why, trouble.wrong));
        }
    }

    /**
     * How it is written.
     *
     * @param format the name of its format
     * @param charset its character set
     * @param byteOrderMark whether it begins with a byte-order mark
     * @param delimiter between the cells of separated text, null for other formats
     * @param quote around cells, the same
     * @param guarded whether texts carry guards against formulas, which are removed
     */
    record Written(
            String format,
            String charset,
            boolean byteOrderMark,
            @Nullable String delimiter,
            @Nullable String quote,
            boolean guarded) {}

    /**
     * What its beginning looks like.
     *
     * @param headerRow the header's row in {@code rows}, -1 when there is none
     * @param columns what each column of separated text holds
     * @param rows the first rows as they stand in the file; of other formats a heading and the first entries
     * @param sheets the sheets of a workbook
     */
    record Shown(int headerRow, List<ColumnChoice> columns, List<List<String>> rows, List<SheetReply> sheets) {}

    /**
     * What it holds.
     *
     * @param language the language of its texts when the file holds one, empty when it does not say; null for files that name their languages
     * @param languages the languages it holds
     * @param newLanguages languages of the file that the table is not kept in yet
     * @param entries number of entries
     */
    record Held(@Nullable String language, List<String> languages, List<String> newLanguages, int entries) {}

    /**
     * What tells its entries apart.
     *
     * @param keys that, null where the format leaves no doubt
     * @param keyChoices what else it could be
     * @param siblings what siblings by suffix were taken for, null when it has none
     * @param evidence what spoke for that, as sentences
     */
    record Told(
            @Nullable KeyHabit keys,
            List<KeyHabit> keyChoices,
            @Nullable SiblingHabit siblings,
            List<String> evidence) {}

    /**
     * What is wrong with it.
     *
     * @param unread whether it cannot be read like this at all; {@code blocked} says why
     * @param blocked what has to be corrected first, null for nothing
     */
    record Trouble(boolean unread, @Nullable String blocked, @JsonUnwrapped ProblemList wrong) {}

    /**
     * A sheet of a workbook.
     *
     * @param taken whether it has entries
     * @param headerRow the header's row in {@code rows}, -1 when none was found
     * @param columns what each column holds
     * @param rows its first rows
     */
    record SheetReply(String name, boolean taken, int headerRow, List<ColumnChoice> columns, List<List<String>> rows) {}

    /**
     * An intake in the list of all.
     *
     * @param table the table's name in addresses, null when none was chosen
     * @param files number of its files that are not left out
     * @param did what it did, by kind; empty before it was taken in
     */
    record Listed(
            @JsonUnwrapped About about,
            @Nullable String table,
            @Nullable String tableName,
            int files,
            Map<ChangeKind, Integer> did) {}
}
