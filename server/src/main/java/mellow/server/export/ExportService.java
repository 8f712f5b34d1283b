package mellow.server.export;

import java.io.BufferedOutputStream;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import mellow.core.cell.Standing;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.PlainForms;
import mellow.core.format.csv.CsvDialect;
import mellow.core.format.csv.CsvWriter;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.core.format.sheet.RowEntries;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;
import mellow.server.common.Refusal;
import mellow.server.common.TempFiles;
import mellow.server.export.Order.Untranslated;
import mellow.server.master.MasterFiles;
import mellow.server.people.Reading;
import mellow.server.record.RecordReader;
import mellow.server.sheet.SheetService;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Sends a table out: fresh, from the record; or in place, the file it came from with only what changed. */
@Service
class ExportService {

    private static final String AS_THEY_CAME = "send files out as they came in, with all their languages";
    private final TableService tables;
    private final RecordReader records;
    private final MasterFiles masters;
    private final SheetService sheet;
    private final SetOut sets;
    private final Reading reading;

    ExportService(
            TableService tables,
            RecordReader records,
            MasterFiles masters,
            SheetService sheet,
            SetOut sets,
            Reading reading) {
        this.tables = tables;
        this.records = records;
        this.masters = masters;
        this.sheet = sheet;
        this.sets = sets;
        this.reading = reading;
    }

    /**
     * A file on its way out, written whole: what goes wrong is told before its first byte is sent.
     *
     * @param name its name
     * @param content where it lies; {@link #close} removes it
     */
    record Outgoing(String name, Path content) implements AutoCloseable {

        @Override
        public void close() throws IOException {
            Files.deleteIfExists(content);
        }
    }

    /** The files that {@code slug} came from and can be written in place, the largest first. */
    @Transactional(readOnly = true)
    public List<String> paths(String slug) {
        return masters.paths(tables.find(slug).id());
    }

    /** What fresh files would not hold, told before they are written. */
    @Transactional(readOnly = true)
    Losses losses(String slug, Order order) {
        TableInfo table = tables.find(slug);
        List<LanguageTag> targets = targets(table, order);
        return Losses.of(order.format(), new Fresh(table, targets, order, chosen(slug, targets, order)).entries());
    }

    /** Writes fresh files: one, or a ZIP archive of them when the format holds one language in a file and there are several. */
    @Transactional(readOnly = true)
    Outgoing fresh(String slug, Order order) throws IOException {
        TableInfo table = tables.find(slug);
        List<LanguageTag> targets = targets(table, order);
        @Nullable Set<Long> chosen = chosen(slug, targets, order);
        if (chosen != null && chosen.isEmpty()) {
            throw Refusal.unacceptable(
                    "nothing-to-send",
                    "Nothing in {table} is in one of these states, so the file would be empty; choose others.",
                    Map.of("field", "only", "table", table.name()));
        }
        if (!order.apart()) {
            Fresh fresh = new Fresh(table, targets, order, chosen);
            return written(name(order, slug, ""), out -> fresh.writeTo(out));
        }
        if (targets.size() == 1) {
            Fresh fresh = new Fresh(table, targets, order, chosen);
            return written(name(order, slug, targets.get(0).value()), out -> fresh.writeTo(out));
        }
        return written(slug + ".zip", out -> {
            ZipOutputStream zip = new ZipOutputStream(out);
            for (LanguageTag tag : targets) {
                zip.putNextEntry(new ZipEntry(name(order, slug, tag.value())));
                new Fresh(table, List.of(tag), order, chosen).writeTo(zip);
                zip.closeEntry();
            }
            zip.finish();
        });
    }

    private static List<LanguageTag> targets(TableInfo table, Order order) {
        List<LanguageTag> targets = order.languages().isEmpty()
                ? table.languages().stream().map(Kept::tag).toList()
                : order.languages();
        for (LanguageTag tag : targets) {
            if (!tag.equals(table.source())) {
                if (table.language(tag).isEmpty()) {
                    throw Refusal.unacceptable(
                            "language-not-kept",
                            "The table {table} is not kept in {language}.",
                            Map.of("table", table.name(), "language", tag));
                }
            }
        }
        return targets;
    }

    /** The entries that are asked for; null for all. */
    private @Nullable Set<Long> chosen(String slug, List<LanguageTag> targets, Order order) {
        return order.only().isEmpty() ? null : sheet.entries(slug, targets, order.only());
    }

    private static String name(Order order, String slug, String language) {
        String name = order.pattern()
                .replace("{table}", slug)
                .replace("{language}", language)
                .replace("{ext}", order.ending());
        boolean several = order.pattern().contains("{language}") || language.isEmpty();
        String safe = name.replaceAll("[\\\\:*?\"<>|\\x00-\\x1f]", "-").replaceAll("(^|/)\\.\\.?(?=/|$)", "$1-");
        return (several ? safe : language + "/" + safe).replaceAll("^/+", "").replaceAll("[-_.]+(\\.[a-z.]+)$", "$1");
    }

    @FunctionalInterface
    private interface Writing {
        void to(OutputStream out) throws IOException;
    }

    private static Outgoing written(String name, Writing writing) throws IOException {
        Path content = TempFiles.create(".out");
        try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(content))) {
            writing.to(out);
        } catch (IOException | RuntimeException failed) {
            Files.deleteIfExists(content);
            throw failed;
        }
        return new Outgoing(name, content);
    }

    /**
     * Prepares the files {@code paths} that were taken into the table, with the texts that are in force now in place of those that changed since.
     *
     * @return the file, or a ZIP archive when there are several
     * @throws mellow.core.format.UnwritableTextException when a changed text has a character that the file's character set cannot spell
     */
    @Transactional(readOnly = true)
    Outgoing inPlace(String slug, List<String> paths) throws IOException {
        reading.requireAll(AS_THEY_CAME);
        TableInfo table = tables.find(slug);
        if (paths.size() == 1) {
            String path = paths.get(0);
            FilePatch patch = patch(table, path);
            return written(path.substring(path.lastIndexOf('/') + 1), patch::writeTo);
        }
        return written(slug + ".zip", out -> {
            ZipOutputStream zip = new ZipOutputStream(out);
            for (String path : paths) {
                FilePatch patch = patch(table, path);
                zip.putNextEntry(ZipNames.entry(path));
                patch.writeTo(zip);
                zip.closeEntry();
            }
            zip.finish();
        });
    }

    /** The files of the table's sets that would go out: those that were taken in, and one for each language that has none. */
    @Transactional(readOnly = true)
    List<SetOut.OutFile> setFiles(String slug) {
        return sets.files(tables.find(slug));
    }

    /** All files of the table's sets at their paths, as a ZIP archive. */
    @Transactional(readOnly = true)
    Outgoing set(String slug) throws IOException {
        reading.requireAll(AS_THEY_CAME);
        TableInfo table = tables.find(slug);
        return written(
                slug + ".zip", out -> sets.writeTo(table, (format, tag, to) -> fresh(table, format, tag, to), out));
    }

    private void fresh(TableInfo table, String format, LanguageTag tag, OutputStream out) throws IOException {
        Order order = new Order(
                Formats.named(format).orElseThrow(),
                List.of(tag),
                Untranslated.EMPTY,
                false,
                Set.of(),
                ',',
                false,
                false,
                "");
        new Fresh(table, List.of(tag), order, null).writeTo(out);
    }

    private FilePatch patch(TableInfo table, String path) {
        FileReading file = masters.reading(table, path)
                .orElseThrow(() -> Refusal.notFound(
                        "no-such-file",
                        "The file \u201c{path}\u201d was never taken into {table}.",
                        Map.of("path", path, "table", table.name())));
        Set<Long> newer = masters.addedSince(table.id(), path);
        InPlace patching = new InPlace(
                file, file.patch(), table.source(), new InPlace.Place(InPlace.Part.ALONE, newer, null, false));
        records.texts(table.id(), file.languages(), false, RecordReader.ALL, patching::entry);
        return patching.finish();
    }

    /** One fresh file. */
    private final class Fresh {
        private final TableInfo table;
        private final List<LanguageTag> languages = new ArrayList<>();
        private final Order order;
        private final @Nullable Set<Long> chosen;

        Fresh(TableInfo table, List<LanguageTag> targets, Order order, @Nullable Set<Long> chosen) {
            this.table = table;
            this.order = order;
            this.chosen = chosen;
            languages.add(table.source());
            targets.stream().filter(tag -> !tag.equals(table.source())).forEach(languages::add);
        }

        EntryList entries() {
            // What stands in for a missing text may be of another language.
            List<LanguageTag> read = order.untranslated() == Untranslated.FALLBACK
                    ? table.languages().stream().map(Kept::tag).toList()
                    : languages;
            List<FileEntry> entries = new ArrayList<>();
            records.texts(table.id(), read, false, RecordReader.ALL, entry -> {
                if (chosen == null || chosen.contains(entry.id())) {
                    entries.add(entry(entry));
                }
            });
            return EntryList.of(Optional.of(table.source()), languages, entries);
        }

        void writeTo(OutputStream out) throws IOException {
            EntryList all = entries();
            EntryList list = order.leaveOut() ? Losses.writable(order.format(), all) : all;
            if (order.format().name().equals("csv")) {
                Losses.write(order.format(), list, () -> separated(PlainForms.of(list), out));
            } else {
                Losses.write(order.format(), list, out);
            }
        }

        /** With a byte-order mark, which spreadsheet programs need to see that it is UTF-8. */
        private void separated(EntryList list, OutputStream out) throws IOException {
            Writer writer = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
            writer.write('\uFEFF');
            CsvWriter csv = new CsvWriter(
                    writer, new CsvDialect(order.delimiter(), '"'), RowEntries.columnsFor(list), order.guard());
            csv.header();
            for (int i = 0; i < list.size(); i++) {
                csv.entry(list.entry(i));
            }
            writer.flush();
        }

        private FileEntry entry(RecordEntry entry) {
            List<FileText> texts = new ArrayList<>(languages.size());
            texts.add(entry.source());
            for (LanguageTag tag : languages.subList(1, languages.size())) {
                texts.add(text(entry, tag));
            }
            return described(entry).texts(texts).build();
        }

        private FileText text(RecordEntry entry, LanguageTag tag) {
            FileText own = inForce(entry.cell(tag));
            if (!own.isEmpty() || order.untranslated() == Untranslated.EMPTY) {
                return own;
            }
            if (order.untranslated() == Untranslated.FALLBACK) {
                for (Kept kept : table.languages()) {
                    FileText near = inForce(entry.cell(kept.tag()));
                    if (kept.tag().language().equals(tag.language()) && !near.isEmpty()) {
                        return near;
                    }
                }
            }
            return entry.source().in(FileState.UNTRANSLATED);
        }

        private FileText inForce(RecordCell cell) {
            boolean out = cell.text().isEmpty() || (order.onlySettled() && cell.standing() != Standing.SETTLED);
            return out
                    ? FileText.NONE
                    : cell.text()
                            .in(
                                    cell.standing() == Standing.SETTLED && !cell.stale()
                                            ? FileState.SETTLED
                                            : FileState.PENCILLED);
        }
    }

    static FileEntry.Builder described(RecordEntry entry) {
        return FileEntry.of(entry.entryId().key())
                .context(entry.entryId().context())
                .shape(entry.shape())
                .note(entry.note())
                .reference(entry.reference())
                .section(entry.section())
                .maxLength(entry.maxLength())
                .translatable(entry.translatable());
    }
}
