package mellow.server.run;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.ScheduledFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import mellow.core.format.UnreadableFileException;
import mellow.server.common.Refusal;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/** Work that goes on after its request has been answered. Its progress is in the database: any server tells it, and a killed server leaves it silent. */
@Service
public class RunService implements DisposableBean {

    private static final Logger LOG = LoggerFactory.getLogger(RunService.class);
    private static final Duration SILENT = Duration.ofSeconds(20);
    private static final Duration BETWEEN_NOTES = Duration.ofMillis(300);
    private static final Duration BEAT = Duration.ofSeconds(4);
    private static final Duration LOOKS_EVERY = Duration.ofMillis(15);
    private static final int AT_ONCE = 2;

    private static final String START =
            """
            insert into run (kind, subject, person_id, status, started_at, seen_at)
            values (:kind, :subject, :person, 'going', :now, :now) returning id
            """;
    private static final String NOTE =
            "update run set done = :done, total = :total, seen_at = :now where id = :id returning cancel";
    private static final String END =
            "update run set status = :status, message = :message, seen_at = :now, ended_at = :now where id = :id";
    private static final String LATEST =
            "select * from run where kind = :kind and subject = :subject %s order by id desc limit 1";
    private static final String CANCEL =
            "update run set cancel = true where kind = :kind and subject = :subject and status = 'going'";

    private final JdbcClient jdbc;
    private final Clock clock;
    private final TransactionTemplate apart;
    private final ScheduledExecutorService heart =
            Executors.newSingleThreadScheduledExecutor(work -> new Thread(work, "run-heart"));
    private final ExecutorService executor = Executors.newFixedThreadPool(AT_ONCE, work -> new Thread(work, "run"));

    RunService(JdbcClient jdbc, Clock clock, PlatformTransactionManager transactions) {
        this.jdbc = jdbc;
        this.clock = clock;
        this.apart = new TransactionTemplate(transactions);
        this.apart.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    }

    /** What a run does; tells its progress as it goes. */
    @FunctionalInterface
    public interface Work {

        /** Does the work; what it throws ends the run as failed. */
        void run(Progress progress);
    }

    /** Where a run tells how far it is. */
    @FunctionalInterface
    public interface Progress {

        /**
         * {@code done} of {@code total} steps are done.
         *
         * @throws Cancelled when someone cancelled the run; the work lets it pass, so that its transaction is rolled back
         */
        void at(long done, long total);

        /** For work whose progress nobody watches. */
        Progress UNWATCHED = (done, total) -> {};
    }

    /** Someone cancelled the run. */
    public static final class Cancelled extends RuntimeException {
        Cancelled() {
            super("Cancelled; nothing was changed.");
        }
    }

    /** Starts {@code work}; refuses when the same is going on already. */
    public void start(String kind, long subject, long person, Work work) {
        if (!startWhen(kind, subject, person, () -> true, work)) {
            throw Refusal.conflict("already-going", "This is being done already.", java.util.Map.of());
        }
    }

    /**
     * Starts {@code work} unless the same is going on already or is not needed any more. Who asks at the same moment waits for the answer, on any server, so that
     * one of them starts it.
     *
     * @param needed asked while nobody else can start the same
     * @return whether it was started
     */
    public boolean startWhen(String kind, long subject, long person, BooleanSupplier needed, Work work) {
        Optional<Long> started = required(() -> {
            jdbc.sql("select pg_advisory_xact_lock(hashtext(:kind), hashtext(:subject))")
                    .param("kind", kind)
                    .param("subject", Long.toString(subject))
                    .query((row, n) -> n)
                    .single();
            boolean going = latest(kind, subject)
                    .filter(run -> run.status().equals("going"))
                    .isPresent();
            return going || !needed.getAsBoolean()
                    ? Optional.empty()
                    : Optional.of(jdbc.sql(START)
                            .param("kind", kind)
                            .param("subject", subject)
                            .param("person", person)
                            .param("now", now())
                            .query(Long.class)
                            .single());
        });
        started.ifPresent(id -> executor.submit(() -> carryOut(id, work)));
        return started.isPresent();
    }

    private void carryOut(long id, Work work) {
        Noting noting = new Noting(id);
        // A long statement tells no progress; without this its run would pass for lost, and be started again.
        ScheduledFuture<?> beating =
                heart.scheduleAtFixedRate(() -> beat(id), BEAT.toMillis(), BEAT.toMillis(), TimeUnit.MILLISECONDS);
        try {
            work.run(noting);
            end(id, "done", "");
        } catch (Cancelled cancelled) {
            end(id, "cancelled", String.valueOf(cancelled.getMessage()));
        } catch (Refusal | UnreadableFileException refused) {
            end(id, "failed", String.valueOf(refused.getMessage()));
        } catch (RuntimeException failed) {
            LOG.error("Run {} failed", id, failed);
            end(id, "failed", "The server could not finish this, and nothing was changed; its log says why.");
        } finally {
            beating.cancel(false);
        }
    }

    private void beat(long id) {
        try {
            jdbc.sql("update run set seen_at = :now where id = :id and status = 'going'")
                    .param("now", now())
                    .param("id", id)
                    .update();
        } catch (DataAccessException unreachable) {
            // The next beat may reach the database again; thrown here, it would be the last.
            LOG.warn("Run {} could not say that it goes on", id, unreachable);
        }
    }

    private void end(long id, String status, String message) {
        required(() -> jdbc.sql(END)
                .param("status", status)
                .param("message", message)
                .param("now", now())
                .param("id", id)
                .update());
    }

    /** Waits until the newest run of that kind on that subject is over, but not longer than {@code most}. */
    public void await(String kind, long subject, Duration most) {
        Instant until = clock.instant().plus(most);
        while (clock.instant().isBefore(until)
                && latest(kind, subject)
                        .filter(run -> run.status().equals("going"))
                        .isPresent()) {
            try {
                Thread.sleep(LOOKS_EVERY.toMillis());
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                return;
            }
        }
    }

    /** Asks a run to stop; it does so at its next step, unless it has committed. */
    public void cancel(String kind, long subject) {
        jdbc.sql(CANCEL).param("kind", kind).param("subject", subject).update();
    }

    /** The newest run of that kind on that subject. */
    public Optional<RunReply> latest(String kind, long subject) {
        return latest(jdbc.sql(LATEST.formatted("")), kind, subject);
    }

    /** The same, if {@code person} started it. */
    public Optional<RunReply> latest(String kind, long subject, long person) {
        return latest(jdbc.sql(LATEST.formatted("and person_id = :person")).param("person", person), kind, subject);
    }

    private Optional<RunReply> latest(JdbcClient.StatementSpec statement, String kind, long subject) {
        Instant silentSince = clock.instant().minus(SILENT);
        return statement
                .param("kind", kind)
                .param("subject", subject)
                .query((row, n) -> {
                    boolean lost = row.getString("status").equals("going")
                            && row.getTimestamp("seen_at").toInstant().isBefore(silentSince);
                    return new RunReply(
                            lost ? "lost" : row.getString("status"),
                            row.getLong("done"),
                            row.getLong("total"),
                            lost
                                    ? "The server stopped in the middle of it; nothing was changed, and it can be repeated."
                                    : row.getString("message"));
                })
                .optional();
    }

    private <T> T required(java.util.function.Supplier<T> statement) {
        return java.util.Objects.requireNonNull(apart.execute(status -> statement.get()));
    }

    private java.time.OffsetDateTime now() {
        return clock.instant().atOffset(ZoneOffset.UTC);
    }

    @Override
    public void destroy() {
        executor.shutdownNow();
        heart.shutdownNow();
    }

    /** Writes progress now and then, in transactions of its own. */
    private final class Noting implements Progress {
        private final long id;
        private Instant noted = Instant.EPOCH;

        Noting(long id) {
            this.id = id;
        }

        @Override
        public void at(long done, long total) {
            Instant now = clock.instant();
            if (Duration.between(noted, now).compareTo(BETWEEN_NOTES) < 0) {
                return;
            }
            noted = now;
            boolean cancel = required(() -> jdbc.sql(NOTE)
                    .param("done", done)
                    .param("total", total)
                    .param("now", now())
                    .param("id", id)
                    .query(Boolean.class)
                    .single());
            if (cancel) {
                throw new Cancelled();
            }
        }
    }

    /**
     * How a run stands.
     *
     * @param status going, done, failed, cancelled, or lost when its server went silent
     * @param done steps done
     * @param total steps in all, 0 when not known yet
     * @param message what to tell people, empty for nothing
     */
    public record RunReply(String status, long done, long total, String message) {}
}
