package mellow.server.people;

import java.time.Clock;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Tells all servers that somebody left or was shut out, and which of those who listen may go on. */
@Service
public class Doors {

    /** The channel on which PostgreSQL hands it on. */
    public static final String CHANNEL = "mellow_doors";

    private static final String MAY_STAY =
            """
            select x.n - 1 from unnest(:people::bigint[], :sessions::text[]) with ordinality x (person, session, n)
            join person p on p.id = x.person and p.ended_at is null and (p.coordinator or exists (select 1 from person_right r where r.person_id = p.id))
            where x.session = '' or exists (select 1 from spring_session s where s.session_id = x.session and s.expiry_time > :now)
            """;

    private final JdbcClient jdbc;
    private final Clock clock;

    Doors(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /**
     * Where someone listens.
     *
     * @param session the session's name, empty for none
     */
    public record Seat(long person, String session) {}

    /** Tells that somebody left or was shut out, once this transaction commits. */
    @Transactional
    public void moved() {
        jdbc.sql("select cast(pg_notify(:channel, '') as text)")
                .param("channel", CHANNEL)
                .query((row, n) -> "")
                .list();
    }

    /** The places in {@code seats} of those who may stay. */
    @Transactional(readOnly = true)
    public Set<Integer> mayStay(List<Seat> seats) {
        return new HashSet<>(jdbc.sql(MAY_STAY)
                .param("people", seats.stream().map(Seat::person).toArray(Long[]::new))
                .param("sessions", seats.stream().map(Seat::session).toArray(String[]::new))
                .param("now", clock.instant().toEpochMilli())
                .query(Integer.class)
                .list());
    }
}
