package mellow.core.format.csv;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import mellow.core.format.Aspect;
import mellow.core.format.EntryList;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.PlainForms;
import mellow.core.format.Problem;
import mellow.core.format.ReadOptions;
import mellow.core.format.Traits;
import mellow.core.format.Traits.Languages;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.charset.TextEncoding;
import mellow.core.format.sheet.Column;
import mellow.core.format.sheet.RowEntries;

/** Separated text among the other formats; {@link CsvFormat} knows more about how a file can be read. */
public final class CsvFileFormat implements FileFormat {

    private static final Traits TRAITS = Traits.of("csv", "csv", "text/csv")
            .alias("tsv")
            .knownBy("tsv", "tab", "txt")
            .in(Languages.MANY);

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public Set<Aspect> keeps() {
        return EnumSet.complementOf(EnumSet.of(Aspect.STATE, Aspect.NOT_FOR_TRANSLATION, Aspect.LINE_BREAKS));
    }

    @Override
    public int likelihood(Sample sample) {
        if (sample.named(".csv", ".tsv", ".tab")) {
            return 85;
        }
        String first = sample.text().lines().findFirst().orElse("");
        boolean columns = first.matches("[^<{\\[]*[,;\\t|].*");
        return sample.named(".txt") && columns ? 45 : columns ? 15 : 0;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        CsvOptions known = CsvOptions.AUTOMATIC.withLimits(options.limits());
        if (options.charset().isPresent()) {
            known = known.withEncoding(new TextEncoding(options.charset().get(), 0));
        }
        CsvReading reading = CsvFormat.read(file, bytes, known);
        if (reading.blocked()) {
            throw new UnreadableFileException(reading.problems().stream()
                    .filter(problem -> problem.severity() == Problem.Severity.ERROR)
                    .findFirst()
                    .orElseThrow());
        }
        return reading.from(options.source());
    }

    /** Comma-separated UTF-8, forms of other than plain entries in rows of their own. */
    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        EntryList plain = PlainForms.of(entries);
        List<Column> columns = RowEntries.columnsFor(plain);
        BufferedWriter to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        CsvWriter writer = new CsvWriter(to, CsvDialect.RFC_4180, columns, true);
        writer.header();
        for (int i = 0; i < plain.size(); i++) {
            writer.entry(plain.entry(i));
        }
        to.flush();
    }
}
