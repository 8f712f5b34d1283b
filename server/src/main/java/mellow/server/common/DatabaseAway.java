package mellow.server.common;

import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import org.springframework.transaction.TransactionSystemException;

/** Tells faults of a database that cannot be reached from all others: they pass by themselves. */
public final class DatabaseAway {

    /** What people read. Whether a write that was under way came through, nobody knows before the database is there again. */
    public static final String SENTENCE =
            "The database cannot be reached just now. Nothing is lost that was saved; look again in a moment.";

    public static final String CODE = "database-away";

    private DatabaseAway() {}

    /** SQLSTATE class 08, a connection that broke or was not had in time, and 57P: the database ends or starts. */
    public static boolean is(Throwable failed) {
        int depth = 0;
        for (Throwable cause = failed; cause != null && depth++ < 20; cause = cause.getCause()) {
            if (cause instanceof SQLTransientConnectionException) {
                return true;
            }
            if (cause instanceof TransactionSystemException end && end.getApplicationException() != null) {
                // What could not be rolled back either had broken before.
                return is(end.getApplicationException());
            }
            String state = cause instanceof SQLException sql ? sql.getSQLState() : null;
            if (state != null && (state.startsWith("08") || state.startsWith("57P"))) {
                return true;
            }
        }
        return false;
    }
}
