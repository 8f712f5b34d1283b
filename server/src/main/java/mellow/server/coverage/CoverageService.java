package mellow.server.coverage;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import mellow.core.cell.CellState;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Keeps the counters of states in the transaction that changes the cells. Untranslated is what the table has and no counter covers. */
@Service
public class CoverageService {

    private static final String ADD =
            """
            insert into coverage (table_id, language_id, state, entries, words) values (:table, :language, :state, :entries, :words)
            on conflict (table_id, language_id, state)
            do update set entries = coverage.entries + excluded.entries, words = coverage.words + excluded.words
            """;
    private static final String FORGET = "delete from coverage where table_id = :table";
    private static final String RECOUNT =
            """
            insert into coverage (table_id, language_id, state, entries, words)
            select e.table_id, c.language_id, c.state, count(*), sum(e.words)
            from entry e join cell c on c.entry_id = e.id
            where e.table_id = :table and e.removed_at is null and e.translatable and c.state <> 5
            group by e.table_id, c.language_id, c.state
            """;
    private static final String RECOUNT_TABLE =
            """
            update ledger_table t set (entries, words) = (
                select count(*), coalesce(sum(words), 0) from entry e where e.table_id = t.id and e.removed_at is null and e.translatable)
            where t.id = :table
            """;
    private static final String ALL = "select table_id, language_id, state, entries, words from coverage";

    private final JdbcClient jdbc;

    CoverageService(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** A cell of an entry of {@code words} words went from one state to another. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void moved(long table, short language, CellState before, CellState after, int words) {
        if (before == after) {
            return;
        }
        // Always in the order of states, so that two people changing cells never wait for each other in a circle.
        Stream.of(before, after)
                .filter(state -> state != CellState.UNTRANSLATED)
                .sorted()
                .forEach(state -> {
                    int sign = state == after ? 1 : -1;
                    jdbc.sql(ADD)
                            .param("table", table)
                            .param("language", language)
                            .param("state", state.ordinal())
                            .param("entries", sign)
                            .param("words", (long) sign * words)
                            .update();
                });
    }

    /** Counts a table anew after a bulk change. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void recount(long table) {
        jdbc.sql(FORGET).param("table", table).update();
        jdbc.sql(RECOUNT).param("table", table).update();
        jdbc.sql(RECOUNT_TABLE).param("table", table).update();
    }

    /** All counters, by table and language. */
    @Transactional(readOnly = true)
    public Map<Place, Map<CellState, Count>> all() {
        Map<Place, Map<CellState, Count>> counts = new HashMap<>();
        jdbc.sql(ALL).query(row -> {
            Place place = new Place(row.getLong("table_id"), row.getShort("language_id"));
            counts.computeIfAbsent(place, p -> new HashMap<>())
                    .put(STATES.get(row.getShort("state")), new Count(row.getInt("entries"), row.getLong("words")));
        });
        return counts;
    }

    private static final List<CellState> STATES = List.of(CellState.values());

    /**
     * Where something is counted.
     *
     * @param table the table's number
     * @param language the language's number
     */
    public record Place(long table, short language) {}

    /**
     * How much there is.
     *
     * @param entries number of entries
     * @param words number of source words in them
     */
    public record Count(int entries, long words) {}
}
