package mellow.server.intake;

import jakarta.validation.constraints.Size;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import mellow.core.format.KeyHabit;
import mellow.core.format.SiblingHabit;
import mellow.core.format.sheet.Column;
import mellow.core.format.sheet.Column.Role;
import mellow.core.format.sheet.SheetLayout;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.common.Refusal;
import org.jspecify.annotations.Nullable;

/**
 * What a person said about a file; null is "find it out".
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
 * @param table the table it goes into, by its name in addresses
 * @param newTable or the name of a table to be made
 * @param source the source language of a table to be made
 * @param settlesOwn whether reviewers may settle their own texts in a table to be made
 * @param arrival what arrives as: SETTLED, OFFERED or PENCILLED
 * @param choices what is done about whole kinds of changes; others are done as usual
 */
record IntakeOptions(
        @Nullable @Size(max = 40) String format,
        @Nullable @Size(max = 40) String charset,
        @Nullable @Size(max = 1) String delimiter,
        @Nullable @Size(max = 1) String quote,
        @Nullable Integer headerRow,
        @Nullable @Size(max = 400) List<ColumnChoice> columns,
        @Nullable @Size(max = 400) List<SheetChoice> sheets,
        @Nullable @Size(max = 60) String language,
        @Nullable KeyHabit keys,
        @Nullable SiblingHabit siblings,
        @Nullable String table,
        @Nullable @Size(max = 200) String newTable,
        @Nullable String source,
        boolean settlesOwn,
        @Nullable Arrival arrival,
        @Nullable Map<ChangeKind, Choice> choices) {

    static final IntakeOptions UNDECIDED = new IntakeOptions(
            null, null, null, null, null, null, null, null, null, null, null, null, null, false, null, null);

    /**
     * What a column holds.
     *
     * @param heading the words above it
     * @param role what it holds
     * @param language the language of its texts when the role is TEXT
     */
    record ColumnChoice(String heading, Role role, @Nullable String language) {

        static ColumnChoice of(Column column) {
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
    record SheetChoice(String name, int headerRow, List<ColumnChoice> columns) {

        SheetLayout layout() {
            return IntakeOptions.layout(headerRow, columns);
        }
    }

    static SheetLayout layout(int headerRow, List<ColumnChoice> columns) {
        return new SheetLayout(
                headerRow,
                IntStream.range(0, columns.size())
                        .mapToObj(i -> columns.get(i).column(i))
                        .toList());
    }

    static LanguageTag tag(String spelling, String where) {
        return LanguageTag.parse(spelling)
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-language",
                        "\u201c" + spelling + "\u201d is no language tag; expected one such as de or pt-BR" + where
                                + "."));
    }

    Optional<Arrival> arriving() {
        return Optional.ofNullable(arrival);
    }

    Map<ChangeKind, Choice> decisions() {
        return choices == null ? Map.of() : choices;
    }

    /** The same where it goes and how its texts arrive. */
    IntakeOptions into(@Nullable String slug, @Nullable String made, @Nullable Arrival arriving) {
        return new IntakeOptions(
                format,
                charset,
                delimiter,
                quote,
                headerRow,
                columns,
                sheets,
                language,
                keys,
                siblings,
                slug,
                made,
                source,
                settlesOwn,
                arriving,
                choices);
    }

    /** The same with texts in that language. */
    IntakeOptions in(String spoken) {
        return spelled(format, charset, spoken);
    }

    /** The same read as {@code other} says, going where this says. */
    IntakeOptions readAs(IntakeOptions other) {
        return new IntakeOptions(
                other.format,
                other.charset,
                other.delimiter,
                other.quote,
                other.headerRow,
                other.columns,
                other.sheets,
                other.language,
                other.keys,
                other.siblings,
                table,
                newTable,
                source,
                settlesOwn,
                arrival,
                choices);
    }

    /** The same from a source language. */
    IntakeOptions from(String tag) {
        return new IntakeOptions(
                format,
                charset,
                delimiter,
                quote,
                headerRow,
                columns,
                sheets,
                language,
                keys,
                siblings,
                table,
                newTable,
                tag,
                settlesOwn,
                arrival,
                choices);
    }

    /** The same in that format, character set and language; null is "find it out". */
    IntakeOptions spelled(@Nullable String inFormat, @Nullable String inCharset, @Nullable String spoken) {
        return new IntakeOptions(
                inFormat,
                inCharset,
                delimiter,
                quote,
                headerRow,
                columns,
                sheets,
                spoken,
                keys,
                siblings,
                table,
                newTable,
                source,
                settlesOwn,
                arrival,
                choices);
    }

    /** The same with those habits of keys and siblings; null is "find it out". */
    IntakeOptions understood(@Nullable KeyHabit byKeys, @Nullable SiblingHabit ofSiblings) {
        return new IntakeOptions(
                format,
                charset,
                delimiter,
                quote,
                headerRow,
                columns,
                sheets,
                language,
                byKeys,
                ofSiblings,
                table,
                newTable,
                source,
                settlesOwn,
                arrival,
                choices);
    }

    /** The same with other decisions about whole kinds of changes. */
    IntakeOptions withChoices(Map<ChangeKind, Choice> all) {
        return new IntakeOptions(
                format,
                charset,
                delimiter,
                quote,
                headerRow,
                columns,
                sheets,
                language,
                keys,
                siblings,
                table,
                newTable,
                source,
                settlesOwn,
                arrival,
                all);
    }

    /** The same with one kind of change decided. */
    IntakeOptions choosing(ChangeKind kind, Choice choice) {
        Map<ChangeKind, Choice> all = new EnumMap<>(ChangeKind.class);
        all.putAll(decisions());
        all.put(kind, choice);
        return withChoices(all);
    }
}
