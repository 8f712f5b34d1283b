package mellow.server.run;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import mellow.server.common.Perishable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Runs that are over: what they did is in the record, and how they went is asked for days at most. */
@Component
class RunUpkeep implements Perishable {

    private static final Duration OVER = Duration.ofDays(30);

    private final JdbcClient jdbc;

    RunUpkeep(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public String what() {
        return "runs that are over";
    }

    @Override
    @Transactional
    public int forget(Instant now) {
        return jdbc.sql("delete from run where ended_at < :before")
                .param("before", now.minus(OVER).atOffset(ZoneOffset.UTC))
                .update();
    }
}
