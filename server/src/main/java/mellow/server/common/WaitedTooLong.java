package mellow.server.common;

import java.sql.SQLException;
import org.jspecify.annotations.Nullable;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.support.SQLExceptionTranslator;
import org.springframework.jdbc.support.SQLStateSQLExceptionTranslator;

/** Tells a lock that did not come in time by what it is. It is no SQL state of the standard, so that it would be none that anyone expects. */
@Configuration(proxyBeanMethods = false)
class WaitedTooLong {

    /** PostgreSQL's lock_not_available (its manual, appendix A). */
    private static final String LOCK_NOT_AVAILABLE = "55P03";

    @Bean
    SQLExceptionTranslator translator() {
        return new SQLStateSQLExceptionTranslator() {
            @Override
            protected @Nullable DataAccessException doTranslate(
                    String task, @Nullable String sql, SQLException failed) {
                return LOCK_NOT_AVAILABLE.equals(failed.getSQLState())
                        ? new CannotAcquireLockException(buildMessage(task, sql, failed), failed)
                        : super.doTranslate(task, sql, failed);
            }
        };
    }
}
