package mellow.server.intake;

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
 * An intake as the screen shows it.
 *
 * @param person who brought the file
 * @param options what holds: chosen by people where they chose, else found out
 * @param reading how the file was read, null while it is being applied and once it is no longer open
 * @param tableSlug the table it goes or went into, by its name in addresses; null when it makes a new one
 * @param tableName the name of that table
 * @param report what it did, once applied
 * @param undo what taking it back did, once taken back
 * @param undoneAt when it was taken back
 * @param undoneBy who took it back
 * @param set its files when it is a set, null for one file
 * @param run how taking it in or back stands, null when it never started
 */
record IntakeReply(
        long id,
        String fileName,
        String status,
        String person,
        Instant createdAt,
        @Nullable Instant appliedAt,
        IntakeOptions options,
        @Nullable ReadingReply reading,
        @Nullable String tableSlug,
        @Nullable String tableName,
        @Nullable PreviewReply report,
        Undoing.@Nullable UndoReply undo,
        @Nullable Instant undoneAt,
        @Nullable String undoneBy,
        Sets.@Nullable SetReply set,
        @Nullable RunReply run) {

    /**
     * How a file was read.
     *
     * @param format the name of its format
     * @param charset its character set
     * @param byteOrderMark whether it begins with a byte-order mark
     * @param delimiter between the cells of separated text, null for other formats
     * @param quote around cells, the same
     * @param guarded whether texts carry guards against formulas, which are removed
     * @param headerRow the header's row in {@code rows}, -1 when there is none
     * @param columns what each column of separated text holds
     * @param rows the first rows as they stand in the file; of other formats a heading and the first entries
     * @param sheets the sheets of a workbook
     * @param language the language of its texts when the file holds one, empty when it does not say; null for files that name their languages
     * @param languages the languages it holds
     * @param entries number of entries
     * @param keys what tells its entries apart, null where the format leaves no doubt
     * @param keyChoices what else it could be
     * @param siblings what siblings by suffix were taken for, null when it has none
     * @param evidence what spoke for that, as sentences
     * @param unread whether it cannot be read like this at all; {@code blocked} says why
     * @param blocked what has to be corrected first, null for nothing
     * @param problems what is wrong, as sentences
     * @param problemCount number of problems, those not listed included
     * @param newLanguages languages of the file that the table is not kept in yet
     */
    record ReadingReply(
            String format,
            String charset,
            boolean byteOrderMark,
            @Nullable String delimiter,
            @Nullable String quote,
            boolean guarded,
            int headerRow,
            List<ColumnChoice> columns,
            List<List<String>> rows,
            List<SheetReply> sheets,
            @Nullable String language,
            List<String> languages,
            int entries,
            @Nullable KeyHabit keys,
            List<KeyHabit> keyChoices,
            @Nullable SiblingHabit siblings,
            List<String> evidence,
            boolean unread,
            @Nullable String blocked,
            List<String> problems,
            int problemCount,
            List<String> newLanguages) {

        /** What is known of a file that cannot be read, and why. */
        static ReadingReply unread(String format, String charset, @Nullable String language, String why) {
            return new ReadingReply(
                    format, charset, false, null, null, false, -1, List.of(), List.of(), List.of(), language, List.of(),
                    0, null, List.of(), null, List.of(), true, why, List.of(), 0, List.of());
        }

        /** The same with what stands against it now. */
        ReadingReply now(@Nullable String why, List<String> missing) {
            return new ReadingReply(
                    format,
                    charset,
                    byteOrderMark,
                    delimiter,
                    quote,
                    guarded,
                    headerRow,
                    columns,
                    rows,
                    sheets,
                    language,
                    languages,
                    entries,
                    keys,
                    keyChoices,
                    siblings,
                    evidence,
                    unread,
                    why,
                    problems,
                    problemCount,
                    missing);
        }
    }

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
            long id,
            String fileName,
            String status,
            String person,
            @Nullable String table,
            @Nullable String tableName,
            Instant createdAt,
            @Nullable Instant appliedAt,
            int files,
            Map<ChangeKind, Integer> did) {}
}
