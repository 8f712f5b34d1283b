package mellow.server.asset;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import mellow.server.common.Clearing;
import mellow.server.common.Perishable;
import mellow.server.common.Refusal;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** The rows of sets of pictures and sounds. Needs a transaction around it. */
@Component
class AssetSetRows implements Perishable {

    /** As long as somebody may come back to one of which no intake was made. */
    private static final Duration KEPT = Duration.ofDays(30);

    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final Clock clock;

    AssetSetRows(JdbcClient jdbc, JsonMapper json, Clock clock) {
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /** A set without its files. */
    record SetRow(
            long id, long person, AssetSetOptions options, List<String> proposed, int version, @Nullable Long intake) {}

    /**
     * A file of a set.
     *
     * @param file the stored file's number, null when it was not kept
     * @param problem why it cannot go in, null when it can
     * @param key as somebody said, null for what the path says
     * @param language the same
     * @param leftOut the same
     */
    record FileRow(
            int position,
            String path,
            @Nullable Long file,
            @Nullable String problem,
            List<String> gone,
            @Nullable String key,
            @Nullable String language,
            @Nullable Boolean leftOut) {}

    @Override
    public String what() {
        return "pictures and sounds that came together and were never taken in";
    }

    @Override
    public boolean namedByOthers() {
        return false;
    }

    @Override
    @Transactional
    public int forget(Instant now) {
        // What was said of a table's files stays; the files of such a set are in the table.
        return Clearing.run(
                jdbc,
                List.of(
                        """
                        delete from asset_set_file f using asset_set s join intake i on i.id = s.intake_id and i.status <> 'open'
                        where f.set_id = s.id and s.created_at < :before
                        """,
                        """
                        delete from asset_set s where s.created_at < :before
                          and not exists (select 1 from intake i where i.id = s.intake_id and i.status in ('open', 'applied'))
                        """),
                Map.of("before", now.minus(KEPT)));
    }

    long add(long person, AssetSetOptions options) {
        return jdbc.sql(
                        "insert into asset_set (person_id, options, created_at) values (:person, cast(:options as jsonb), :at) returning id")
                .param("person", person)
                .param("options", json.writeValueAsString(options))
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .query(Long.class)
                .single();
    }

    void addFiles(long set, List<FileRow> files) {
        jdbc.sql(
                        """
                        insert into asset_set_file (set_id, position, path, file_id, problem, gone)
                        select :set, f.position, f.path, f.file, f.problem, f.gone from jsonb_to_recordset(cast(:files as jsonb))
                            as f (position int, path text, file bigint, problem text, gone text[])
                        """)
                .param("set", set)
                .param("files", json.writeValueAsString(files))
                .update();
    }

    SetRow find(long id) {
        return read(id, "");
    }

    /** The same held against other changes. */
    SetRow hold(long id) {
        return read(id, " for update");
    }

    private SetRow read(long id, String held) {
        return jdbc.sql("select * from asset_set where id = :id" + held)
                .param("id", id)
                .query((row, n) -> new SetRow(
                        row.getLong("id"),
                        row.getLong("person_id"),
                        json.readValue(row.getString("options"), AssetSetOptions.class),
                        List.of((String[]) row.getArray("proposed").getArray()),
                        row.getInt("version"),
                        row.getObject("intake_id", Long.class)))
                .optional()
                .orElseThrow(() -> Refusal.notFound(
                        "no-such-asset-set", "These pictures and sounds are not here any more; bring them again."));
    }

    List<FileRow> files(long set) {
        return jdbc.sql("select * from asset_set_file where set_id = :set order by position")
                .param("set", set)
                .query((row, n) -> new FileRow(
                        row.getInt("position"),
                        row.getString("path"),
                        row.getObject("file_id", Long.class),
                        row.getString("problem"),
                        Arrays.asList((String[]) row.getArray("gone").getArray()),
                        row.getString("key"),
                        row.getString("language"),
                        row.getObject("left_out", Boolean.class)))
                .list();
    }

    /** Notes what was decided about a set and some of its files. */
    void decide(long set, AssetSetOptions options, List<String> proposed, List<AssetChoice> choices) {
        jdbc.sql(
                        "update asset_set set options = cast(:options as jsonb), proposed = :proposed, version = version + 1 where id = :set")
                .param("set", set)
                .param("proposed", proposed.toArray(String[]::new))
                .param("options", json.writeValueAsString(options))
                .update();
        int known = jdbc.sql(
                        """
                        update asset_set_file f set key = c.key, language = c.language, left_out = c."leftOut"
                        from jsonb_to_recordset(cast(:choices as jsonb)) as c (position int, key text, language text, "leftOut" boolean)
                        where f.set_id = :set and f.position = c.position
                        """)
                .param("set", set)
                .param("choices", json.writeValueAsString(choices))
                .update();
        if (known < choices.stream().map(AssetChoice::position).distinct().count()) {
            throw Refusal.unacceptable(
                    "no-such-file", "There is no such file; choose it again.", Map.of("field", "files"));
        }
    }

    /** The patterns of the files that were taken into a table last. */
    List<String> patternsOf(long table) {
        return jdbc.sql(
                        """
                        select s.options from asset_set s join intake i on i.id = s.intake_id where i.table_id = :table and i.status = 'applied'
                        order by s.id desc limit 1
                        """)
                .param("table", table)
                .query(String.class)
                .optional()
                .map(options -> json.readValue(options, AssetSetOptions.class).patterns())
                .orElse(List.of());
    }

    /** Whether an intake was taken in, and not taken back. */
    boolean taken(long intake) {
        return jdbc.sql("select status = 'applied' from intake where id = :intake")
                .param("intake", intake)
                .query(Boolean.class)
                .optional()
                .orElse(false);
    }

    void madeInto(long set, long intake) {
        jdbc.sql("update asset_set set intake_id = :intake, version = version + 1 where id = :set")
                .param("set", set)
                .param("intake", intake)
                .update();
    }
}
