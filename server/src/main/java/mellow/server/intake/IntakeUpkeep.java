package mellow.server.intake;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mellow.server.common.Clearing;
import mellow.server.common.Perishable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What intakes keep for a while: files that nobody decided about, and files that were left. */
@Component
class IntakeUpkeep implements Perishable {

    private static final Duration UNDECIDED = Duration.ofDays(90);
    private static final Duration LEFT = Duration.ofDays(30);

    private static final String LEAVE =
            "update intake set status = 'left', version = version + 1 where status = 'open' and created_at < :undecided";
    private static final List<String> STEPS = List.of(
            LEAVE,
            "delete from intake_line l using intake i where i.id = l.intake_id and i.status <> 'open'",
            "delete from intake_decision d using intake i where i.id = d.intake_id and i.status <> 'open'",
            "delete from intake_file f using intake i where i.id = f.intake_id and i.status = 'left' and i.created_at < :left");

    private final JdbcClient jdbc;

    IntakeUpkeep(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public String what() {
        return "intakes that nobody decided about or that were left";
    }

    @Override
    @Transactional
    public int forget(Instant now) {
        return Clearing.run(jdbc, STEPS, Map.of("undecided", now.minus(UNDECIDED), "left", now.minus(LEFT)));
    }
}
