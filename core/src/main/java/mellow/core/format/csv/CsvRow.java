package mellow.core.format.csv;

import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Rows of a sheet that is no table of entries: figures, lists (RFC 4180, CRLF line ends). */
public final class CsvRow {

    private CsvRow() {}

    /** The values as one row with its line end; null is empty, and what a spreadsheet program would run as a formula is guarded. */
    public static String of(List<? extends @Nullable Object> values) {
        return values.stream()
                        .map(value -> value instanceof Number
                                ? value.toString()
                                : FormulaGuard.guard(Objects.toString(value, "")))
                        .map(value -> CsvWriter.cell(value, CsvDialect.RFC_4180, false))
                        .collect(Collectors.joining(","))
                + "\r\n";
    }
}
