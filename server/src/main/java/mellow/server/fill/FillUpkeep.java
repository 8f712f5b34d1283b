package mellow.server.fill;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import mellow.server.common.Perishable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Drafts of fills that never came to their end: one that begins anew does so within minutes. */
@Component
class FillUpkeep implements Perishable {

    private static final Duration OVER = Duration.ofDays(30);

    private final JdbcClient jdbc;

    FillUpkeep(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public String what() {
        return "drafts of fills that did not end";
    }

    @Override
    @Transactional
    public int forget(Instant now) {
        return jdbc.sql(
                        "delete from filling_draft d using filling f where f.change_id = d.change_id and f.begun_at < :before")
                .param("before", now.minus(OVER).atOffset(ZoneOffset.UTC))
                .update();
    }
}
