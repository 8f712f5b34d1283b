package mellow.core.format.csv;

import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.charset.TextEncoding;

/**
 * Finds delimiter and quote: the pair under which most rows of the file's beginning have the same number of cells. A first line such as
 * {@code sep=;}, which spreadsheet programs write, decides at once.
 */
final class DialectDetector {

    private static final int SAMPLE_BYTES = 256 * 1024;
    private static final char[] DELIMITERS = {',', ';', '\t', '|'};
    private static final double MOSTLY = 0.6;

    private DialectDetector() {}

    static CsvDialect detect(byte[] bytes, TextEncoding encoding) {
        Optional<CsvDialect> declared = declared(bytes, encoding);
        if (declared.isPresent()) {
            return declared.get();
        }
        CsvDialect best = CsvDialect.RFC_4180;
        double bestScore = 0;
        for (char quote : new char[] {'"', '\''}) {
            for (char delimiter : DELIMITERS) {
                CsvDialect dialect = new CsvDialect(delimiter, quote);
                double score = score(bytes, encoding, dialect);
                if (score > bestScore) {
                    best = dialect;
                    bestScore = score;
                }
            }
        }
        return best;
    }

    /** The delimiter that a {@code sep=} line declares, if the file begins with one. */
    static Optional<CsvDialect> declared(byte[] bytes, TextEncoding encoding) {
        int from = encoding.byteOrderMark();
        int length = Math.min(bytes.length - from, 8 * encoding.unit());
        String start = new String(bytes, from, length, encoding.charset());
        boolean declares = start.length() >= 6
                && start.regionMatches(true, 0, "sep=", 0, 4)
                && (start.charAt(5) == '\r' || start.charAt(5) == '\n');
        return declares && start.charAt(4) < 0x80 && start.charAt(4) != '"'
                ? Optional.of(new CsvDialect(start.charAt(4), '"'))
                : Optional.empty();
    }

    private static double score(byte[] bytes, TextEncoding encoding, CsvDialect dialect) {
        CsvRecords records;
        try {
            records = CsvScanner.scan(
                    bytes,
                    Math.min(bytes.length, SAMPLE_BYTES),
                    encoding,
                    dialect,
                    Limits.DEFAULT,
                    new Problems("sample"));
        } catch (UnreadableFileException wrongDialect) {
            // A wrong quote is never closed, a wrong delimiter breaks a limit: that is the answer being asked for.
            return 0;
        }
        Map<Integer, Integer> widths = new HashMap<>();
        int quoted = 0;
        int cells = 0;
        for (int record = 0; record < records.size(); record++) {
            widths.merge(records.width(record), 1, Integer::sum);
            for (int cell = 0; cell < records.width(record); cell++) {
                cells++;
                quoted += records.kind(record, cell) == CsvRecords.QUOTED
                                || records.kind(record, cell) == CsvRecords.DOUBLED
                        ? 1
                        : 0;
            }
        }
        int mode = 0;
        int rows = 0;
        for (Map.Entry<Integer, Integer> width : widths.entrySet()) {
            if (width.getValue() > rows || (width.getValue() == rows && width.getKey() > mode)) {
                mode = width.getKey();
                rows = width.getValue();
            }
        }
        // An apostrophe is a quote only where it stands around most cells; in words it is just a letter.
        if (mode < 2 || (dialect.quote() == '\'' && quoted < MOSTLY * cells)) {
            return 0;
        }
        double sameWidth = (double) rows / records.size();
        return sameWidth * mode / (mode + 1.0) + (dialect.quote() == '\'' ? 0.5 : 0);
    }

    static byte[] lineEnd(byte[] bytes, TextEncoding encoding) {
        String start = new String(
                bytes,
                encoding.byteOrderMark(),
                Math.min(bytes.length - encoding.byteOrderMark(), SAMPLE_BYTES),
                encoding.charset());
        int lf = start.indexOf('\n');
        int cr = start.indexOf('\r');
        String end = cr >= 0 && (lf < 0 || cr < lf) ? (lf == cr + 1 ? "\r\n" : "\r") : "\n";
        return end.getBytes(encoding.unit() == 1 ? StandardCharsets.US_ASCII : encoding.charset());
    }
}
