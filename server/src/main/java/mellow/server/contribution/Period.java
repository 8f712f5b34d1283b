package mellow.server.contribution;

import java.time.Clock;
import java.time.LocalDate;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.Map;
import mellow.server.common.Refusal;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient.StatementSpec;

/**
 * Whole days, in UTC.
 *
 * @param from the first day
 * @param to the last day
 */
record Period(LocalDate from, LocalDate to) {

    private static final int USUAL_DAYS = 90;

    /** The days asked for; up to today, and 90 of them, where nothing is said. */
    static Period of(@Nullable LocalDate from, @Nullable LocalDate to, Clock clock) {
        LocalDate last = to == null ? LocalDate.now(clock.withZone(ZoneOffset.UTC)) : to;
        LocalDate first = from == null ? last.minusDays(USUAL_DAYS - 1L) : from;
        if (first.isAfter(last)) {
            throw Refusal.unacceptable(
                    "bad-period",
                    "The first day, {first}, comes after the last, {last}.",
                    Map.of("field", "from", "first", first, "last", last));
        }
        return new Period(first, last);
    }

    /** Fills in {@code :from} and {@code :until}, which is no longer part of it. */
    StatementSpec in(StatementSpec statement) {
        return statement.param("from", start(from)).param("until", start(to.plusDays(1)));
    }

    private static OffsetDateTime start(LocalDate day) {
        return day.atStartOfDay().atOffset(ZoneOffset.UTC);
    }
}
