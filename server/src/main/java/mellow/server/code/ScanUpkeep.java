package mellow.server.code;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import mellow.server.common.Perishable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Code that was sent to be looked through and never was, since its run failed or was stopped: it is not ours to keep. */
@Component
class ScanUpkeep implements Perishable {

    private static final Duration OVER = Duration.ofHours(6);

    private final JdbcClient jdbc;

    ScanUpkeep(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    @Override
    public String what() {
        return "code whose look did not end";
    }

    @Override
    @Transactional
    public int forget(Instant now) {
        return jdbc.sql("delete from scan_upload u using scan s where s.id = u.scan_id and s.begun_at < :before")
                .param("before", now.minus(OVER).atOffset(ZoneOffset.UTC))
                .update();
    }
}
