package mellow.core.plan;

import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * When what is left will be done, at the pace of the last weeks.
 *
 * <p>The pace is the median of the slopes between all pairs of days (Theil and Sen's estimator): one bulk import or one quiet week does not move it.
 * The range comes from the quartiles of the same slopes. Cost: O(n²) for n days, at most {@value #WINDOW_DAYS}.
 *
 * @param pace what is done per day, more than 0
 * @param expected the day on which nothing is left at that pace
 * @param earliest the day at the upper quartile of the pace
 * @param latest the day at the lower quartile, null when at that pace it never ends
 */
public record Forecast(double pace, LocalDate expected, LocalDate earliest, @Nullable LocalDate latest) {

    /** Days that are looked back. */
    public static final int WINDOW_DAYS = 35;

    /** A forecast needs days this far apart. */
    static final int SHORTEST_SPAN_DAYS = 7;

    static final int FEWEST_POINTS = 4;
    /** Beyond five years a date says nothing. */
    private static final int LONGEST_DAYS = 5 * 365;

    /**
     * What was left on a day.
     *
     * @param day the day
     * @param left what was left at its end, 0 or more
     */
    public record Point(LocalDate day, long left) {}

    /**
     * Looks ahead from {@code points}.
     *
     * @param points in order of days, at most one per day; older ones than {@value #WINDOW_DAYS} days before the last are not used
     * @return empty when nothing is left, when there are too few days, or when there is no pace to speak of
     */
    public static Optional<Forecast> from(List<Point> points) {
        if (points.isEmpty()) {
            return Optional.empty();
        }
        Point last = points.get(points.size() - 1);
        List<Point> recent = points.stream()
                .filter(point -> ChronoUnit.DAYS.between(point.day(), last.day()) <= WINDOW_DAYS)
                .toList();
        boolean tooShort = recent.size() < FEWEST_POINTS
                || ChronoUnit.DAYS.between(recent.get(0).day(), last.day()) < SHORTEST_SPAN_DAYS;
        if (last.left() == 0 || tooShort) {
            return Optional.empty();
        }
        List<Double> paces = paces(recent);
        double pace = quantile(paces, 0.5);
        Optional<LocalDate> expected = day(last, pace);
        return expected.map(day -> new Forecast(
                pace,
                day,
                day(last, quantile(paces, 0.75)).orElse(day),
                day(last, quantile(paces, 0.25)).orElse(null)));
    }

    private static Optional<LocalDate> day(Point last, double pace) {
        double days = Math.ceil(last.left() / pace);
        return pace > 0 && days <= LONGEST_DAYS ? Optional.of(last.day().plusDays((long) days)) : Optional.empty();
    }

    private static List<Double> paces(List<Point> points) {
        List<Double> paces = new ArrayList<>();
        for (int i = 0; i < points.size(); i++) {
            for (int j = i + 1; j < points.size(); j++) {
                long days = ChronoUnit.DAYS.between(
                        points.get(i).day(), points.get(j).day());
                paces.add((points.get(i).left() - points.get(j).left()) / (double) days);
            }
        }
        Collections.sort(paces);
        return paces;
    }

    /** Linear interpolation between the order statistics, as in Hyndman and Fan's definition 7. */
    private static double quantile(List<Double> sorted, double share) {
        double at = share * (sorted.size() - 1);
        int below = (int) Math.floor(at);
        int above = Math.min(below + 1, sorted.size() - 1);
        return sorted.get(below) + (at - below) * (sorted.get(above) - sorted.get(below));
    }
}
