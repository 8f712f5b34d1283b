package mellow.server.common;

import java.sql.SQLException;
import java.util.concurrent.ThreadLocalRandom;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.PessimisticLockingFailureException;

/** Repeats work that PostgreSQL ended because it and another waited for each other: nothing of it was done, so nobody need know. */
public final class Deadlocks {

    private static final Logger LOG = LoggerFactory.getLogger(Deadlocks.class);
    private static final String DEADLOCK = "40P01";
    private static final int TRIES = 5;
    private static final int LONGEST_PAUSE_MILLIS = 60;

    private Deadlocks() {}

    /** Work that can be begun again. */
    @FunctionalInterface
    interface Repeatable<E extends Throwable> {
        @Nullable
        Object once() throws E;
    }

    /** Does {@code work}, up to five times. It must be a whole transaction. */
    public static void repeating(Runnable work) {
        repeat(() -> {
            work.run();
            return null;
        });
    }

    static <E extends Throwable> @Nullable Object repeat(Repeatable<E> work) throws E {
        for (int left = TRIES; ; left--) {
            try {
                return work.once();
            } catch (PessimisticLockingFailureException failed) {
                if (left <= 1 || !isDeadlock(failed)) {
                    throw failed;
                }
                LOG.info("Two transactions waited for each other; one is repeated");
                pause(failed);
            }
        }
    }

    private static void pause(PessimisticLockingFailureException failed) {
        try {
            Thread.sleep(ThreadLocalRandom.current().nextInt(1, LONGEST_PAUSE_MILLIS));
        } catch (InterruptedException ending) {
            Thread.currentThread().interrupt();
            throw failed;
        }
    }

    private static boolean isDeadlock(Throwable failed) {
        for (Throwable cause = failed; cause != null; cause = cause.getCause()) {
            if (cause instanceof SQLException sql && DEADLOCK.equals(sql.getSQLState())) {
                return true;
            }
        }
        return false;
    }
}
