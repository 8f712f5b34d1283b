package mellow.server.export;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.cell.Standing;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.csv.CsvDialect;
import mellow.core.format.csv.CsvReading;
import mellow.core.format.csv.CsvWriter;
import mellow.core.format.sheet.Column;
import mellow.core.format.sheet.Column.Role;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;
import mellow.server.intake.MasterFiles;
import mellow.server.record.RecordCell;
import mellow.server.record.RecordEntry;
import mellow.server.record.RecordReader;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Sends a table out: fresh, from the record; or in place, the file it came from with only what changed. */
@Service
class ExportService {

    private static final long NOBODY = 0;
    private static final String USED =
            """
            select bool_or(context <> '') context, bool_or(section <> '') section, bool_or(note <> '') note, bool_or(max_length > 0) max_length,
                   bool_or(reference <> '') reference
            from entry where table_id = :table and removed_at is null
            """;

    private static final String ADDED_SINCE =
            """
            select s.entry_id from entry_story s
            join entry e on e.id = s.entry_id
            join master_file m on m.table_id = e.table_id and m.path = :path
            where e.table_id = :table and s.what = 'added' and s.at > m.taken_at
            """;

    private final TableService tables;
    private final RecordReader records;
    private final MasterFiles masters;
    private final JdbcClient jdbc;

    ExportService(TableService tables, RecordReader records, MasterFiles masters, JdbcClient jdbc) {
        this.tables = tables;
        this.records = records;
        this.masters = masters;
        this.jdbc = jdbc;
    }

    /** The files that {@code slug} came from and can be written in place, the largest first. */
    @Transactional(readOnly = true)
    public List<String> paths(String slug) {
        return masters.paths(tables.find(slug).id());
    }

    /**
     * What a fresh file holds.
     *
     * @param languages the languages to write, in order; all of the table when empty
     * @param onlySettled leave pencilled texts out
     * @param delimiter between cells
     * @param guard keep spreadsheet programs from running texts as formulas
     */
    record Fresh(List<LanguageTag> languages, boolean onlySettled, char delimiter, boolean guard) {}

    /** Writes a fresh UTF-8 file with a byte-order mark, which spreadsheet programs need to see that it is UTF-8. */
    @Transactional(readOnly = true)
    public void writeFresh(String slug, Fresh choice, OutputStream out) throws IOException {
        TableInfo table = tables.find(slug);
        List<LanguageTag> targets = choice.languages().isEmpty()
                ? table.languages().stream().map(Kept::tag).toList()
                : choice.languages();
        for (LanguageTag tag : targets) {
            table.language(tag)
                    .orElseThrow(() -> Refusal.unacceptable(
                            "language-not-kept", "The table " + table.name() + " is not kept in " + tag + "."));
        }
        try (Writer writer = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8))) {
            writer.write('\uFEFF');
            CsvWriter csv = new CsvWriter(
                    writer, new CsvDialect(choice.delimiter(), '"'), columns(table, targets), choice.guard());
            csv.header();
            records.read(table.id(), NOBODY, entry -> {
                List<String> texts = new ArrayList<>(targets.size() + 1);
                texts.add(entry.source());
                for (LanguageTag tag : targets) {
                    texts.add(inForce(entry.cells().getOrDefault(tag, RecordCell.NONE), choice.onlySettled()));
                }
                try {
                    csv.entry(fileEntry(entry, texts));
                } catch (IOException gone) {
                    throw new UncheckedIOException(gone);
                }
            });
        }
    }

    private List<Column> columns(TableInfo table, List<LanguageTag> targets) {
        List<Column> columns = new ArrayList<>();
        columns.add(Column.of(Role.KEY.heading(), Role.KEY));
        jdbc.sql(USED).param("table", table.id()).query(row -> {
            for (Role role : List.of(Role.CONTEXT, Role.SECTION, Role.NOTE, Role.LIMIT, Role.REFERENCE)) {
                String used = role == Role.LIMIT ? "max_length" : role.heading().toLowerCase(java.util.Locale.ROOT);
                if (row.getBoolean(used)) {
                    columns.add(Column.of(role.heading(), role));
                }
            }
        });
        columns.add(Column.text(table.source().value(), table.source()));
        targets.forEach(tag -> columns.add(Column.text(tag.value(), tag)));
        return columns;
    }

    private static FileEntry fileEntry(RecordEntry entry, List<String> texts) {
        return FileEntry.of(entry.entryId().key())
                .context(entry.entryId().context())
                .note(entry.note())
                .reference(entry.reference())
                .section(entry.section())
                .maxLength(entry.maxLength())
                .plain(texts)
                .build();
    }

    private static String inForce(RecordCell cell, boolean onlySettled) {
        return onlySettled && cell.standing() != Standing.SETTLED ? "" : cell.text();
    }

    /**
     * Prepares the file {@code path} that was taken into the table, with the texts that are in force now in place of those that changed since. Rows that the
     * table does not have stay as they are; entries that came later follow their neighbour, unless the file covers
     * only a part of the table.
     *
     * @throws mellow.core.format.UnwritableTextException when a changed text has a character that the file's character set cannot spell
     */
    @Transactional(readOnly = true)
    public FilePatch inPlace(String slug, String path) {
        TableInfo table = tables.find(slug);
        CsvReading file = masters.read(table.id(), path)
                .orElseThrow(() -> Refusal.notFound(
                        "no-such-file",
                        "The file \u201c" + path + "\u201d was never taken into " + table.name() + "."));
        Set<Long> newer = Set.copyOf(jdbc.sql(ADDED_SINCE)
                .param("table", table.id())
                .param("path", path)
                .query(Long.class)
                .list());
        Patching patching = new Patching(file, table.source(), newer);
        records.read(table.id(), NOBODY, patching::entry);
        return patching.finish();
    }

    /** Compares the record with a file and collects the differences, entry by entry. */
    private static final class Patching {
        private final CsvReading file;
        private final LanguageTag source;
        private final FilePatch patch;
        private final Map<EntryId, Integer> index = new HashMap<>();
        private final Set<Long> newer;
        private final List<Insertion> insertions = new ArrayList<>();
        private boolean covers = true;
        private int last = -1;

        /** An entry for the file, after the file's entry of that index. */
        private record Insertion(int after, FileEntry entry) {}

        /** {@code newer}: the entries that came into the table after the file did. */
        Patching(CsvReading file, LanguageTag source, Set<Long> newer) {
            this.file = file;
            this.source = source;
            this.newer = newer;
            this.patch = file.patch();
            for (int i = 0; i < file.size(); i++) {
                index.put(file.id(i), i);
            }
        }

        void entry(RecordEntry entry) {
            Integer found = index.get(entry.entryId());
            if (found == null) {
                if (newer.contains(entry.id())) {
                    List<String> texts = file.languages().stream()
                            .map(tag -> text(entry, tag, ""))
                            .toList();
                    insertions.add(new Insertion(last, fileEntry(entry, texts)));
                } else {
                    covers = false;
                }
                return;
            }
            last = found;
            FileEntry then = file.entry(found);
            for (int i = 0; i < then.texts().size(); i++) {
                String now = text(entry, file.languages().get(i), then.text(i));
                if (!now.equals(then.text(i))) {
                    patch.set(found, i, now);
                }
            }
        }

        /** A file that left out entries of the table when it came covers a part of it by intention, and gets no others. */
        FilePatch finish() {
            if (covers) {
                insertions.forEach(insertion -> patch.insert(insertion.after(), insertion.entry()));
            }
            return patch;
        }

        /** A cell that holds only offers says nothing about what the file should hold: the file's text stays. */
        private String text(RecordEntry entry, LanguageTag tag, String inFile) {
            if (tag.equals(source)) {
                return entry.source();
            }
            RecordCell cell = entry.cells().getOrDefault(tag, RecordCell.NONE);
            boolean onlyOffers = cell.text().isEmpty() && cell.openOffers() > 0;
            return onlyOffers ? inFile : cell.text();
        }
    }
}
