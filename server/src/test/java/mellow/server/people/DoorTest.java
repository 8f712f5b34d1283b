package mellow.server.people;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import mellow.server.people.Door.Entering;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.mock.web.MockHttpServletRequest;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.authentication.session.SessionAuthenticationStrategy;
import org.springframework.security.web.context.SecurityContextRepository;

/** How long a session holds. */
class DoorTest extends ServerTest {

    private static final Instant NOON = Instant.parse("2026-11-27T12:00:00Z");

    @Autowired
    private JdbcClient jdbc;

    private final MockHttpServletRequest request = new MockHttpServletRequest();
    private SignedIn mara = new SignedIn(0, "mara", "Mara");

    @BeforeEach
    void aPerson() {
        mara = new SignedIn(ledger.coordinator("mara"), "mara", "Mara");
    }

    @AfterEach
    void nobodyIsSignedIn() {
        SecurityContextHolder.clearContext();
    }

    private Door at(Duration later) {
        return new Door(
                mock(SecurityContextRepository.class),
                mock(SessionAuthenticationStrategy.class),
                jdbc,
                Clock.fixed(NOON.plus(later), ZoneOffset.UTC));
    }

    private void enter(boolean stay) {
        at(Duration.ZERO).enter(new Entering(mara, 0), stay, request, new MockHttpServletResponse());
    }

    private boolean holds(Duration later, boolean used) {
        return at(later).standing(mara, request.getSession(), used).isPresent();
    }

    @Test
    void unusedItEndsAfterHalfADay() {
        enter(false);
        assertThat(holds(Duration.ofHours(11), false)).isTrue();
        assertThat(holds(Duration.ofHours(13), false)).isFalse();
    }

    @Test
    void useKeepsItAndListeningDoesNot() {
        enter(false);
        assertThat(holds(Duration.ofHours(11), true)).isTrue();
        assertThat(holds(Duration.ofHours(22), true)).isTrue();
        assertThat(holds(Duration.ofHours(33), false)).isTrue();
        assertThat(holds(Duration.ofHours(35), true)).isFalse();
    }

    @Test
    void whoStaysHasTwoWeeksAndNobodyHasMore() {
        enter(true);
        assertThat(holds(Duration.ofDays(13), true)).isTrue();
        assertThat(holds(Duration.ofDays(14).plusSeconds(1), true)).isFalse();
        enter(false);
        for (int hours = 10; hours < 14 * 24; hours += 10) {
            assertThat(holds(Duration.ofHours(hours), true)).isTrue();
        }
        assertThat(holds(Duration.ofDays(14).plusSeconds(1), true)).isFalse();
    }

    @Test
    void aClosedDoorEndsItAndSoDoesTheEndOfAccess() {
        enter(true);
        ledger.run("update person set door = 1");
        assertThat(holds(Duration.ZERO, true)).isFalse();
        ledger.run("update person set door = 0");
        assertThat(holds(Duration.ZERO, true)).isTrue();
        ledger.run("update person set ended_at = now()");
        assertThat(holds(Duration.ZERO, true)).isFalse();
    }
}
