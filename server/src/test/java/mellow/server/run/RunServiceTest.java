package mellow.server.run;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.when;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.concurrent.CountDownLatch;
import mellow.server.support.ServerTest;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.test.context.bean.override.mockito.MockitoBean;

class RunServiceTest extends ServerTest {

    private static final Instant NOON = Instant.now().truncatedTo(ChronoUnit.SECONDS);

    @MockitoBean
    private Clock clock;

    @Autowired
    private RunService runs;

    private long mara;

    @BeforeEach
    void noon() {
        when(clock.instant()).thenReturn(NOON);
        mara = ledger.coordinator("mara");
    }

    private String status() {
        return runs.latest("test", 1).orElseThrow().status();
    }

    @Test
    void aServerThatWentSilentLeavesALostRun() {
        CountDownLatch end = new CountDownLatch(1);
        runs.start("test", 1, mara, progress -> awaited(end));
        assertThat(status()).isEqualTo("going");
        when(clock.instant()).thenReturn(NOON.plus(Duration.ofSeconds(60)));
        assertThat(status()).isEqualTo("lost");
        assertThat(runs.latest("test", 1).orElseThrow().message())
                .contains("nothing was changed, and it can be repeated");
        end.countDown();
        Awaitility.await().until(() -> status().equals("done"));
    }

    @Test
    void aFailureIsToldWithoutItsInnards() {
        runs.start("test", 1, mara, progress -> {
            throw new IllegalStateException("secret innards");
        });
        Awaitility.await().until(() -> status().equals("failed"));
        assertThat(runs.latest("test", 1).orElseThrow().message())
                .contains("nothing was changed")
                .doesNotContain("secret");
    }

    @Test
    void progressIsNotedNowAndThenAndNotAtEveryStep() {
        runs.start("test", 1, mara, progress -> {
            for (int step = 1; step <= 50; step++) {
                when(clock.instant()).thenReturn(NOON.plusMillis(10L * step));
                progress.at(step, 50);
            }
        });
        Awaitility.await().until(() -> status().equals("done"));
        assertThat(runs.latest("test", 1).orElseThrow().done()).isGreaterThan(0).isLessThan(50);
    }

    private static void awaited(CountDownLatch end) {
        try {
            end.await();
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
        }
    }
}
