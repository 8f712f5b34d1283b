package mellow.server.recording;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mellow.core.asset.LineNames;
import mellow.server.common.Refusal;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.PeopleService;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Says which lines recordings speak, one by one or all of a table by their keys. Coordinators do. */
@Service
public class RecordingService {

    private static final int MOST = 20_000;
    private static final int LISTED = 50;

    private final Recordings recordings;
    private final TableService tables;
    private final PeopleService people;
    private final LiveService live;
    private final JdbcClient jdbc;

    RecordingService(
            Recordings recordings, TableService tables, PeopleService people, LiveService live, JdbcClient jdbc) {
        this.recordings = recordings;
        this.tables = tables;
        this.people = people;
        this.live = live;
        this.jdbc = jdbc;
    }

    /**
     * The line that a recording speaks.
     *
     * @param table the table of the line, by its name in addresses
     * @param key the line's key
     * @param context its context, null or empty for none
     */
    record LineChoice(String table, String key, @Nullable String context) {}

    /**
     * Recordings and lines whose keys belong together.
     *
     * @param pairs how many
     * @param first some of them
     * @param without keys of the first recordings that have no line
     * @param left how many recordings have none
     */
    public record AlikeReply(int pairs, List<Pair> first, List<String> without, int left) {}

    /** A recording and its line, by their keys. */
    public record Pair(String recording, String line) {}

    private record Found(long id, long table) {}

    /** Says which line a recording speaks; said again of the same one, the recording is taken to fit it as it is now. */
    @Transactional
    public void tie(long person, long entry, LineChoice choice) {
        people.rights(person).requireCoordinator("say which line a recording speaks");
        Found recording = recording(entry);
        TableInfo table = tables.find(choice.table());
        long line = jdbc.sql(
                        """
                        select id from entry where table_id = :table and key = :key and context = :context and removed_at is null and shape = 'plain'
                        """)
                .param("table", table.id())
                .param("key", choice.key())
                .param("context", Objects.requireNonNullElse(choice.context(), ""))
                .query(Long.class)
                .optional()
                .orElseThrow(() -> Refusal.unacceptable(
                        "no-such-line",
                        "There is no text “{key}” in {table} that could be spoken.",
                        Map.of("field", "key", "key", choice.key(), "table", table.name())));
        recordings.tie(Map.of(entry, line));
        live.tell(new LiveChange(recording.table, List.of(entry), List.of()));
    }

    /** A recording speaks no line any more. */
    @Transactional
    public void untie(long person, long entry) {
        people.rights(person).requireCoordinator("say which line a recording speaks");
        Found recording = recording(entry);
        recordings.untie(List.of(entry));
        live.tell(new LiveChange(recording.table, List.of(entry), List.of()));
    }

    private Found recording(long entry) {
        return jdbc.sql(
                        "select id, table_id from entry where id = :entry and shape = 'asset' and removed_at is null for no key update")
                .param("entry", entry)
                .query((row, n) -> new Found(row.getLong(1), row.getLong(2)))
                .optional()
                .orElseThrow(Refusal::noSuchEntry);
    }

    /**
     * Finds the lines of all recordings of a table that have none yet, by their keys.
     *
     * @param lines the table of the lines, by its name in addresses
     * @param tie whether they are tied, and not only told
     */
    @Transactional
    public AlikeReply alike(long person, String slug, String lines, boolean tie) {
        people.rights(person).requireCoordinator("say which line a recording speaks");
        TableInfo table = tables.find(slug);
        Map<String, Long> untied = keys(
                """
                select e.key, e.id from entry e where e.table_id = :table and e.removed_at is null and e.shape = 'asset' and e.context = ''
                and not exists (select 1 from recording r where r.entry_id = e.id)
                and (e.source_forms is null or not exists (select 1 from asset_fact a
                    where a.file_id::text = e.source_forms::jsonb ->> 'file' and a.kind in ('png', 'jpeg', 'webp', 'svg')))
                order by e.position, e.id
                """,
                table.id());
        Map<String, Long> texts = keys(
                """
                select key, id from entry where table_id = :table and removed_at is null and shape = 'plain' and context = '' order by position, id
                """,
                tables.find(lines).id());
        Map<String, String> pairs = LineNames.pairs(untied.keySet(), texts.keySet());
        if (tie && !pairs.isEmpty()) {
            Map<Long, Long> tied = new LinkedHashMap<>();
            pairs.forEach((recording, line) ->
                    tied.put(Objects.requireNonNull(untied.get(recording)), Objects.requireNonNull(texts.get(line))));
            recordings.tie(tied);
            live.tell(new LiveChange(table.id(), List.copyOf(tied.keySet()), List.of()));
        }
        List<String> without = new ArrayList<>(untied.keySet());
        without.removeAll(pairs.keySet());
        return new AlikeReply(
                pairs.size(),
                pairs.entrySet().stream()
                        .limit(LISTED)
                        .map(one -> new Pair(one.getKey(), one.getValue()))
                        .toList(),
                without.stream().limit(LISTED).toList(),
                without.size());
    }

    private Map<String, Long> keys(String sql, long table) {
        Map<String, Long> keys = new LinkedHashMap<>();
        jdbc.sql(sql + " limit " + MOST).param("table", table).query((RowCallbackHandler)
                row -> keys.put(row.getString(1), row.getLong(2)));
        return keys;
    }
}
