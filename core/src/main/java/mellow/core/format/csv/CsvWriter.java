package mellow.core.format.csv;

import java.io.IOException;
import java.io.Writer;
import java.util.List;
import mellow.core.format.FileEntry;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.sheet.Column;

/** Writes a fresh file of separated text, row by row (RFC 4180, CRLF line ends). The caller opens and closes the writer. */
public final class CsvWriter {

    private final Writer out;
    private final CsvDialect dialect;
    private final List<Column> columns;
    private final boolean guard;

    /**
     * A writer of rows.
     *
     * @param out where to
     * @param dialect delimiter and quote
     * @param columns what each column holds; texts in the order of {@link FileEntry#texts}
     * @param guard whether texts that a spreadsheet program would run as formulas get an apostrophe before them
     */
    public CsvWriter(Writer out, CsvDialect dialect, List<Column> columns, boolean guard) {
        this.out = out;
        this.dialect = dialect;
        this.columns = List.copyOf(columns);
        this.guard = guard;
    }

    /** Writes the row of headings. */
    public void header() throws IOException {
        for (int i = 0; i < columns.size(); i++) {
            separate(i);
            out.write(cell(columns.get(i).heading(), dialect, false));
        }
        out.write("\r\n");
    }

    /** Writes the row of {@code entry}. */
    public void entry(FileEntry entry) throws IOException {
        if ((entry.key() + entry.context()).indexOf('\r') >= 0) {
            throw new UnwritableTextException(
                    "The key or the context of “" + broken(entry.key())
                            + "” has a carriage return, which separated text reads as another line break; choose another format.");
        }
        int language = 0;
        for (int i = 0; i < columns.size(); i++) {
            separate(i);
            String value =
                    switch (columns.get(i).role()) {
                        case KEY -> entry.key();
                        case CONTEXT -> entry.context();
                        case NOTE -> entry.note();
                        case REFERENCE -> entry.reference();
                        case SECTION -> entry.section();
                        case LIMIT -> entry.maxLength() == 0 ? "" : Integer.toString(entry.maxLength());
                        case TEXT -> entry.text(language++);
                        case IGNORED -> "";
                    };
            String broken = broken(value);
            out.write(cell(guard ? FormulaGuard.guard(broken) : broken, dialect, false));
        }
        out.write("\r\n");
    }

    private void separate(int column) throws IOException {
        if (column > 0) {
            out.write(dialect.delimiter());
        }
    }

    /** A value with LF for every line break: reading makes the same of it. */
    static String broken(String value) {
        return value.indexOf('\r') < 0 ? value : value.replace("\r\n", "\n").replace('\r', '\n');
    }

    /** A value as a cell: in quotes when it was, or when it needs them. */
    static String cell(String value, CsvDialect dialect, boolean quoted) {
        char quote = dialect.quote();
        boolean needed = quoted;
        for (int i = 0; i < value.length() && !needed; i++) {
            char c = value.charAt(i);
            needed = c == dialect.delimiter() || c == quote || c == '\r' || c == '\n';
        }
        if (!needed) {
            return value;
        }
        String inner =
                value.indexOf(quote) < 0 ? value : value.replace(String.valueOf(quote), String.valueOf(quote) + quote);
        return quote + inner + quote;
    }
}
