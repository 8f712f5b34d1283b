package mellow.core.format.csv;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import mellow.core.format.charset.TextEncoding;

/**
 * The records of a file as offsets into its bytes. Three numbers per cell and three per record; values are decoded when asked for. Record and
 * cell indexes are 0-based; blank lines are no records.
 */
final class CsvRecords {

    /** A cell without quotes. */
    static final byte BARE = 0;
    /** A cell in quotes without quotes inside; its span excludes the quotes. */
    static final byte QUOTED = 1;
    /** A cell in quotes with doubled quotes inside; its span excludes the outer quotes. */
    static final byte DOUBLED = 2;
    /** A cell that goes on after its closing quote; its span includes everything. */
    static final byte ODD = 3;

    final byte[] bytes;
    final TextEncoding encoding;
    final CsvDialect dialect;

    private int[] spans = new int[2048];
    private byte[] kinds = new byte[1024];
    private int cells;

    /** First cell of each record; one more than there are records. */
    private int[] firstCell = new int[512];

    private int[] lines = new int[512];
    /** Start of each record, and its end after the line end, interleaved. */
    private int[] extents = new int[1024];

    private int records;

    CsvRecords(byte[] bytes, TextEncoding encoding, CsvDialect dialect) {
        this.bytes = bytes;
        this.encoding = encoding;
        this.dialect = dialect;
    }

    void addCell(int from, int to, byte kind) {
        if (cells == kinds.length) {
            kinds = Arrays.copyOf(kinds, cells * 2);
            spans = Arrays.copyOf(spans, cells * 4);
        }
        spans[2 * cells] = from;
        spans[2 * cells + 1] = to;
        kinds[cells++] = kind;
    }

    void endRecord(int line, int start, int end) {
        if (records + 2 > firstCell.length) {
            firstCell = Arrays.copyOf(firstCell, firstCell.length * 2);
            lines = Arrays.copyOf(lines, lines.length * 2);
            extents = Arrays.copyOf(extents, extents.length * 2);
        }
        lines[records] = line;
        extents[2 * records] = start;
        extents[2 * records + 1] = end;
        records++;
        firstCell[records] = cells;
    }

    /** Forgets the cells of a record that turned out to be a blank line. */
    void dropRecord() {
        cells = firstCell[records];
    }

    int cellsOfCurrent() {
        return cells - firstCell[records];
    }

    boolean currentIsBlankLine() {
        return cellsOfCurrent() == 1 && kinds[cells - 1] == BARE && spans[2 * cells - 2] == spans[2 * cells - 1];
    }

    int size() {
        return records;
    }

    int width(int record) {
        return firstCell[record + 1] - firstCell[record];
    }

    int line(int record) {
        return lines[record];
    }

    int start(int record) {
        return extents[2 * record];
    }

    /** Offset after the record's line end. */
    int end(int record) {
        return extents[2 * record + 1];
    }

    /** Offset after the record's last cell, before its line end. */
    int contentEnd(int record) {
        return outerTo(record, width(record) - 1);
    }

    byte kind(int record, int cell) {
        return kinds[firstCell[record] + cell];
    }

    /** Offset of the cell with its opening quote. */
    int outerFrom(int record, int cell) {
        return spans[2 * (firstCell[record] + cell)] - margin(record, cell);
    }

    /** Offset after the cell with its closing quote. */
    int outerTo(int record, int cell) {
        return spans[2 * (firstCell[record] + cell) + 1] + margin(record, cell);
    }

    private int margin(int record, int cell) {
        byte kind = kind(record, cell);
        return kind == QUOTED || kind == DOUBLED ? encoding.unit() : 0;
    }

    /** The value of a cell: quotes removed, line breaks as LF; empty where the record is too short. */
    String value(int record, int cell) {
        if (cell < 0 || cell >= width(record)) {
            return "";
        }
        int index = firstCell[record] + cell;
        int from = spans[2 * index];
        int to = spans[2 * index + 1];
        if (from == to) {
            return "";
        }
        String raw = new String(bytes, from, to - from, encoding.charset());
        byte kind = kinds[index];
        if (kind == BARE) {
            return raw;
        }
        String quote = String.valueOf(dialect.quote());
        String value =
                switch (kind) {
                    case DOUBLED -> raw.replace(quote + quote, quote);
                    case ODD -> withoutOuterQuotes(raw, dialect.quote());
                    default -> raw;
                };
        return value.indexOf('\r') < 0 ? value : value.replace("\r\n", "\n").replace('\r', '\n');
    }

    /** Whether the value of a cell begins with an ASCII character; found without decoding. */
    boolean startsWith(int record, int cell, char ascii) {
        if (cell >= width(record)) {
            return false;
        }
        int index = firstCell[record] + cell;
        int from = spans[2 * index];
        return from < spans[2 * index + 1] && bytes[from + encoding.lowByte()] == ascii;
    }

    /** All values of a record. */
    List<String> values(int record) {
        List<String> values = new ArrayList<>(width(record));
        for (int cell = 0; cell < width(record); cell++) {
            values.add(value(record, cell));
        }
        return values;
    }

    boolean isBlank(int record) {
        for (int cell = 0; cell < width(record); cell++) {
            if (outerFrom(record, cell) < outerTo(record, cell)
                    && !value(record, cell).isBlank()) {
                return false;
            }
        }
        return true;
    }

    /** "a" b reads as a b: what stands in quotes, then what follows them. */
    private static String withoutOuterQuotes(String raw, char quote) {
        StringBuilder value = new StringBuilder(raw.length());
        boolean inside = true;
        for (int i = 1; i < raw.length(); i++) {
            char c = raw.charAt(i);
            if (inside && c == quote) {
                if (i + 1 < raw.length() && raw.charAt(i + 1) == quote) {
                    value.append(c);
                    i++;
                } else {
                    inside = false;
                }
            } else {
                value.append(c);
            }
        }
        return value.toString();
    }
}
