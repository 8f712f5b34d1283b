package mellow.server.common;

import org.springframework.jdbc.core.simple.JdbcClient;

/** Runs, files that programs push and what is cleared at night may take longer than requests, whose questions to the database end after a minute. */
public final class LongWork {

    private LongWork() {}

    /** Lifts that limit until the transaction under way ends. */
    public static void mayTakeItsTime(JdbcClient jdbc) {
        jdbc.sql("set local statement_timeout = 0").update();
    }
}
