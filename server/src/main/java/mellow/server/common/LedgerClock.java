package mellow.server.common;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** The time of day, unless a thread plays a past: then its work happens at the time that it says. */
public final class LedgerClock extends Clock {

    private final Clock day;
    private final ThreadLocal<@Nullable Instant> played = new ThreadLocal<>();

    /** A clock that goes with {@code day}. */
    public LedgerClock(Clock day) {
        this.day = day;
    }

    /** Does {@code work}, in this thread, as if it were {@code time} all the while. */
    public void at(Instant time, Runnable work) {
        Instant before = played.get();
        played.set(time);
        try {
            work.run();
        } finally {
            if (before == null) {
                played.remove();
            } else {
                played.set(before);
            }
        }
    }

    @Override
    public Instant instant() {
        return Objects.requireNonNullElseGet(played.get(), day::instant);
    }

    @Override
    public ZoneId getZone() {
        return day.getZone();
    }

    @Override
    public Clock withZone(ZoneId zone) {
        return new LedgerClock(day.withZone(zone));
    }
}
