package mellow.server.common;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;

/** Forgets what has had its time by statements that take as long as they need. */
public final class Clearing {

    private Clearing() {}

    /**
     * Runs statements, in the transaction under way.
     *
     * @param before the times that they name
     * @return how many rows that was
     */
    public static int run(JdbcClient jdbc, List<String> statements, Map<String, Instant> before) {
        LongWork.mayTakeItsTime(jdbc);
        int rows = 0;
        for (String statement : statements) {
            JdbcClient.StatementSpec step = jdbc.sql(statement);
            for (Map.Entry<String, Instant> time : before.entrySet()) {
                step = step.param(time.getKey(), time.getValue().atOffset(ZoneOffset.UTC));
            }
            rows += step.update();
        }
        return rows;
    }
}
