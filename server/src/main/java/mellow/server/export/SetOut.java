package mellow.server.export;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.zip.ZipOutputStream;
import mellow.core.format.EmptyReading;
import mellow.core.format.EntryId;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordEntry;
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
 * Sends the files of a table out again: every file at its path with only what changed, and in sets a file for each language that has none yet, made after the
 * file of the sources in the habits of the others. Needs a transaction around it.
 */
@Component
public class SetOut {

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

    /**
     * What stands in files.
     *
     * @param languages those that files are made for or written anew in; null for all of the table
     * @param reads what else than a file's languages is read of the record
     * @param offers whether the newest offers are read
     * @param most entries that are read, for an example; {@link RecordReader#ALL} for all
     * @param as how an entry is seen by a file with texts in some languages
     */
    public record View(
            @Nullable Set<LanguageTag> languages,
            Collection<LanguageTag> reads,
            boolean offers,
            int most,
            BiFunction<RecordEntry, List<LanguageTag>, RecordEntry> as) {

        /** The record as it is. */
        static final View PLAIN = new View(null, List.of(), false, RecordReader.ALL, (entry, languages) -> entry);

        private boolean wants(LanguageTag tag) {
            return languages == null || languages.contains(tag);
        }
    }

    /** Where files go. */
    public interface Sink {

        /**
         * Takes a file.
         *
         * @param path where it lay, as it was spelled
         * @param language its language, null when it holds several
         */
        void file(String path, @Nullable LanguageTag language, Writing writing) throws IOException;

        /** Writes a fresh file in a format and a language, where the format has no place for what a template would need. */
        void fresh(String format, LanguageTag language, OutputStream out) throws IOException;
    }

    /** Writes a file. */
    @FunctionalInterface
    public interface Writing {

        /** Writes all of it. */
        void to(OutputStream out) throws IOException;
    }

    /** Writes all files of the table's sets as a ZIP archive. */
    void writeTo(TableInfo table, Fresh fresh, OutputStream out) throws IOException {
        List<KnownFile> known = masters.of(table.id());
        List<SetPaths> sets = SetPaths.of(known);
        if (sets.isEmpty()) {
            throw Refusal.notFound(
                    "no-set",
                    "The table {table} was not taken in from one file per language.",
                    Map.of("table", table.name()));
        }
        ZipOutputStream zip = new ZipOutputStream(out);
        sets(table, sets, View.PLAIN, new Sink() {
            @Override
            public void file(String path, @Nullable LanguageTag language, Writing writing) throws IOException {
                zip.putNextEntry(ZipNames.entry(path));
                writing.to(zip);
                zip.closeEntry();
            }

            @Override
            public void fresh(String format, LanguageTag language, OutputStream to) throws IOException {
                fresh.write(format, language, to);
            }
        });
        zip.finish();
    }

    /** See {@link Sink#fresh}. */
    @FunctionalInterface
    interface Fresh {
        void write(String format, LanguageTag language, OutputStream out) throws IOException;
    }

    /**
     * Writes all files that the table was taken in from, those of sets and the others.
     *
     * @return whether there were any
     */
    public boolean all(TableInfo table, View view, Sink sink) throws IOException {
        List<KnownFile> known = masters.of(table.id());
        List<String> writable = masters.paths(table.id());
        for (KnownFile file : known) {
            if (wanted(file, table, view) && !writable.contains(file.path())) {
                throw new UnwritableTextException(
                        file.path() + " is of a format that is not written in place; make its files anew.");
            }
        }
        Set<String> done = sets(table, SetPaths.of(known), view, sink);
        for (KnownFile file : known) {
            String path = file.path();
            if (!done.contains(path) && wanted(file, table, view)) {
                FileReading reading = masters.reading(table, path).orElseThrow();
                Place place = new Place(Part.ALONE, masters.addedSince(table.id(), path), null, false);
                sink.file(
                        ZipNames.safe(path),
                        file.language().orElse(null),
                        out -> named(path, () -> changed(table, reading, reading.patch(), place, view)
                                .writeTo(out)));
            }
        }
        return !known.isEmpty();
    }

    private static boolean wanted(KnownFile file, TableInfo table, View view) {
        return file.language()
                .filter(tag -> !tag.equals(table.source()))
                .map(view::wants)
                .orElse(true);
    }

    /** Writes those of sets; the paths of all files that belong to one, whether they are wanted or not. */
    private Set<String> sets(TableInfo table, List<SetPaths> sets, View view, Sink sink) throws IOException {
        Set<String> names = new HashSet<>();
        for (SetPaths set : sets) {
            Optional<FileReading> leads = set.source().flatMap(path -> masters.reading(table, path));
            Set<EntryId> entries = leads.map(SetOut::ids).orElse(null);
            for (KnownFile file : of(set, table)) {
                if (names.add(file.path()) && wanted(file, table, view)) {
                    sink.file(
                            ZipNames.safe(file.path()),
                            file.language().orElse(null),
                            out -> write(table, set, file, entries, view, sink, out));
                }
            }
            for (LanguageTag tag : lacking(set, table)) {
                if (view.wants(tag) && names.add(set.path(tag))) {
                    sink.file(
                            ZipNames.safe(set.path(tag)), tag, out -> make(table, set, tag, entries, view, sink, out));
                }
            }
        }
        return names;
    }

    /** What {@code writing} cannot write is told with the file's path. */
    private static void named(String path, Writes writing) throws IOException {
        try {
            writing.run();
        } catch (UnwritableTextException noPlace) {
            throw new UnwritableTextException(path + ": " + noPlace.getMessage());
        }
    }

    @FunctionalInterface
    private interface Writes {
        void run() throws IOException;
    }

    private static Set<EntryId> ids(FileReading file) {
        Set<EntryId> ids = new LinkedHashSet<>();
        for (int i = 0; i < file.size(); i++) {
            ids.add(file.id(i));
        }
        return ids;
    }

    private void write(
            TableInfo table,
            SetPaths set,
            KnownFile file,
            @Nullable Set<EntryId> entries,
            View view,
            Sink sink,
            OutputStream out)
            throws IOException {
        FileReading reading = masters.reading(table, file.path()).orElseThrow();
        boolean leads = set.source().equals(Optional.of(file.path()));
        Optional<LanguageTag> tag = file.language().filter(one -> !one.equals(table.source()));
        if (reading instanceof EmptyReading empty && tag.isPresent() && anyText(table, tag.get())) {
            // An empty file tells nothing about how a text would stand in it; its comments stay.
            out.write(empty.bytes());
            make(table, set, tag.get(), entries, view, sink, out);
            return;
        }
        named(file.path(), () -> {
            FilePatch patch = reading.patch();
            patch.like(siblings(table, set, file.path()));
            Place place = new Place(
                    leads ? Part.ALONE : Part.TRANSLATION, masters.addedSince(table.id(), file.path()), entries, false);
            changed(table, reading, patch, place, view).writeTo(out);
        });
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

    private FilePatch changed(TableInfo table, FileReading reading, FilePatch patch, Place place, View view) {
        InPlace patching = new InPlace(reading, patch, table.source(), place);
        Set<LanguageTag> reads = new LinkedHashSet<>(reading.languages());
        reads.addAll(view.reads);
        records.texts(
                table.id(),
                reads,
                view.offers,
                view.most,
                entry -> patching.entry(view.as.apply(entry, reading.languages())));
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
            TableInfo table,
            SetPaths set,
            LanguageTag tag,
            @Nullable Set<EntryId> entries,
            View view,
            Sink sink,
            OutputStream out)
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
            changed(table, reading, patch, place, view).writeTo(bytes);
        } catch (UnwritableTextException noPlace) {
            bytes.reset();
            sink.fresh(format, tag, bytes);
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
