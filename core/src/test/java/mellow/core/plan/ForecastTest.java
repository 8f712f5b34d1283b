package mellow.core.plan;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import mellow.core.plan.Forecast.Point;
import org.junit.jupiter.api.Test;

class ForecastTest {

    private static final LocalDate FIRST = LocalDate.of(2026, 9, 1);

    private static List<Point> daily(long... left) {
        List<Point> points = new ArrayList<>();
        for (int i = 0; i < left.length; i++) {
            points.add(new Point(FIRST.plusDays(i), left[i]));
        }
        return points;
    }

    private static LocalDate day(int days) {
        return FIRST.plusDays(days);
    }

    @Test
    void aSteadyPaceEndsOnItsDay() {
        Forecast forecast =
                Forecast.from(daily(100, 95, 90, 85, 80, 75, 70, 65)).orElseThrow();
        assertThat(forecast.pace()).isEqualTo(5.0);
        assertThat(forecast.expected()).isEqualTo(day(7 + 13));
        assertThat(forecast.earliest()).isEqualTo(forecast.expected());
        assertThat(forecast.latest()).isEqualTo(forecast.expected());
    }

    @Test
    void oneBulkImportDoesNotMoveIt() {
        Forecast forecast = Forecast.from(daily(300, 298, 296, 294, 292, 92, 90, 88, 86, 84, 82, 80, 78, 76))
                .orElseThrow();
        assertThat(forecast.pace()).isLessThan(20);
        assertThat(forecast.expected()).isAfter(day(13 + 4));
        assertThat(forecast.latest()).isNotNull().isAfter(forecast.earliest());
    }

    @Test
    void thereIsNoneWithoutAPace() {
        assertThat(Forecast.from(daily(50, 50, 50, 50, 50, 50, 50, 50, 50))).isEmpty();
        assertThat(Forecast.from(daily(50, 52, 54, 56, 58, 60, 62, 64, 66))).isEmpty();
        assertThat(Forecast.from(daily(1_000_000, 1_000_000, 999_999, 999_999, 999_999, 999_999, 999_998, 999_998)))
                .as("centuries away")
                .isEmpty();
    }

    @Test
    void thereIsNoneWithTooFewDays() {
        assertThat(Forecast.from(List.of())).isEmpty();
        assertThat(Forecast.from(daily(90, 80, 70))).isEmpty();
        assertThat(Forecast.from(daily(90, 80, 70, 60, 50, 40, 30)))
                .as("six days")
                .isEmpty();
    }

    @Test
    void whatIsDoneNeedsNone() {
        assertThat(Forecast.from(daily(70, 60, 50, 40, 30, 20, 10, 0))).isEmpty();
    }

    @Test
    void onlyTheLastWeeksCount() {
        List<Point> points = new ArrayList<>(List.of(new Point(FIRST.minusDays(200), 100_000)));
        points.addAll(daily(80, 78, 76, 74, 72, 70, 68, 66));
        assertThat(Forecast.from(points).orElseThrow().pace()).isEqualTo(2.0);
    }

    @Test
    void missingDaysAreNoHindrance() {
        List<Point> points =
                List.of(new Point(day(0), 60), new Point(day(4), 48), new Point(day(7), 39), new Point(day(10), 30));
        assertThat(Forecast.from(points).orElseThrow().expected()).isEqualTo(day(20));
    }

    @Test
    void aWaveringPaceHasNoLatestDay() {
        Forecast forecast =
                Forecast.from(daily(60, 61, 58, 60, 57, 59, 55, 58, 56)).orElseThrow();
        assertThat(forecast.earliest()).isBefore(forecast.expected());
        assertThat(forecast.latest() == null || forecast.latest().isAfter(forecast.expected()))
                .isTrue();
    }
}
