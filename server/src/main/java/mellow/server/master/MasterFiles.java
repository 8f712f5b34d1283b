package mellow.server.master;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import mellow.core.format.EntryId;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.LanguagePart;
import mellow.core.format.Traits;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import mellow.core.set.KnownFile;
import mellow.core.text.Shape;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** What each path held when it was last taken in: the base of the next comparison and the file that is written in place. */
@Component
public class MasterFiles {

    private static final String KEEP =
            """
            insert into master_file (table_id, path, file_id, intake_id, options, taken_at)
            select :table, f.path, f.file, :intake, f.options, :at from jsonb_to_recordset(cast(:files as jsonb)) as f (path text, file bigint, options jsonb)
            on conflict (table_id, path) do update set file_id = excluded.file_id, intake_id = excluded.intake_id, options = excluded.options, taken_at = excluded.taken_at
            """;

    private static final String ADDED_SINCE =
            """
            select s.entry_id from entry_story s
            join entry e on e.id = s.entry_id
            join master_file m on m.table_id = e.table_id and m.path = :path
            where e.table_id = :table and s.what = 'added' and s.at > m.taken_at
            """;

    private static final String PUT_BACK =
            """
            insert into master_file (table_id, path, file_id, intake_id, options, taken_at)
            select :table, w.path, w.file_id, w.intake_id, w.options, w.taken_at
            from jsonb_to_recordset(cast(:were as jsonb)) w (path text, file_id bigint, intake_id bigint, options jsonb, taken_at timestamptz)
            where w.path = any(:gone)
            """;
    private static final String KNOWN =
            """
            select m.table_id, m.path, m.options ->> 'language' as language, l.tag source from master_file m
            join ledger_table t on t.id = m.table_id and t.removed_at is null join language l on l.id = t.source_language_id
            where :table = 0 or m.table_id = :table order by m.taken_at, m.path
            """;

    /** Formats of files that can be written in place. */
    private static final String[] IN_PLACE = Formats.all().stream()
            .map(FileFormat::traits)
            .filter(Traits::inPlace)
            .map(Traits::name)
            .toArray(String[]::new);

    private static final String FORMED =
            "select key, context, shape from entry where table_id = :table and shape in ('plural', 'states') and removed_at is null";

    private final JdbcClient jdbc;
    private final Readings readings;
    private final JsonMapper json;

    MasterFiles(JdbcClient jdbc, Readings readings, JsonMapper json) {
        this.jdbc = jdbc;
        this.readings = readings;
        this.json = json;
    }

    /**
     * What a path holds.
     *
     * @param file the stored file's number
     * @param options how it was read
     */
    public record Held(String path, long file, ReadingChoice options) {}

    /** Notes what the paths of an intake hold now. */
    public void keep(long table, long intake, List<Held> held, Instant at) {
        jdbc.sql(KEEP)
                .param("table", table)
                .param("intake", intake)
                .param("files", json.writeValueAsString(held))
                .param("at", at.atOffset(ZoneOffset.UTC))
                .update();
    }

    /** The entries that came into {@code table} after {@code path} was last taken in. */
    @Transactional(readOnly = true)
    public Set<Long> addedSince(long table, String path) {
        return Set.copyOf(jdbc.sql(ADDED_SINCE)
                .param("table", table)
                .param("path", path)
                .query(Long.class)
                .list());
    }

    /** How {@code path} was read when it was last taken in anywhere. */
    public Optional<ReadingChoice> optionsOf(String path) {
        return jdbc.sql("select options from master_file where path = :path order by taken_at desc limit 1")
                .param("path", path)
                .query(String.class)
                .optional()
                .map(options -> json.readValue(options, ReadingChoice.class));
    }

    /**
     * How another file of the table that is of the same format was understood when it was last taken in, where that may be doubted: those of one product
     * share their habits.
     */
    public Optional<ReadingChoice> likeOf(long table, String format) {
        return jdbc.sql(
                        """
                        select options from master_file where table_id = :table and options ->> 'format' = :format
                            and (options ->> 'keys' is not null or options ->> 'siblings' is not null) order by taken_at desc limit 1
                        """)
                .param("table", table)
                .param("format", format)
                .query(String.class)
                .optional()
                .map(options -> json.readValue(options, ReadingChoice.class));
    }

    /**
     * How files were understood where that may be doubted, under their paths and under those with a place for the language: the files of one product are alike.
     */
    public Map<String, ReadingChoice> habits() {
        Map<String, ReadingChoice> habits = new HashMap<>();
        jdbc.sql(
                        """
                        select path, options from master_file where options ->> 'keys' is not null or options ->> 'siblings' is not null order by taken_at
                        """)
                .query((RowCallbackHandler) row -> {
                    ReadingChoice how = json.readValue(row.getString("options"), ReadingChoice.class);
                    ReadingChoice understood = how.habits();
                    LanguagePart.sureOf(row.getString("path"))
                            .ifPresent(part -> habits.put(part.pattern(), understood));
                    habits.put(row.getString("path"), understood);
                });
        return habits;
    }

    /** How the paths of a table were read when they were last taken in. */
    public Map<String, ReadingChoice> options(long table) {
        Map<String, ReadingChoice> options = new HashMap<>();
        jdbc.sql("select path, options from master_file where table_id = :table")
                .param("table", table)
                .query((RowCallbackHandler) row -> options.put(
                        row.getString("path"), json.readValue(row.getString("options"), ReadingChoice.class)));
        return options;
    }

    /** The rows that {@link #keep} is about to replace, as a JSON array; empty for none. */
    public Optional<String> rows(long table, List<String> paths) {
        return jdbc.sql(
                        """
                        select jsonb_agg(jsonb_build_object(
                            'path', path, 'file_id', file_id, 'intake_id', intake_id, 'options', options, 'taken_at', taken_at))::text
                        from master_file where table_id = :table and path = any(:paths)
                        """)
                .param("table", table)
                .param("paths", paths.toArray(String[]::new))
                .query(String.class)
                .optional();
    }

    /** Puts back what {@link #rows} told, where {@code intake} was the last to be taken in; a path that was not there is forgotten. */
    public void putBack(long table, long intake, @Nullable String were) {
        List<String> gone = jdbc.sql(
                        "delete from master_file where table_id = :table and intake_id = :intake returning path")
                .param("table", table)
                .param("intake", intake)
                .query(String.class)
                .list();
        if (were != null) {
            jdbc.sql(PUT_BACK)
                    .param("table", table)
                    .param("were", were)
                    .param("gone", gone.toArray(String[]::new))
                    .update();
        }
    }

    /** Every file that a table which is still there was fed from. */
    public List<KnownFile> known() {
        return of(0);
    }

    /** The files that {@code table} was fed from. */
    @Transactional(readOnly = true)
    public List<KnownFile> of(long table) {
        return jdbc.sql(KNOWN)
                .param("table", table)
                .query((row, n) -> new KnownFile(
                        row.getString("path"),
                        row.getLong("table_id"),
                        new LanguageTag(row.getString("source")),
                        Optional.ofNullable(row.getString("language")).flatMap(LanguageTag::parse)))
                .list();
    }

    /** Paths that were taken into {@code table} and can be written in place, the largest file first: it is the one that most people mean. */
    @Transactional(readOnly = true)
    public List<String> paths(long table) {
        return jdbc.sql(
                        "select path from master_file m join stored_file f on f.id = m.file_id where table_id = :table and coalesce(m.options ->> 'format', 'csv') = any(:formats) order by f.bytes desc, path")
                .param("table", table)
                .param("formats", IN_PLACE)
                .query(String.class)
                .list();
    }

    /** The table that {@code path} was last taken into. */
    public Optional<Long> tableOf(String path) {
        return jdbc.sql("select table_id from master_file where path = :path order by taken_at desc limit 1")
                .param("path", path)
                .query(Long.class)
                .optional();
    }

    /** What {@code path} held when it was last taken into {@code table}, read as it was read then. */
    @Transactional(readOnly = true)
    public Optional<FileReading> reading(TableInfo table, String path) {
        return read(table, path).map(FileRead::reading);
    }

    /** The same read as if its texts were in {@code language}: what a file in that language is made after. */
    @Transactional(readOnly = true)
    public Optional<FileReading> template(TableInfo table, String path, LanguageTag language) {
        return read(table, path, options -> options.in(language.value())).map(FileRead::reading);
    }

    /** The format of a file that was taken in. */
    @Transactional(readOnly = true)
    public String format(TableInfo table, String path) {
        return jdbc.sql(
                        "select coalesce(options ->> 'format', 'csv') from master_file where table_id = :table and path = :path")
                .param("table", table.id())
                .param("path", path)
                .query(String.class)
                .single();
    }

    /** The same with its format. */
    public Optional<FileRead> read(TableInfo table, String path) {
        return read(table, path, options -> options);
    }

    private Optional<FileRead> read(TableInfo table, String path, UnaryOperator<ReadingChoice> otherwise) {
        return jdbc.sql("select file_id, options from master_file where table_id = :table and path = :path")
                .param("table", table.id())
                .param("path", path)
                .query((row, n) -> {
                    ReadingChoice options =
                            otherwise.apply(json.readValue(row.getString("options"), ReadingChoice.class));
                    return readings.ofMember(path, row.getLong("file_id"), options, table.source(), formed(table.id()));
                })
                .optional();
    }

    /** A table's entries that have forms, which a file of plain texts says in a row each. */
    public Map<EntryId, Shape> formed(long table) {
        Map<EntryId, Shape> formed = new HashMap<>();
        jdbc.sql(FORMED).param("table", table).query((RowCallbackHandler) row -> formed.put(
                new EntryId(row.getString("key"), row.getString("context")),
                Shape.of(row.getString("shape")).orElseThrow()));
        return formed;
    }
}
