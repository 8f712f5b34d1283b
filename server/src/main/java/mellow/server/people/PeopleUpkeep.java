package mellow.server.people;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import mellow.server.common.Perishable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Attempts that failed, browsers that were not seen for long, and invitations that no longer hold. */
@Component
class PeopleUpkeep implements Perishable {

    private static final Duration INVITATIONS = Duration.ofDays(90);

    private final Attempts attempts;
    private final Browsers browsers;
    private final JdbcClient jdbc;

    PeopleUpkeep(Attempts attempts, Browsers browsers, JdbcClient jdbc) {
        this.attempts = attempts;
        this.browsers = browsers;
        this.jdbc = jdbc;
    }

    @Override
    public String what() {
        return "attempts to sign in, browsers and invitations";
    }

    @Override
    @Transactional
    public int forget(Instant now) {
        int invitations = jdbc.sql("delete from invite where expires_at < :before")
                .param("before", now.minus(INVITATIONS).atOffset(ZoneOffset.UTC))
                .update();
        return attempts.forget() + browsers.forget() + invitations;
    }
}
