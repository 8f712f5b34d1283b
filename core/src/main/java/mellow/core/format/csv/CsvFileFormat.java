package mellow.core.format.csv;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.PlainForms;
import mellow.core.format.Problem;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.charset.TextEncoding;
import mellow.core.format.sheet.Column;
import mellow.core.format.sheet.Column.Role;

/** Separated text among the other formats; {@link CsvFormat} knows more about how a file can be read. */
public final class CsvFileFormat implements FileFormat {

    @Override
    public String name() {
        return "csv";
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
        List<Column> columns = columns(plain);
        BufferedWriter to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        CsvWriter writer = new CsvWriter(to, CsvDialect.RFC_4180, columns, true);
        writer.header();
        for (int i = 0; i < plain.size(); i++) {
            writer.entry(plain.entry(i));
        }
        to.flush();
    }

    /** The key, what any entry has beside texts, and the languages. */
    private static List<Column> columns(EntryList entries) {
        boolean[] used = new boolean[Role.values().length];
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            used[Role.CONTEXT.ordinal()] |= !entry.context().isEmpty();
            used[Role.SECTION.ordinal()] |= !entry.section().isEmpty();
            used[Role.NOTE.ordinal()] |= !entry.notes().isEmpty();
            used[Role.LIMIT.ordinal()] |= entry.maxLength() > 0;
            used[Role.REFERENCE.ordinal()] |= !entry.references().isEmpty();
        }
        List<Column> columns = new ArrayList<>();
        columns.add(Column.of(Role.KEY.heading(), Role.KEY));
        for (Role role : List.of(Role.CONTEXT, Role.SECTION, Role.NOTE, Role.LIMIT, Role.REFERENCE)) {
            if (used[role.ordinal()]) {
                columns.add(Column.of(role.heading(), role));
            }
        }
        entries.languages().forEach(language -> columns.add(Column.text(language.value(), language)));
        return columns;
    }
}
