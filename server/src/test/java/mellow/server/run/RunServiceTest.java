package mellow.server.run;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Duration;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import mellow.server.run.RunService.Progress;
import mellow.server.run.RunService.RunReply;
import mellow.server.support.ServerTest;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.transaction.PlatformTransactionManager;

class RunServiceTest extends ServerTest {

    @Autowired
    private RunService runs;

    @Autowired
    private JdbcClient jdbc;

    @Autowired
    private PlatformTransactionManager transactions;

    private long mara;

    @BeforeEach
    void aPerson() {
        mara = ledger.coordinator("mara");
    }

    private RunReply run(long subject) {
        return runs.latest("test", subject).orElseThrow();
    }

    private void until(String status, long subject) {
        Awaitility.await().until(() -> run(subject).status().equals(status));
    }

    private void add(String name) {
        ledger.run("insert into product (slug, name, kind, created_at) values ('" + name + "', '" + name
                + "', 'game', now())");
    }

    private boolean has(String name) {
        return ledger.ask(Boolean.class, "select exists (select 1 from product where name = '" + name + "')");
    }

    /** A run that a server which is gone left: its heart was last felt so many seconds ago. */
    private void left(long subject, String status, int attempts, int secondsAgo) {
        jdbc.sql(
                        """
                        insert into run (kind, subject, person_id, arguments, status, server, attempts, started_at, seen_at)
                        values ('test', :subject, :person, 'how', :status, :server, :attempts, now(), now() - make_interval(secs => :ago))
                        """)
                .param("subject", subject)
                .param("person", mara)
                .param("status", status)
                .param("server", UUID.randomUUID())
                .param("attempts", attempts)
                .param("ago", secondsAgo)
                .update();
    }

    @Test
    void whatIsDoneAndThatItIsDoneAreOneTransaction() {
        runs.handle("test", (order, progress) -> add("done-" + order.subject()));
        runs.start("test", 1, mara, "");
        until("done", 1);
        assertThat(has("done-1")).isTrue();
        runs.handle("test", (order, progress) -> {
            add("failed-2");
            throw new IllegalStateException("secret innards");
        });
        runs.start("test", 2, mara, "");
        until("failed", 2);
        assertThat(has("failed-2")).isFalse();
        assertThat(run(2).message()).contains("nothing was changed").doesNotContain("secret");
    }

    @Test
    void anotherServerBeginsAnewWhatASilentOneLeft() {
        AtomicInteger times = new AtomicInteger();
        runs.handle("test", (order, progress) -> {
            times.incrementAndGet();
            add(order.arguments());
        });
        left(1, "going", 1, 10);
        left(2, "queued", 1, 10);
        left(3, "going", 1, 4);
        runs.handle("test", (order, progress) -> {
            times.incrementAndGet();
            add(order.arguments() + order.subject());
        });
        runs.beat();
        until("done", 1);
        until("done", 2);
        assertThat(run(3).status()).as("its heart was felt").isEqualTo("going");
        runs.beat();
        assertThat(times).hasValue(2);
        assertThat(has("how1")).isTrue();
    }

    @Test
    void workThatEndsEveryServerIsGivenUp() {
        runs.handle("test", (order, progress) -> add("never"));
        left(1, "going", 3, 10);
        runs.beat();
        assertThat(run(1).status()).isEqualTo("lost");
        assertThat(run(1).message()).contains("nothing was changed, and it can be repeated");
        assertThat(has("never")).isFalse();
    }

    @Test
    void aServerThatSleptKeepsNothingOfWhatAnotherBeganAnew() throws Exception {
        CountDownLatch begun = new CountDownLatch(1);
        CountDownLatch wake = new CountDownLatch(1);
        runs.handle("test", (order, progress) -> {
            add("slept");
            begun.countDown();
            awaited(wake);
        });
        runs.start("test", 1, mara, "");
        begun.await();
        ledger.run("update run set server = '" + UUID.randomUUID() + "', attempts = 2");
        wake.countDown();
        Awaitility.await().during(Duration.ofMillis(300)).until(() -> !has("slept"));
        assertThat(run(1).status()).isEqualTo("going");
        ledger.run("delete from run");
    }

    @Test
    void aRunThatWaitsForAThreadIsNoneThatIsLost() throws Exception {
        CountDownLatch end = new CountDownLatch(1);
        AtomicInteger times = new AtomicInteger();
        runs.handle("test", (order, progress) -> {
            times.incrementAndGet();
            awaited(end);
        });
        for (long subject = 1; subject <= 3; subject++) {
            runs.start("test", subject, mara, "");
        }
        Awaitility.await().until(() -> times.get() == 2);
        assertThat(run(3).status()).isEqualTo("queued");
        ledger.run("update run set seen_at = now() - interval '8 seconds'");
        runs.beat();
        RunService other = new RunService(jdbc, Clock.systemUTC(), transactions, Duration.ofSeconds(5));
        other.handle("test", (order, progress) -> times.addAndGet(100));
        other.beat();
        assertThat(runs.startWhen("test", 3, mara, "", () -> true)).isFalse();
        end.countDown();
        until("done", 3);
        assertThat(times).hasValue(3);
        other.stop();
    }

    @Test
    void whatWaitsIsCancelledAtOnce() {
        CountDownLatch end = new CountDownLatch(1);
        runs.handle("test", (order, progress) -> {
            awaited(end);
            add("ran-" + order.subject());
        });
        for (long subject = 1; subject <= 3; subject++) {
            runs.start("test", subject, mara, "");
        }
        runs.cancel("test", 3);
        assertThat(run(3).status()).isEqualTo("cancelled");
        end.countDown();
        until("done", 2);
        until("done", 1);
        assertThat(has("ran-3")).isFalse();
    }

    @Test
    void whatGoesStopsAtItsNextStep() {
        CountDownLatch cancelled = new CountDownLatch(1);
        runs.handle("test", (order, progress) -> {
            add("half");
            awaited(cancelled);
            progress.at(1, 2);
        });
        runs.start("test", 1, mara, "");
        until("going", 1);
        runs.cancel("test", 1);
        cancelled.countDown();
        until("cancelled", 1);
        assertThat(has("half")).isFalse();
    }

    @Test
    void progressIsNotedNowAndThenAndNotAtEveryStep() {
        runs.handle("test", (order, progress) -> count(progress));
        runs.start("test", 1, mara, "");
        until("done", 1);
        assertThat(run(1).done()).isGreaterThan(0).isLessThan(50);
    }

    private static void count(Progress progress) {
        for (int step = 1; step <= 50; step++) {
            progress.at(step, 50);
        }
    }

    private static void awaited(CountDownLatch end) {
        try {
            end.await();
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    @Test
    void aKindThatNobodyKnowsFailsAndSaysSo() {
        runs.start("unheard-of", 1, mara, "");
        Awaitility.await().until(() -> Optional.of("failed")
                .equals(runs.latest("unheard-of", 1).map(RunReply::status)));
    }
}
