package mellow.core.format.csv;

import java.util.Optional;
import mellow.core.format.Limits;
import mellow.core.format.charset.TextEncoding;
import mellow.core.format.sheet.SheetLayout;

/**
 * What a person said about a file; what is empty is found out.
 *
 * @param encoding the character set
 * @param dialect delimiter and quote
 * @param headerRow the header's row, 0-based among the rows that are not blank
 * @param layout the header's row and what each column holds; wins over {@code headerRow}
 * @param limits what the file may not exceed
 */
public record CsvOptions(
        Optional<TextEncoding> encoding,
        Optional<CsvDialect> dialect,
        Optional<Integer> headerRow,
        Optional<SheetLayout> layout,
        Limits limits) {

    /** Find everything out. */
    public static final CsvOptions AUTOMATIC =
            new CsvOptions(Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(), Limits.DEFAULT);

    /** The same with other limits. */
    public CsvOptions withLimits(Limits newLimits) {
        return new CsvOptions(encoding, dialect, headerRow, layout, newLimits);
    }

    /** The same with a known encoding. */
    public CsvOptions withEncoding(TextEncoding known) {
        return new CsvOptions(Optional.of(known), dialect, headerRow, layout, limits);
    }

    /** The same with a known dialect. */
    public CsvOptions withDialect(CsvDialect known) {
        return new CsvOptions(encoding, Optional.of(known), headerRow, layout, limits);
    }

    /** The same with a known layout. */
    public CsvOptions withLayout(SheetLayout known) {
        return new CsvOptions(encoding, dialect, headerRow, Optional.of(known), limits);
    }

    /** The same with a known header row. */
    public CsvOptions withHeaderRow(int row) {
        return new CsvOptions(encoding, dialect, Optional.of(row), layout, limits);
    }
}
