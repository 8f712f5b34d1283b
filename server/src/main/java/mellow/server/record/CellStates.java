package mellow.server.record;

import java.util.Collection;
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
}
