package mellow.server.intake;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.text.Shape;
import mellow.server.file.FileStore;
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
            insert into master_file (table_id, path, file_id, intake_id, options, taken_at) values (:table, :path, :file, :intake, cast(:options as jsonb), :at)
            on conflict (table_id, path) do update set file_id = excluded.file_id, intake_id = excluded.intake_id, options = excluded.options, taken_at = excluded.taken_at
            """;

    private static final String FORMED =
            "select key, context, shape from entry where table_id = :table and shape in ('plural', 'states') and removed_at is null";

    private final JdbcClient jdbc;
    private final FileStore files;
    private final JsonMapper json;

    MasterFiles(JdbcClient jdbc, FileStore files, JsonMapper json) {
        this.jdbc = jdbc;
        this.files = files;
        this.json = json;
    }

    void keep(long table, Intake intake, IntakeOptions exact, Instant at) {
        jdbc.sql(KEEP)
                .param("table", table)
                .param("path", intake.fileName())
                .param("file", intake.file())
                .param("intake", intake.id())
                .param("options", json.writeValueAsString(exact))
                .param("at", at.atOffset(java.time.ZoneOffset.UTC))
                .update();
    }

    /** How {@code path} was read when it was last taken in anywhere. */
    Optional<IntakeOptions> optionsOf(String path) {
        return jdbc.sql("select options from master_file where path = :path order by taken_at desc limit 1")
                .param("path", path)
                .query(String.class)
                .optional()
                .map(options -> json.readValue(options, IntakeOptions.class));
    }

    /** The row that {@link #keep} is about to replace, as JSON; empty for none. */
    Optional<String> row(long table, String path) {
        return jdbc.sql("select to_jsonb(m)::text from master_file m where table_id = :table and path = :path")
                .param("table", table)
                .param("path", path)
                .query(String.class)
                .optional();
    }

    /** Puts back what {@link #row} told, if {@code intake} was the last to be taken in; none forgets the path. */
    void putBack(long table, String path, long intake, @Nullable String was) {
        boolean last =
                jdbc.sql("delete from master_file where table_id = :table and path = :path and intake_id = :intake")
                                .param("table", table)
                                .param("path", path)
                                .param("intake", intake)
                                .update()
                        > 0;
        if (last && was != null) {
            jdbc.sql(
                            "insert into master_file select * from jsonb_populate_record(null::master_file, cast(:was as jsonb))")
                    .param("was", was)
                    .update();
        }
    }

    /** Paths that were taken into {@code table} and can be written in place, the largest file first: it is the one that most people mean. */
    @Transactional(readOnly = true)
    public List<String> paths(long table) {
        return jdbc.sql(
                        "select path from master_file m join stored_file f on f.id = m.file_id where table_id = :table and coalesce(m.options ->> 'format', 'csv') not in ('mo', 'tmx', 'tbx', 'ledger-json') order by f.bytes desc, path")
                .param("table", table)
                .query(String.class)
                .list();
    }

    /** The table that {@code path} was last taken into. */
    Optional<Long> tableOf(String path) {
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

    /** The same with its format. */
    Optional<FileRead> read(TableInfo table, String path) {
        return jdbc.sql("select file_id, options from master_file where table_id = :table and path = :path")
                .param("table", table.id())
                .param("path", path)
                .query((row, n) -> {
                    IntakeOptions options = json.readValue(row.getString("options"), IntakeOptions.class);
                    return FileRead.of(
                            path, files.load(row.getLong("file_id")), options, table.source(), formed(table.id()));
                })
                .optional();
    }

    /** A table's entries that have forms, which a file of plain texts says in a row each. */
    Map<EntryId, Shape> formed(long table) {
        Map<EntryId, Shape> formed = new HashMap<>();
        jdbc.sql(FORMED).param("table", table).query((RowCallbackHandler) row -> formed.put(
                new EntryId(row.getString(1), row.getString(2)),
                Shape.of(row.getString(3)).orElseThrow()));
        return formed;
    }
}
