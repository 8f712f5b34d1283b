package mellow.core.format.csv;

/**
 * The habits of one file.
 *
 * @param delimiter between cells, an ASCII character
 * @param quote around cells, an ASCII character
 */
public record CsvDialect(char delimiter, char quote) {

    /** RFC 4180: comma and double quote. */
    public static final CsvDialect RFC_4180 = new CsvDialect(',', '"');

    public CsvDialect {
        if (delimiter == quote || delimiter > 0x7F || quote > 0x7F || isLineEnd(delimiter) || isLineEnd(quote)) {
            throw new IllegalArgumentException("delimiter and quote are two different ASCII characters within a line");
        }
    }

    private static boolean isLineEnd(char c) {
        return c == '\r' || c == '\n';
    }
}
