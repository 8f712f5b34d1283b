package mellow.core.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** When something happens by itself, also on the days on which clocks are moved. */
class ScheduleTest {

    private static final ZoneId HELSINKI = ZoneId.of("Europe/Helsinki");

    @ParameterizedTest
    @CsvSource(
            textBlock =
                    """
                    2,  2026-11-28T05:10:00Z, 2026-11-28T06:00:00Z
                    2,  2026-11-28T06:00:00Z, 2026-11-28T08:00:00Z
                    5,  2026-11-28T19:00:00Z, 2026-11-28T22:00:00Z
                    24, 2026-11-28T05:10:00Z, 2026-11-29T05:10:00Z
                    # The night in which 03:00 becomes 04:00: what was to come at 03:00 comes at 04:00.
                    3,  2026-03-29T00:30:00Z, 2026-03-29T01:00:00Z
                    3,  2026-03-29T01:00:00Z, 2026-03-29T03:00:00Z
                    # The night in which 04:00 becomes 03:00: what comes at 03:00 comes once.
                    3,  2026-10-24T23:30:00Z, 2026-10-25T00:00:00Z
                    3,  2026-10-25T00:00:00Z, 2026-10-25T04:00:00Z
                    """)
    void everySoManyHoursFromMidnight(int hours, Instant now, Instant next) {
        assertThat(new Schedule(hours, List.of(), HELSINKI).next(now)).isEqualTo(next);
    }

    @ParameterizedTest
    @CsvSource(
            textBlock =
                    """
                    06:30 18:00, 2026-11-28T03:00:00Z, 2026-11-28T04:30:00Z
                    18:00 06:30, 2026-11-28T04:30:00Z, 2026-11-28T16:00:00Z
                    06:30 18:00, 2026-11-28T16:00:00Z, 2026-11-29T04:30:00Z
                    03:30,       2026-03-29T00:00:00Z, 2026-03-29T01:30:00Z
                    03:30,       2026-10-25T00:30:00Z, 2026-10-26T01:30:00Z
                    """)
    void atTimesOfTheDay(String times, Instant now, Instant next) {
        List<LocalTime> at =
                Arrays.stream(times.split(" ")).map(LocalTime::parse).toList();
        assertThat(new Schedule(0, at, HELSINKI).next(now)).isEqualTo(next);
    }

    @Test
    void isEitherHoursOrTimes() {
        assertThatThrownBy(() -> new Schedule(0, List.of(), HELSINKI)).isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new Schedule(2, List.of(LocalTime.NOON), HELSINKI))
                .isInstanceOf(IllegalArgumentException.class);
    }
}
