package mellow.server.master;

import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import mellow.core.format.KeyHabit;
import mellow.core.format.SiblingHabit;
import mellow.core.format.sheet.Column;
import mellow.core.format.sheet.Column.Role;
import mellow.core.format.sheet.SheetLayout;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import org.jspecify.annotations.Nullable;

/**
 * What a person said about how a file is read, kept with its path for ever; null is "find it out".
 *
 * @param format name of the format
 * @param charset name of the character set
 * @param delimiter the delimiter of separated text, one character
 * @param quote the quote of separated text, one character
 * @param headerRow the header's row among those that are not blank, 0-based
 * @param columns what each column of separated text holds
 * @param sheets what the columns of a workbook's sheets hold; sheets that are not named are found out
 * @param language the language of the texts of a file that holds one
 * @param keys what tells the entries of a bilingual file apart
 * @param siblings what siblings by suffix are in a file of nested keys
 */
public record ReadingChoice(
        @Nullable @Size(max = 40) String format,
        @Nullable @Size(max = 40) String charset,
        @Nullable @Size(max = 1) String delimiter,
        @Nullable @Size(max = 1) String quote,
        @Nullable Integer headerRow,
        @Nullable @Size(max = 400) List<ColumnChoice> columns,
        @Nullable @Size(max = 400) List<SheetChoice> sheets,
        @Nullable @Size(max = 60) String language,
        @Nullable KeyHabit keys,
        @Nullable SiblingHabit siblings) {

    /** Everything is found out. */
    public static final ReadingChoice UNDECIDED =
            new ReadingChoice(null, null, null, null, null, null, null, null, null, null);

    /**
     * What a column holds.
     *
     * @param heading the words above it
     * @param role what it holds
     * @param language the language of its texts when the role is TEXT
     */
    public record ColumnChoice(String heading, Role role, @Nullable String language) {

        /** What is found to be in a column. */
        public static ColumnChoice of(Column column) {
            return new ColumnChoice(
                    column.heading(),
                    column.role(),
                    column.language().map(LanguageTag::value).orElse(null));
        }

        Column column(int index) {
            if (role != Role.TEXT) {
                return Column.of(heading, role);
            }
            String spelling = language == null ? "" : language;
            return Column.text(heading, tag(spelling, " for column " + (index + 1)));
        }
    }

    /**
     * What the columns of a sheet hold.
     *
     * @param name the sheet's name
     * @param headerRow its header's row among those that are not blank, 0-based
     * @param columns what each column holds; none to find it out below the header row, or with header row -1 to leave the sheet out
     */
    public record SheetChoice(String name, int headerRow, List<ColumnChoice> columns) {

        SheetLayout layout() {
            return ReadingChoice.layout(headerRow, columns);
        }
    }

    /** The layout of a sheet whose columns somebody has said. */
    static SheetLayout layout(int headerRow, List<ColumnChoice> columns) {
        return new SheetLayout(
                headerRow,
                IntStream.range(0, columns.size())
                        .mapToObj(i -> columns.get(i).column(i))
                        .toList());
    }

    /** Reads a language tag; {@code where} goes on with what it stands for. */
    public static LanguageTag tag(String spelling, String where) {
        return LanguageTag.parse(spelling)
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-language",
                        "\u201c{said}\u201d is no language tag; expected one such as de or pt-BR{where}.",
                        Map.of("said", spelling, "where", where)));
    }

    /** The same with texts in that language. */
    public ReadingChoice in(String spoken) {
        return spelled(format, charset, spoken);
    }

    /** The same in that format, character set and language. */
    public ReadingChoice spelled(@Nullable String inFormat, @Nullable String inCharset, @Nullable String spoken) {
        return new ReadingChoice(
                inFormat, inCharset, delimiter, quote, headerRow, columns, sheets, spoken, keys, siblings);
    }

    /** The same with those habits of keys and siblings. */
    public ReadingChoice understood(@Nullable KeyHabit byKeys, @Nullable SiblingHabit ofSiblings) {
        return new ReadingChoice(
                format, charset, delimiter, quote, headerRow, columns, sheets, language, byKeys, ofSiblings);
    }

    /** Only the habits of keys and siblings that this says. */
    public ReadingChoice habits() {
        return UNDECIDED.understood(keys, siblings);
    }
}
