package mellow.server.people;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.Map;
import mellow.server.common.Hashes;
import mellow.server.common.Refusal;
import mellow.server.common.Secrets;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Links by which people come in: one at a time for each person, used once. Needs a transaction around it. */
@Component
class Invitations {

    private static final Duration LASTS = Duration.ofDays(14);
    private static final int TOKEN_BYTES = 24;

    private static final String WAITING =
            "select person_id, max(expires_at) expires_at from invite where used_at is null and expires_at > :now group by person_id";
    private static final String INVITED =
            """
            select i.person_id from invite i join person p on p.id = i.person_id
            where i.token_hash = :hash and i.used_at is null and i.expires_at > :now and p.ended_at is null for update of i
            """;
    private static final String MAKE =
            "insert into invite (token_hash, person_id, made_by, made_at, expires_at) values (:hash, :person, :by, :now, :until)";

    private final JdbcClient jdbc;
    private final Clock clock;

    Invitations(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** An invitation: the secret part of its link, shown once, and until when it holds. */
    record Invitation(long person, String token, Instant until) {}

    /** Makes one; earlier ones of the person no longer hold. */
    Invitation make(long by, long person) {
        use(person);
        String token = Secrets.made(TOKEN_BYTES);
        Instant until = clock.instant().plus(LASTS);
        jdbc.sql(MAKE)
                .param("hash", Hashes.sha256(token))
                .param("person", person)
                .param("by", by)
                .param("now", now())
                .param("until", until.atOffset(ZoneOffset.UTC))
                .update();
        return new Invitation(person, token, until);
    }

    /** Those of the person no longer hold. */
    void use(long person) {
        jdbc.sql("update invite set used_at = :now where person_id = :person and used_at is null")
                .param("now", now())
                .param("person", person)
                .update();
    }

    /** Whom an invitation that holds is for; keeps it from being used by another at the same time. */
    long open(String token) {
        return jdbc.sql(INVITED)
                .param("hash", Hashes.sha256(token))
                .param("now", now())
                .query(Long.class)
                .optional()
                .orElseThrow(
                        () -> Refusal.notFound(
                                "no-such-invitation",
                                "This invitation was used, replaced or is older than 14 days; ask a coordinator for a new link."));
    }

    /** Until when one waits, by person. */
    Map<Long, Instant> waiting() {
        Map<Long, Instant> waiting = new HashMap<>();
        jdbc.sql(WAITING).param("now", now()).query((RowCallbackHandler) row -> waiting.put(
                row.getLong("person_id"), row.getTimestamp("expires_at").toInstant()));
        return waiting;
    }

    private OffsetDateTime now() {
        return clock.instant().atOffset(ZoneOffset.UTC);
    }
}
