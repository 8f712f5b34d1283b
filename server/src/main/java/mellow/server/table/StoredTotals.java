package mellow.server.table;

import java.util.SortedMap;
import mellow.server.coverage.CoverageService.Count;
import mellow.server.coverage.TableTotals;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Keeps the totals in the tables' rows. */
@Component
class StoredTotals implements TableTotals {

    private static final String ADD =
            """
            update ledger_table t set entries = t.entries + moved.entries, words = t.words + moved.words
            from (select m.* from unnest(cast(:tables as bigint[]), cast(:entries as int[]), cast(:words as bigint[])) m (id, entries, words)
                  join ledger_table l on l.id = m.id order by m.id for no key update of l) moved
            where moved.id = t.id
            """;
    private static final String RECOUNT =
            """
            update ledger_table t set (entries, words) = (
                select count(*), coalesce(sum(words), 0) from entry e where e.table_id = t.id and e.removed_at is null and e.translatable)
            where t.id = :table
            """;

    private final JdbcClient jdbc;

    StoredTotals(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public void add(SortedMap<Long, Count> moved) {
        jdbc.sql(ADD)
                .param("tables", moved.keySet().toArray(Long[]::new))
                .param("entries", moved.values().stream().map(Count::entries).toArray(Integer[]::new))
                .param("words", moved.values().stream().map(Count::words).toArray(Long[]::new))
                .update();
    }

    @Override
    public void recount(long table) {
        jdbc.sql(RECOUNT).param("table", table).update();
    }
}
