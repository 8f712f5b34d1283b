package mellow.server.intake;

import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.IntStream;
import mellow.core.format.charset.TextEncoding;
import mellow.core.format.csv.CsvDialect;
import mellow.core.format.csv.CsvOptions;
import mellow.core.format.sheet.Column;
import mellow.core.format.sheet.Column.Role;
import mellow.core.format.sheet.SheetLayout;
import mellow.core.language.LanguageTag;
import mellow.core.merge.TextEffect.Arrival;
import mellow.server.common.Refusal;
import org.jspecify.annotations.Nullable;

/**
 * What a person said about a file; null is "find it out".
 *
 * @param charset name of the character set
 * @param delimiter the delimiter, one character
 * @param quote the quote, one character
 * @param headerRow the header's row among those that are not blank, 0-based
 * @param columns what each column holds
 * @param table the table it goes into, by its name in addresses
 * @param newTable or the name of a table to be made
 * @param source the source language of a table to be made
 * @param settlesOwn whether reviewers may settle their own texts in a table to be made
 * @param arrival what arrives as: SETTLED, OFFERED or PENCILLED
 * @param meaningChanged whether sources that the file rewrites changed their meaning
 */
record IntakeOptions(
        @Nullable @Size(max = 40) String charset,
        @Nullable @Size(max = 1) String delimiter,
        @Nullable @Size(max = 1) String quote,
        @Nullable Integer headerRow,
        @Nullable @Size(max = 400) List<ColumnChoice> columns,
        @Nullable String table,
        @Nullable @Size(max = 200) String newTable,
        @Nullable String source,
        boolean settlesOwn,
        @Nullable Arrival arrival,
        @Nullable Boolean meaningChanged) {

    static final IntakeOptions UNDECIDED =
            new IntakeOptions(null, null, null, null, null, null, null, null, false, null, null);

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

        private Column column(int index) {
            if (role != Role.TEXT) {
                return Column.of(heading, role);
            }
            String spelling = language == null ? "" : language;
            return Column.text(
                    heading,
                    LanguageTag.parse(spelling)
                            .orElseThrow(() -> Refusal.unacceptable(
                                    "unknown-language",
                                    "\u201c" + spelling
                                            + "\u201d is no language tag; expected one such as de or pt-BR for column "
                                            + (index + 1) + ".")));
        }
    }

    CsvOptions csv() {
        CsvOptions csv = CsvOptions.AUTOMATIC;
        if (charset != null) {
            csv = csv.withEncoding(encoding(charset));
        }
        if (delimiter != null && !delimiter.isEmpty()) {
            csv = csv.withDialect(dialect(delimiter, quote == null || quote.isEmpty() ? "\"" : quote));
        }
        if (columns != null && headerRow != null) {
            csv = csv.withLayout(new SheetLayout(
                    headerRow,
                    IntStream.range(0, columns.size())
                            .mapToObj(i -> columns.get(i).column(i))
                            .toList()));
        } else if (headerRow != null) {
            csv = csv.withHeaderRow(headerRow);
        }
        return csv;
    }

    private static CsvDialect dialect(String delimiter, String quote) {
        try {
            return new CsvDialect(delimiter.charAt(0), quote.charAt(0));
        } catch (IllegalArgumentException notPossible) {
            throw Refusal.unacceptable(
                    "bad-dialect", "Delimiter and quote must be two different characters of ASCII, within a line.");
        }
    }

    private static TextEncoding encoding(String name) {
        return TextEncoding.SUPPORTED.stream()
                .filter(charset -> charset.name().toLowerCase(Locale.ROOT).equals(name.toLowerCase(Locale.ROOT)))
                .findFirst()
                .map(charset -> new TextEncoding(charset, 0))
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-charset", "The character set \u201c" + name + "\u201d cannot be read here."));
    }

    Optional<Arrival> arriving() {
        return Optional.ofNullable(arrival);
    }

    boolean meaningMoves() {
        return meaningChanged == null || meaningChanged;
    }
}
