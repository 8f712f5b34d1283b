package mellow.core.format.csv;

import mellow.core.format.Limits;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.charset.EncodingValidator;
import mellow.core.format.charset.TextEncoding;

/**
 * Finds records and cells in the bytes of a file, one pass, no decoding: in every supported character set the separators are units of their own.
 * Line ends may be LF, CR or CRLF, mixed. Grammar: RFC 4180 §2; beyond it a cell may go on after its closing quote, and rows may differ in width.
 */
final class CsvScanner {

    private static final int NOT_ASCII = 0x100;

    private final byte[] bytes;
    private final TextEncoding encoding;
    private final int unit;
    private final int low;
    private final int end;
    private final int delimiter;
    private final int quote;
    private final Limits limits;
    private final Problems problems;
    private final boolean cutOff;
    /** By byte: delimiter, line ends, control characters but TAB. */
    private final boolean[] stops = new boolean[256];

    private int pos;
    private int line = 1;
    private int controls;
    private int firstControl = -1;
    private int firstControlLine;

    private CsvScanner(
            byte[] bytes, int end, TextEncoding encoding, CsvDialect dialect, Limits limits, Problems problems) {
        this.bytes = bytes;
        this.encoding = encoding;
        this.unit = encoding.unit();
        this.low = encoding.lowByte();
        this.end = end - (end - encoding.byteOrderMark()) % unit;
        this.delimiter = dialect.delimiter();
        this.quote = dialect.quote();
        this.limits = limits;
        this.problems = problems;
        this.cutOff = end < bytes.length;
        for (int c = 0; c < 0x20; c++) {
            stops[c] = c != '\t';
        }
        stops[delimiter] = true;
        this.pos = encoding.byteOrderMark();
    }

    /**
     * All records.
     *
     * @throws mellow.core.format.UnreadableFileException for a quote that is never closed, or when a limit is exceeded
     */
    static CsvRecords scan(byte[] bytes, TextEncoding encoding, CsvDialect dialect, Limits limits, Problems problems) {
        return scan(bytes, bytes.length, encoding, dialect, limits, problems);
    }

    /** The records in the first {@code end} bytes; when the file is longer, a quote left open there is no problem. */
    static CsvRecords scan(
            byte[] bytes, int end, TextEncoding encoding, CsvDialect dialect, Limits limits, Problems problems) {
        CsvRecords records = new CsvRecords(bytes, encoding, dialect);
        new CsvScanner(bytes, end, encoding, dialect, limits, problems).run(records);
        return records;
    }

    private void run(CsvRecords records) {
        while (pos < end) {
            record(records);
            if (records.size() > limits.entries() + 100L) {
                throw problems.refuse(
                        new Position(line, 1, pos),
                        "more than " + limits.entries() + " rows",
                        "at most that many in one file; split it");
            }
        }
        if (controls > 0) {
            problems.warn(
                    new Position(firstControlLine, 1, firstControl),
                    controls == 1 ? "a control character" : controls + " control characters, the first here",
                    "kept as they are");
        }
    }

    private void record(CsvRecords records) {
        int startLine = line;
        int start = pos;
        while (true) {
            int from = pos;
            if (pos < end && at(pos) == quote) {
                quotedCell(records);
            } else {
                bareCell();
                records.addCell(from, pos, CsvRecords.BARE);
            }
            if (pos - from > limits.textBytes()) {
                throw problems.refuse(
                        new Position(startLine, 1, from),
                        "a cell of " + (pos - from) + " bytes",
                        "at most " + limits.textBytes() + "; the usual cause is a quote that is never closed");
            }
            if (records.cellsOfCurrent() > limits.columns()) {
                throw problems.refuse(
                        new Position(startLine, 1, start),
                        "a row of more than " + limits.columns() + " cells",
                        "fewer; the usual cause is a wrong delimiter");
            }
            if (pos >= end || at(pos) != delimiter) {
                break;
            }
            pos += unit;
        }
        lineEnd();
        if (records.currentIsBlankLine()) {
            records.dropRecord();
        } else {
            records.endRecord(startLine, start, pos);
        }
    }

    private void bareCell() {
        if (unit == 1) {
            bareCellOfBytes();
            return;
        }
        while (pos < end) {
            int c = at(pos);
            if (c == delimiter || c == '\n' || c == '\r') {
                return;
            }
            if (c < 0x20 && c != '\t') {
                control();
            }
            pos += unit;
        }
    }

    /** The same for one-byte units: one look into a table per byte instead of four comparisons. */
    private void bareCellOfBytes() {
        byte[] in = bytes;
        boolean[] stops = this.stops;
        int i = pos;
        while (true) {
            while (i < end && !stops[in[i] & 0xFF]) {
                i++;
            }
            pos = i;
            if (i >= end || in[i] == delimiter || in[i] == '\n' || in[i] == '\r') {
                return;
            }
            control();
            i++;
        }
    }

    private void quotedCell(CsvRecords records) {
        int open = pos;
        int openLine = line;
        boolean doubled = false;
        pos += unit;
        while (true) {
            if (unit == 1) {
                while (pos < end && bytes[pos] != quote && (bytes[pos] & 0xE0) != 0) {
                    pos++;
                }
            }
            if (pos >= end) {
                if (cutOff) {
                    records.addCell(open + unit, pos, CsvRecords.QUOTED);
                    return;
                }
                Position position = EncodingValidator.place(bytes, open, encoding);
                throw problems.refuse(
                        position,
                        "a quote opens a cell in line " + openLine + " and is never closed",
                        "a closing quote before the end of the file");
            }
            int c = at(pos);
            if (c == quote) {
                if (pos + unit < end && at(pos + unit) == quote) {
                    doubled = true;
                    pos += 2 * unit;
                    continue;
                }
                break;
            }
            if (c < 0x20) {
                lineOrControl(c);
            }
            pos += unit;
        }
        int close = pos;
        pos += unit;
        int afterQuote = pos;
        bareCell();
        if (pos == afterQuote) {
            records.addCell(open + unit, close, doubled ? CsvRecords.DOUBLED : CsvRecords.QUOTED);
        } else {
            problems.warn(
                    new Position(line, records.cellsOfCurrent() + 1, open),
                    "cell " + (records.cellsOfCurrent() + 1) + " goes on after its closing quote",
                    "read as one text");
            records.addCell(open, pos, CsvRecords.ODD);
        }
    }

    private void lineOrControl(int c) {
        if (c == '\n') {
            line++;
        } else if (c == '\r') {
            if (!(pos + unit < end && at(pos + unit) == '\n')) {
                line++;
            }
        } else if (c != '\t') {
            control();
        }
    }

    private void control() {
        if (at(pos) == 0) {
            throw EncodingValidator.nul(bytes, pos, encoding, problems);
        }
        if (controls++ == 0) {
            firstControl = pos;
            firstControlLine = line;
        }
    }

    private void lineEnd() {
        if (pos >= end) {
            return;
        }
        boolean carriageReturn = at(pos) == '\r';
        pos += unit;
        if (carriageReturn && pos < end && at(pos) == '\n') {
            pos += unit;
        }
        line++;
    }

    /** The unit at {@code i} when it is ASCII, else {@value #NOT_ASCII} or the byte itself, which is over 0x7F. */
    private int at(int i) {
        if (unit == 1) {
            return bytes[i] & 0xFF;
        }
        return bytes[i + 1 - low] == 0 ? bytes[i + low] & 0xFF : NOT_ASCII;
    }
}
