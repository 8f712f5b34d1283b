package mellow.server.web;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.concurrent.TimeUnit;
import mellow.server.common.Refusal;
import mellow.server.web.BodyFilter.Bounds;
import org.junit.jupiter.api.Test;
import org.springframework.mock.web.DelegatingServletInputStream;

class BoundedStreamTest {

    private static final Bounds BOUNDS = new Bounds(10_000, 60, 5, 100);

    private long seconds;

    private BoundedStream stream(int bytes) {
        return new BoundedStream(
                new DelegatingServletInputStream(new ByteArrayInputStream(new byte[bytes])),
                BOUNDS,
                () -> TimeUnit.SECONDS.toNanos(seconds));
    }

    @Test
    void whatIsWithinItsBoundsIsRead() throws IOException {
        assertThat(stream(10_000).readAllBytes()).hasSize(10_000);
    }

    @Test
    void whatIsLargerIsRefusedWhereItIs() {
        assertThatThrownBy(() -> stream(10_001).readAllBytes())
                .isInstanceOfSatisfying(
                        Refusal.class, refusal -> assertThat(refusal.code()).isEqualTo("body-too-large"));
    }

    @Test
    void aDripIsGivenUpAfterItsGrace() throws IOException {
        BoundedStream drip = stream(1_000);
        for (seconds = 1; seconds <= 5; seconds++) {
            assertThat(drip.read()).isZero();
        }
        seconds = 6;
        assertThatThrownBy(drip::read).isInstanceOfSatisfying(Refusal.class, refusal -> assertThat(refusal.code())
                .isEqualTo("too-slow"));
    }

    @Test
    void whatIsFastEnoughAndTakesTooLongIsGivenUp() throws IOException {
        BoundedStream steady = stream(10_000);
        byte[] piece = new byte[150];
        for (seconds = 1; seconds <= 60; seconds++) {
            assertThat(steady.read(piece)).isEqualTo(150);
        }
        seconds = 61;
        assertThatThrownBy(() -> steady.read(piece)).isInstanceOf(Refusal.class);
    }
}
