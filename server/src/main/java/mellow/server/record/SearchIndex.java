package mellow.server.record;

import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The rows that wait for the search indexes. Several servers may catch up at once: each takes rows that nobody holds. */
@Service
public class SearchIndex {

    private static final int STEP = 2_000;

    private static final String CELLS =
            """
            update cell c set unindexed = false from (
                select entry_id, language_id from cell where unindexed order by entry_id, language_id limit :step for update skip locked) w
            where c.entry_id = w.entry_id and c.language_id = w.language_id
            """;
    private static final String ENTRIES =
            """
            update entry e set unindexed = false from (
                select id from entry where unindexed order by id limit :step for update skip locked) w
            where e.id = w.id
            """;

    private final JdbcClient jdbc;

    SearchIndex(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Brings some of the waiting rows into the indexes; how many. */
    @Transactional
    public int step() {
        return jdbc.sql(ENTRIES).param("step", STEP).update()
                + jdbc.sql(CELLS).param("step", STEP).update();
    }
}
