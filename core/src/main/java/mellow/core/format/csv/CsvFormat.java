package mellow.core.format.csv;

import java.util.ArrayList;
import java.util.List;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.charset.EncodingDetector;
import mellow.core.format.charset.EncodingValidator;
import mellow.core.format.charset.TextEncoding;
import mellow.core.format.charset.Utf8Check;
import mellow.core.format.sheet.LayoutFinder;
import mellow.core.format.sheet.SheetLayout;

/** Separated text as a file of entries: a column of keys and a column per language. Immutable functions; all state is in what they return. */
public final class CsvFormat {

    private static final int SAMPLE_ROWS = LayoutFinder.SEARCHED_ROWS + 20;

    private CsvFormat() {}

    /**
     * Reads a file.
     *
     * @param name the file's name, for sentences
     * @param bytes its content, kept by the result and not copied
     * @param options what is known already
     * @return the reading; when its {@link CsvReading#blocked} says so, the layout has to be corrected before entries can be had
     * @throws mellow.core.format.UnreadableFileException when it is no text, has bytes outside its character set, an open quote, or exceeds a limit
     */
    public static CsvReading read(String name, byte[] bytes, CsvOptions options) {
        Problems problems = new Problems(name);
        if (bytes.length > options.limits().bytes()) {
            throw tooLarge(problems, bytes.length, options.limits().bytes());
        }
        Utf8Check check = Utf8Check.of(bytes);
        TextEncoding encoding = options.encoding()
                .map(chosen -> withMark(chosen, bytes))
                .orElseGet(() -> EncodingDetector.detect(bytes, check, problems));
        EncodingValidator.validate(bytes, encoding, check, problems);
        CsvDialect dialect = options.dialect().orElseGet(() -> DialectDetector.detect(bytes, encoding));
        CsvRecords records = CsvScanner.scan(bytes, encoding, dialect, options.limits(), problems);
        if (records.size() == 0) {
            throw problems.refuse(
                    Position.WHOLE_FILE, "the file has only blank lines", "a header row and at least one row of texts");
        }
        int first = DialectDetector.declared(bytes, encoding).isPresent() ? 1 : 0;
        List<List<String>> sample = new ArrayList<>();
        for (int record = first; record < records.size() && sample.size() < SAMPLE_ROWS; record++) {
            sample.add(records.values(record));
        }
        SheetLayout layout = options.layout().orElseGet(() -> options.headerRow()
                .filter(row -> row < sample.size())
                .map(row -> LayoutFinder.withHeader(sample, row))
                .orElseGet(() -> LayoutFinder.find(sample)));
        if (options.layout().isEmpty() && layout.flaws().isEmpty()) {
            int header = first + Math.max(0, layout.headerRow());
            List<List<String>> below = sample.subList(Math.min(sample.size(), header - first + 1), sample.size());
            LayoutFinder.leftOut(layout, below)
                    .forEach(column -> problems.warn(
                            new Position(records.line(header), 1, records.start(header)),
                            LayoutFinder.leftOutSentence(layout, column),
                            "it is not taken in unless somebody says what it holds"));
        }
        return new CsvReading(records, first, layout, problems);
    }

    /** The refusal of a file over the limit, also for callers that know the size before they have the bytes. */
    public static RuntimeException tooLarge(Problems problems, long bytes, long limit) {
        return problems.refuse(
                Position.WHOLE_FILE,
                "the file has " + bytes / (1024 * 1024) + " MB",
                "at most " + limit / (1024 * 1024) + " MB; split it into smaller files");
    }

    private static TextEncoding withMark(TextEncoding chosen, byte[] bytes) {
        return EncodingDetector.byteOrderMark(bytes)
                .filter(marked -> marked.charset().equals(chosen.charset()))
                .orElse(chosen);
    }
}
