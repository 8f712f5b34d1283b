package mellow.server.record;

import mellow.server.common.Coded;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Makes and drops rows of cells that nobody has touched, and gives entries room in their table. */
@Component
@Transactional(propagation = Propagation.MANDATORY)
public class RecordRows {

    private static final String CLAIM = Coded.sql(
            """
            insert into cell (entry_id, language_id, standing, state, based_on, text_version, version, origin, author_id, changed_at)
            select e, l, {standing.none}, {state.untranslated}, 0, 0, 0, '', :person, now()
            from unnest(cast(:entries as bigint[]), cast(:languages as int[])) as k (e, l) order by 1, 2
            on conflict do nothing
            """);
    private static final String DROP_UNTOUCHED =
            """
            delete from cell c using unnest(cast(:entries as bigint[]), cast(:languages as int[])) as k (e, l)
            where c.entry_id = k.e and c.language_id = k.l and c.version = 0
            """;
    private static final String RENUMBER =
            """
            update entry e set position = n.n
            from (select id, row_number() over (order by position, id) n from entry where table_id = :table and removed_at is null) n
            where n.id = e.id
            """;

    private final JdbcClient jdbc;

    RecordRows(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * Makes the rows of untouched cells that have none yet; a key is the same place in both arrays. Two people may do so at once; both then find the one
     * row.
     */
    public void claim(Long[] entries, Integer[] languages, long person) {
        jdbc.sql(CLAIM)
                .param("entries", entries)
                .param("languages", languages)
                .param("person", person)
                .update();
    }

    /** Removes claimed rows that nothing came of. */
    public void dropUntouched(Long[] entries, Integer[] languages) {
        jdbc.sql(DROP_UNTOUCHED)
                .param("entries", entries)
                .param("languages", languages)
                .update();
    }

    /** Numbers a table's entries anew, in the order they have. */
    public void renumber(long table) {
        jdbc.sql(RENUMBER).param("table", table).update();
    }
}
