package mellow.server.record;

import java.util.Collection;
import java.util.List;
import mellow.core.cell.CellState;
import mellow.server.common.Coded;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The states that cells show, when what they depend on changes beside them. */
@Component
public class CellStates {

    private static final String ANEW = Coded.sql(
            """
            update cell c set state = %1$s
            from entry e
            where e.id = c.entry_id and e.id = any(:entries) and %2$s and c.state <> %1$s
            returning c.state
            """
                    .formatted(StateSql.ofText("c", "e.meaning_revision"), StateSql.showsText("c")));

    private static final String BASE =
            """
            update cell c set based_on = n.based_on from unnest(:entries::bigint[], :languages::int[], :bases::int[]) n(entry_id, language_id, based_on)
            where c.entry_id = n.entry_id and c.language_id = n.language_id and c.text is not null
            """;

    private final JdbcClient jdbc;

    CellStates(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Finds the states of entries' cells anew after their sources changed; offers and returns show before what a text is. How many went stale. */
    @Transactional(propagation = Propagation.MANDATORY)
    public int anew(Collection<Long> entries) {
        return (int) jdbc.sql(ANEW).param("entries", entries.toArray(Long[]::new)).query(Integer.class).list().stream()
                .filter(state -> state == CellState.STALE.ordinal())
                .count();
    }

    /** Says for which revision of its source each of these cells' texts was made; their states are to be found {@linkplain #anew anew}. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void base(List<Long> entries, List<Integer> languages, List<Integer> revisions) {
        jdbc.sql(BASE)
                .param("entries", entries.toArray(Long[]::new))
                .param("languages", languages.toArray(Integer[]::new))
                .param("bases", revisions.toArray(Integer[]::new))
                .update();
    }
}
