package mellow.server.export;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.zip.ZipOutputStream;
import mellow.core.format.EmptyReading;
import mellow.core.format.EntryId;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import mellow.core.set.KnownFile;
import mellow.core.set.SetPaths;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.export.InPlace.Part;
import mellow.server.export.InPlace.Place;
import mellow.server.master.MasterFiles;
import mellow.server.record.RecordReader;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Sends the sets of a table out again: every file at its path with only what changed, and a file for each language that has none yet, made after the file of
 * the sources in the habits of the others. Needs a transaction around it.
 */
@Component
class SetOut {

    /** So many siblings are asked for their habits. */
    private static final int ASKED = 3;

    private final MasterFiles masters;
    private final RecordReader records;
    private final JdbcClient jdbc;

    SetOut(MasterFiles masters, RecordReader records, JdbcClient jdbc) {
        this.masters = masters;
        this.records = records;
        this.jdbc = jdbc;
    }

    /**
     * A file of a set on its way out.
     *
     * @param language its language, null when it holds several
     * @param made whether it is new: nothing was taken in under that path
     */
    record OutFile(String path, @Nullable String language, boolean made) {}

    /** The files that would go out, those that were taken in first. */
    List<OutFile> files(TableInfo table) {
        List<OutFile> files = new ArrayList<>();
        for (SetPaths set : SetPaths.of(masters.of(table.id()))) {
            for (KnownFile file : of(set, table)) {
                files.add(new OutFile(
                        file.path(), file.language().map(LanguageTag::value).orElse(null), false));
            }
            for (LanguageTag tag : lacking(set, table)) {
                files.add(new OutFile(set.path(tag), tag.value(), true));
            }
        }
        return files;
    }

    private List<KnownFile> of(SetPaths set, TableInfo table) {
        return masters.of(table.id()).stream()
                .filter(file ->
                        set.paths().containsValue(file.path()) || set.source().equals(Optional.of(file.path())))
                .toList();
    }

    private static List<LanguageTag> lacking(SetPaths set, TableInfo table) {
        return table.languages().stream()
                .map(Kept::tag)
                .filter(tag -> !set.paths().containsKey(tag) && !tag.equals(table.source()))
                .toList();
    }

    /** Writes all of them as a ZIP archive. */
    void writeTo(TableInfo table, Made made, OutputStream out) throws IOException {
        List<SetPaths> sets = SetPaths.of(masters.of(table.id()));
        if (sets.isEmpty()) {
            throw Refusal.notFound(
                    "no-set",
                    "The table {table} was not taken in from one file per language.",
                    Map.of("table", table.name()));
        }
        ZipOutputStream zip = new ZipOutputStream(out);
        Set<String> names = new HashSet<>();
        for (SetPaths set : sets) {
            Optional<FileReading> leads = set.source().flatMap(path -> masters.reading(table, path));
            Set<EntryId> entries = leads.map(SetOut::ids).orElse(null);
            for (KnownFile file : of(set, table)) {
                if (names.add(file.path())) {
                    zip.putNextEntry(ZipNames.entry(file.path()));
                    write(table, set, file, entries, made, zip);
                    zip.closeEntry();
                }
            }
            for (LanguageTag tag : lacking(set, table)) {
                if (names.add(set.path(tag))) {
                    zip.putNextEntry(ZipNames.entry(set.path(tag)));
                    make(table, set, tag, entries, made, zip);
                    zip.closeEntry();
                }
            }
        }
        zip.finish();
    }

    /** Writes a fresh file in a format and a language, where a format has no place for what a template would need. */
    @FunctionalInterface
    interface Made {
        void fresh(String format, LanguageTag language, OutputStream out) throws IOException;
    }

    private static Set<EntryId> ids(FileReading file) {
        Set<EntryId> ids = new LinkedHashSet<>();
        for (int i = 0; i < file.size(); i++) {
            ids.add(file.id(i));
        }
        return ids;
    }

    private void write(
            TableInfo table, SetPaths set, KnownFile file, @Nullable Set<EntryId> entries, Made made, OutputStream out)
            throws IOException {
        FileReading reading = masters.reading(table, file.path()).orElseThrow();
        boolean leads = set.source().equals(Optional.of(file.path()));
        Optional<LanguageTag> tag = file.language().filter(one -> !one.equals(table.source()));
        if (reading instanceof EmptyReading empty && tag.isPresent() && anyText(table, tag.get())) {
            // An empty file tells nothing about how a text would stand in it; its comments stay.
            out.write(empty.bytes());
            make(table, set, tag.get(), entries, made, out);
            return;
        }
        try {
            FilePatch patch = reading.patch();
            patch.like(siblings(table, set, file.path()));
            Place place = new Place(
                    leads ? Part.ALONE : Part.TRANSLATION, masters.addedSince(table.id(), file.path()), entries, false);
            changed(table, reading, patch, place).writeTo(out);
        } catch (UnwritableTextException noPlace) {
            throw new UnwritableTextException(file.path() + ": " + noPlace.getMessage());
        }
    }

    private boolean anyText(TableInfo table, LanguageTag tag) {
        return jdbc.sql(
                        Coded.sql(
                                "select exists (select 1 from coverage v join language l on l.id = v.language_id where v.table_id = :table and l.tag = :tag and v.state <> {state.untranslated} and v.entries > 0)"))
                .param("table", table.id())
                .param("tag", tag.value())
                .query(Boolean.class)
                .single();
    }

    private FilePatch changed(TableInfo table, FileReading reading, FilePatch patch, Place place) {
        InPlace patching = new InPlace(reading, patch, table.source(), place);
        records.texts(table.id(), reading.languages(), false, RecordReader.ALL, patching::entry);
        return patching.finish();
    }

    private List<FileReading> siblings(TableInfo table, SetPaths set, String path) {
        return set.paths().values().stream()
                .filter(other -> !other.equals(path))
                .limit(ASKED)
                .flatMap(other -> masters.reading(table, other).stream())
                .toList();
    }

    /** A file for a language that has none: after the file of the sources, or a sibling where every file brings its own; whole or not at all. */
    private void make(
            TableInfo table, SetPaths set, LanguageTag tag, @Nullable Set<EntryId> entries, Made made, OutputStream out)
            throws IOException {
        String template =
                set.source().orElseGet(() -> set.paths().values().iterator().next());
        String format = masters.format(table, template);
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try {
            FileReading reading = masters.template(table, template, tag).orElseThrow();
            List<FileReading> siblings = siblings(table, set, template);
            FilePatch patch = reading.patch();
            patch.like(siblings);
            patch.rename(tag, set.spelling(tag));
            Place place =
                    new Place(Part.TEMPLATE, masters.addedSince(table.id(), template), entries, keepEmpties(siblings));
            changed(table, reading, patch, place).writeTo(bytes);
        } catch (UnwritableTextException noPlace) {
            bytes.reset();
            made.fresh(format, tag, bytes);
        }
        bytes.writeTo(out);
    }

    /** Whether the others hold the keys of what is missing in them, rather than leave them out. */
    private static boolean keepEmpties(List<FileReading> siblings) {
        int empty = 0;
        int texts = 0;
        for (FileReading sibling : siblings) {
            for (int i = 0; i < sibling.size(); i++) {
                boolean none = sibling.entry(i).texts().get(0).isEmpty();
                empty += none ? 1 : 0;
                texts += none ? 0 : 1;
            }
        }
        return empty > 0 && 20 * empty >= texts;
    }
}
