package mellow.core.delivery;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;

/**
 * When something happens by itself: every so many hours, counted from midnight, or at times of the day; as the clocks of a zone show it. A time that a change to
 * daylight saving leaves out comes as much later as the clocks jump; one that comes twice happens the first time.
 *
 * @param everyHours 0 where times are given; from 24 on counted from the last time
 * @param times of the day; empty where hours are given
 */
public record Schedule(int everyHours, List<LocalTime> times, ZoneId zone) {

    private static final int HOURS_OF_A_DAY = 24;

    public Schedule {
        times = times.stream().sorted().distinct().toList();
        if ((everyHours > 0) != times.isEmpty()) {
            throw new IllegalArgumentException("either hours or times");
        }
    }

    /** The first time after {@code now}. */
    public Instant next(Instant now) {
        if (everyHours >= HOURS_OF_A_DAY) {
            return now.plus(Duration.ofHours(everyHours));
        }
        LocalDate today = now.atZone(zone).toLocalDate();
        return candidates().stream()
                .flatMap(time -> List.of(today, today.plusDays(1), today.plusDays(2)).stream()
                        .map(day -> day.atTime(time).atZone(zone).toInstant()))
                .filter(at -> at.isAfter(now))
                .min(Instant::compareTo)
                .orElseThrow();
    }

    private List<LocalTime> candidates() {
        if (everyHours == 0) {
            return times;
        }
        List<LocalTime> hours = new ArrayList<>();
        for (int hour = 0; hour < HOURS_OF_A_DAY; hour += everyHours) {
            hours.add(LocalTime.of(hour, 0));
        }
        return hours;
    }
}
