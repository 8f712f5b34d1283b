package mellow.server.run;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import java.util.function.Supplier;
import mellow.core.format.UnreadableFileException;
import mellow.server.common.DatabaseAway;
import mellow.server.common.Deadlocks;
import mellow.server.common.LongWork;
import mellow.server.common.Refusal;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.SmartLifecycle;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Work that goes on after its request has been answered. A run is a row: waiting, going, or over. Its server's heart beats in it from the start; when that
 * falls silent, another server begins it anew. The work and the word that it is done are one transaction, so a run is done if and only if its work is, and two
 * servers never both do it.
 */
@Service
public class RunService implements SmartLifecycle {

    private static final Logger LOG = LoggerFactory.getLogger(RunService.class);
    private static final Duration BETWEEN_NOTES = Duration.ofMillis(300);
    private static final Duration BEAT = Duration.ofSeconds(2);
    private static final Duration LOOKS_EVERY = Duration.ofMillis(15);
    private static final int AT_ONCE = 2;
    private static final String CANCELLED = "Cancelled; nothing was changed.";
    /** Work that ended so many servers would end the next one, too. */
    private static final int MOST_ATTEMPTS = 3;

    private static final String START =
            """
            insert into run (kind, subject, person_id, arguments, status, server, started_at, seen_at)
            values (:kind, :subject, :person, :arguments, 'queued', :server, now(), now()) returning id
            """;
    private static final String CLAIM =
            """
            update run set status = 'going', seen_at = now() where id = :id and server = :server and status in ('queued', 'going') and not cancel
            returning kind, subject, person_id, arguments
            """;
    private static final String NOTE =
            "update run set done = :done, total = :total, seen_at = now() where id = :id and server = :server returning cancel";
    private static final String END =
            "update run set status = :status, message = :message, seen_at = now(), ended_at = now() where id = :id and server = :server and status in ('queued', 'going')";
    private static final String BEATING =
            """
            update run set seen_at = now() where id in (
                select id from run where id = any(:mine) and server = :server and status in ('queued', 'going') for update skip locked)
            """;
    private static final String TAKE_OVER =
            """
            update run set server = :server, status = 'queued', attempts = attempts + 1, done = 0, seen_at = now() where id in (
                select id from run where status in ('queued', 'going') and seen_at < now() - make_interval(secs => :silent) and attempts < :most for update skip locked)
            returning id
            """;
    private static final String GIVE_UP =
            """
            update run set status = 'lost', ended_at = now(), message = 'The server stopped in the middle of it, again and again; nothing was changed, and it can be repeated.'
            where status in ('queued', 'going') and seen_at < now() - make_interval(secs => :silent) and attempts >= :most
            """;
    private static final String LATEST =
            "select * from run where kind = :kind and subject = :subject %s order by id desc limit 1";
    private static final String CANCEL =
            """
            update run set cancel = true, status = case when status = 'queued' then 'cancelled' else status end, message = case when status = 'queued' then :words else message end
            where kind = :kind and subject = :subject and status in ('queued', 'going')
            """;

    private final JdbcClient jdbc;
    private final Clock clock;
    private final Duration silent;
    private final TransactionTemplate apart;
    private final UUID server = UUID.randomUUID();
    private final Map<String, Work> works = new ConcurrentHashMap<>();
    /** Runs that this server does or will do as soon as it has a thread for them. */
    private final Set<Long> mine = ConcurrentHashMap.newKeySet();

    private volatile @Nullable ScheduledExecutorService heart;
    private volatile @Nullable ExecutorService executor;

    RunService(
            JdbcClient jdbc,
            Clock clock,
            PlatformTransactionManager transactions,
            @Value("${mellow.runs.silent:9s}") Duration silent) {
        this.jdbc = jdbc;
        this.clock = clock;
        this.silent = silent;
        this.apart = new TransactionTemplate(transactions);
        this.apart.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    }

    /** What runs of a kind do. All they change belongs to the transaction that is open when they are called. */
    @FunctionalInterface
    public interface Work {

        /** Does the work; what it throws ends the run as failed, and nothing of it stays. */
        void run(Order order, Progress progress);
    }

    /**
     * What a run is asked to do.
     *
     * @param subject what it is about: the number of an intake, a change
     * @param person who asked; their rights are those they have when it is done
     * @param arguments what else it has to know, as the kind writes it down
     */
    public record Order(long subject, long person, String arguments) {}

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
            super(CANCELLED);
        }
    }

    /** Says what runs of a kind do: every server does so when it starts, so that each can do what another left. */
    public void handle(String kind, Work work) {
        works.put(kind, work);
    }

    /** Starts a run; refuses when the same is going on already. */
    public void start(String kind, long subject, long person, String arguments) {
        if (!startWhen(kind, subject, person, arguments, () -> true)) {
            throw Refusal.conflict("already-going", "This is being done already.", Map.of());
        }
    }

    /**
     * Starts a run unless the same is going on already or is not needed any more. Who asks at the same moment waits for the answer, on any server, so that one of
     * them starts it.
     *
     * @param needed asked while nobody else can start the same
     * @return whether it was started
     */
    public boolean startWhen(String kind, long subject, long person, String arguments, BooleanSupplier needed) {
        Optional<Long> started = required(() -> {
            jdbc.sql("select pg_advisory_xact_lock(hashtext(:kind), hashtext(:subject))")
                    .param("kind", kind)
                    .param("subject", Long.toString(subject))
                    .query((row, n) -> n)
                    .single();
            boolean going = latest(kind, subject).filter(RunReply::open).isPresent();
            if (going || !needed.getAsBoolean()) {
                return Optional.empty();
            }
            long id = jdbc.sql(START)
                    .param("kind", kind)
                    .param("subject", subject)
                    .param("person", person)
                    .param("arguments", arguments)
                    .param("server", server)
                    .query(Long.class)
                    .single();
            // Before anybody can see the row, so that the heart beats for it from the first moment.
            mine.add(id);
            return Optional.of(id);
        });
        started.ifPresent(this::enqueue);
        return started.isPresent();
    }

    private void enqueue(long id) {
        mine.add(id);
        ExecutorService threads = executor;
        try {
            if (threads != null) {
                threads.submit(() -> carryOut(id));
                return;
            }
        } catch (RejectedExecutionException ending) {
            LOG.info("Run {} is left to another server, since this one ends", id);
        }
        // Another server, or this one when it is there again, finds the row silent.
        mine.remove(id);
    }

    private void carryOut(long id) {
        try {
            Optional<Claimed> claimed = claim(id);
            if (claimed.isPresent()) {
                work(id, claimed.get());
            }
        } catch (DataAccessException | TransactionException unreachable) {
            // The row stays as it is and falls silent: the run begins anew when the database is there again.
            LOG.warn("Run {} lost the database", id, unreachable);
        } finally {
            mine.remove(id);
        }
    }

    private record Claimed(String kind, Order order) {}

    private Optional<Claimed> claim(long id) {
        return required(() -> jdbc.sql(CLAIM)
                .param("id", id)
                .param("server", server)
                .query((row, n) -> new Claimed(
                        row.getString("kind"),
                        new Order(row.getLong("subject"), row.getLong("person_id"), row.getString("arguments"))))
                .optional());
    }

    private void work(long id, Claimed claimed) {
        Work work = works.get(claimed.kind());
        if (work == null) {
            end(id, "failed", "This server does not know how to do this; nothing was changed.");
            return;
        }
        Noting noting = new Noting(id);
        try {
            Deadlocks.repeating(() -> apart.executeWithoutResult(status -> {
                LongWork.mayTakeItsTime(jdbc);
                work.run(claimed.order(), noting);
                if (ended(id, "done", "") == 0) {
                    throw new TakenOver();
                }
            }));
        } catch (TakenOver another) {
            LOG.info("Run {} was begun anew by another server; nothing of it stays here", id);
        } catch (Cancelled cancelled) {
            end(id, "cancelled", CANCELLED);
        } catch (Refusal | UnreadableFileException refused) {
            end(id, "failed", String.valueOf(refused.getMessage()));
        } catch (RuntimeException | LinkageError | VirtualMachineError failed) {
            // Errors too: a file that no memory suffices for would end every server that begins it anew.
            if (DatabaseAway.is(failed)) {
                LOG.warn("Run {} lost the database and will begin anew", id);
                return;
            }
            LOG.error("Run {} failed", id, failed);
            end(id, "failed", "The server could not finish this, and nothing was changed; its log says why.");
        }
    }

    private void end(long id, String status, String message) {
        required(() -> ended(id, status, message));
    }

    private int ended(long id, String status, String message) {
        return jdbc.sql(END)
                .param("status", status)
                .param("message", message)
                .param("id", id)
                .param("server", server)
                .update();
    }

    /** Beats for one's own runs and begins those anew whose server is silent. */
    void beat() {
        try {
            required(() -> jdbc.sql(BEATING)
                    .param("mine", mine.toArray(Long[]::new))
                    .param("server", server)
                    .update());
            required(() -> jdbc.sql(GIVE_UP)
                    .param("silent", silent.toMillis() / 1000.0)
                    .param("most", MOST_ATTEMPTS)
                    .update());
            required(() -> jdbc.sql(TAKE_OVER)
                            .param("server", server)
                            .param("silent", silent.toMillis() / 1000.0)
                            .param("most", MOST_ATTEMPTS)
                            .query(Long.class)
                            .list())
                    .forEach(this::enqueue);
        } catch (DataAccessException | TransactionException unreachable) {
            // The next beat may reach the database again; thrown here, this one would be the last.
            LOG.warn("The heart of the runs could not beat: {}", unreachable.getMessage());
        }
    }

    /** Waits until the newest run of that kind on that subject is over, but not longer than {@code most}. */
    public void await(String kind, long subject, Duration most) {
        Instant until = clock.instant().plus(most);
        while (clock.instant().isBefore(until)
                && latest(kind, subject).filter(RunReply::open).isPresent()) {
            try {
                Thread.sleep(LOOKS_EVERY.toMillis());
            } catch (InterruptedException stopped) {
                Thread.currentThread().interrupt();
                return;
            }
        }
    }

    /** Asks a run to stop; one that waits does so at once, another at its next step unless it has committed. */
    public void cancel(String kind, long subject) {
        jdbc.sql(CANCEL)
                .param("words", CANCELLED)
                .param("kind", kind)
                .param("subject", subject)
                .update();
    }

    /** The newest run of that kind on that subject. Read it before what it makes, or in one state with that: a run that is over has made it. */
    public Optional<RunReply> latest(String kind, long subject) {
        return latest(jdbc.sql(LATEST.formatted("")), kind, subject);
    }

    /** The same, if {@code person} started it. */
    public Optional<RunReply> latest(String kind, long subject, long person) {
        return latest(jdbc.sql(LATEST.formatted("and person_id = :person")).param("person", person), kind, subject);
    }

    private static Optional<RunReply> latest(JdbcClient.StatementSpec statement, String kind, long subject) {
        return statement
                .param("kind", kind)
                .param("subject", subject)
                .query((row, n) -> new RunReply(
                        row.getString("status"), row.getLong("done"), row.getLong("total"), row.getString("message")))
                .optional();
    }

    private <T> T required(Supplier<T> statement) {
        return Objects.requireNonNull(apart.execute(status -> statement.get()));
    }

    @Override
    public void start() {
        executor = Executors.newFixedThreadPool(AT_ONCE, work -> new Thread(work, "run"));
        ScheduledExecutorService beating =
                Executors.newSingleThreadScheduledExecutor(work -> new Thread(work, "run-heart"));
        beating.scheduleWithFixedDelay(this::beat, BEAT.toMillis(), BEAT.toMillis(), TimeUnit.MILLISECONDS);
        heart = beating;
    }

    /** What is going is rolled back and begun anew by another server, or by this one when it is there again. */
    @Override
    public void stop() {
        for (ExecutorService threads : Arrays.asList(heart, executor)) {
            if (threads != null) {
                threads.shutdownNow();
            }
        }
        heart = null;
        executor = null;
    }

    @Override
    public boolean isRunning() {
        return executor != null;
    }

    /** Another server has begun the run anew. */
    private static final class TakenOver extends RuntimeException {}

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
                            .param("id", id)
                            .param("server", server)
                            .query(Boolean.class)
                            .optional())
                    .orElseThrow(TakenOver::new);
            if (cancel) {
                throw new Cancelled();
            }
        }
    }

    /**
     * How a run stands.
     *
     * @param status queued, going, done, failed, cancelled, or lost when its servers stopped again and again
     * @param done steps done
     * @param total steps in all, 0 when not known yet
     * @param message what to tell people, empty for nothing
     */
    public record RunReply(String status, long done, long total, String message) {

        /** Whether it waits or goes on. */
        public boolean open() {
            return status.equals("queued") || status.equals("going");
        }
    }
}
