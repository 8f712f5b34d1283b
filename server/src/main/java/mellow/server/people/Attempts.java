package mellow.server.people;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import mellow.server.common.Hashes;
import mellow.server.common.Refusal;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Slows guessing down. Failures are counted in the database, so that it holds over all servers: by who is meant and from where, so that nobody can keep
 * somebody else out; and by where alone, so that nobody tries everybody. After some free ones every further failure doubles the pause, up to a quarter of an
 * hour; an hour without one forgets them. An attempt counts when it begins, so that many at once are many.
 */
@Component
class Attempts {

    /** A quarter of an hour: long for who guesses, short for who mistook. */
    private static final Duration LONGEST_PAUSE = Duration.ofMinutes(15);

    private static final Duration FORGOTTEN = Duration.ofHours(1);
    private static final int FREE_PER_NAME = 5;
    /** Many people may share an address. */
    private static final int FREE_PER_ADDRESS = 60;

    private static final String COUNT =
            """
            insert into attempt (what, failures, last_at) values (:what, 1, :now)
            on conflict (what) do update set failures = case when attempt.last_at < :forgotten then 1 else attempt.failures + 1 end, last_at = :now
            where attempt.last_at < :forgotten
               or attempt.last_at + make_interval(secs => case when attempt.failures < :free then 0 else least(:longest, 2.0 ^ least(attempt.failures - :free, 30)) end) <= :now
            """;
    private static final String LEFT =
            """
            select ceil(extract(epoch from last_at - cast(:now as timestamptz)) + least(:longest, 2.0 ^ least(greatest(failures - :free, 0), 30)))::int from attempt where what = :what
            """;

    private final JdbcClient jdbc;
    private final Clock clock;

    Attempts(JdbcClient jdbc, Clock clock) {
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** What failures are counted by, and how many are free. */
    private record Counter(byte[] what, int free) {

        static Counter of(String kind, String name, int free) {
            return new Counter(Hashes.sha256(kind + "\0" + name), free);
        }
    }

    /** An attempt under way. Unless it is said to have {@link #succeeded}, it was a failure. */
    final class Attempt {
        private final List<Counter> counters;

        private Attempt(List<Counter> counters) {
            this.counters = counters;
        }

        /** The person was who they said: their own counter begins anew, and others are as they were. */
        void succeeded() {
            jdbc.sql("delete from attempt where what = :what")
                    .param("what", counters.get(0).what())
                    .update();
            counters.stream().skip(1).forEach(counter -> jdbc.sql(
                            "update attempt set failures = greatest(failures - 1, 0) where what = :what")
                    .param("what", counter.what())
                    .update());
        }
    }

    /** Someone at {@code address} says they are {@code signIn}. */
    Attempt signIn(String signIn, String address) {
        return begin(List.of(
                Counter.of("name", signIn + "\0" + address, FREE_PER_NAME),
                Counter.of("address", address, FREE_PER_ADDRESS)));
    }

    /** The same in a browser in which that person signed in before: nobody else's failures count there. */
    Attempt knownSignIn(String signIn, String browser) {
        return begin(List.of(Counter.of("browser", signIn + "\0" + browser, FREE_PER_NAME)));
    }

    /** Someone at {@code address} follows an invitation; guessing one is hopeless anyway, its secret has 192 bits. */
    Attempt invitation(String address) {
        return begin(List.of(Counter.of("invitation", address, FREE_PER_ADDRESS)));
    }

    private Attempt begin(List<Counter> counters) {
        Instant now = clock.instant();
        for (Counter counter : counters) {
            int counted = jdbc.sql(COUNT)
                    .param("what", counter.what())
                    .param("now", now.atOffset(ZoneOffset.UTC))
                    .param("forgotten", now.minus(FORGOTTEN).atOffset(ZoneOffset.UTC))
                    .param("free", counter.free())
                    .param("longest", LONGEST_PAUSE.toSeconds())
                    .update();
            if (counted == 0) {
                throw wait(counter, now);
            }
        }
        return new Attempt(counters);
    }

    private Refusal wait(Counter counter, Instant now) {
        int seconds = Math.max(
                1,
                jdbc.sql(LEFT)
                        .param("now", now.atOffset(ZoneOffset.UTC))
                        .param("longest", LONGEST_PAUSE.toSeconds())
                        .param("free", counter.free())
                        .param("what", counter.what())
                        .query(Integer.class)
                        .optional()
                        .orElse(1));
        return Refusal.tooMany(
                "too-many-attempts",
                seconds < 90
                        ? "Too many attempts that failed; wait {seconds} seconds and try again."
                        : "Too many attempts that failed; wait {minutes} minutes and try again.",
                Map.of("seconds", seconds, "minutes", (seconds + 59) / 60));
    }

    /** Forgets what no longer counts. */
    int forget() {
        return jdbc.sql("delete from attempt where last_at < :forgotten")
                .param("forgotten", clock.instant().minus(FORGOTTEN).atOffset(ZoneOffset.UTC))
                .update();
    }
}
