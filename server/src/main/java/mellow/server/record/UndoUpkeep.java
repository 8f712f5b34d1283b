package mellow.server.record;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mellow.server.common.Clearing;
import mellow.server.common.Perishable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** How things were before intakes that were taken back since. */
@Component
class UndoUpkeep implements Perishable {

    private static final Duration TAKEN_BACK = Duration.ofDays(90);

    private static final List<String> STEPS = List.of(
            "delete from intake_cell_was w using intake i where i.id = w.intake_id and i.status = 'undone' and i.undone_at < :takenBack",
            "delete from intake_entry_was w using intake i where i.id = w.intake_id and i.status = 'undone' and i.undone_at < :takenBack",
            "delete from intake_entry w using intake i where i.id = w.intake_id and i.status = 'undone' and i.undone_at < :takenBack");

    private final JdbcClient jdbc;

    UndoUpkeep(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public String what() {
        return "how things were before intakes that were taken back";
    }

    @Override
    @Transactional
    public int forget(Instant now) {
        return Clearing.run(jdbc, STEPS, Map.of("takenBack", now.minus(TAKEN_BACK)));
    }
}
