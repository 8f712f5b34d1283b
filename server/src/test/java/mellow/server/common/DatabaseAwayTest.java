package mellow.server.common;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.transaction.TransactionSystemException;

class DatabaseAwayTest {

    @ParameterizedTest
    @CsvSource({
        "08006, true",
        "08001, true",
        "57P01, true",
        "57P03, true",
        "57014, false",
        "23505, false",
        "40P01, false"
    })
    void isToldByTheState(String state, boolean away) {
        assertThat(DatabaseAway.is(new IllegalStateException(new RuntimeException(new SQLException("x", state)))))
                .isEqualTo(away);
    }

    @Test
    void isWhatNoConnectionIsHadForInTime() {
        assertThat(DatabaseAway.is(new RuntimeException(new SQLTransientConnectionException("none in 2 s"))))
                .isTrue();
    }

    @Test
    void isWhatCouldNotBeRolledBackAfterIt() {
        TransactionSystemException end = new TransactionSystemException("cannot roll back");
        end.initApplicationException(new RuntimeException(new SQLException("x", "57P01")));
        assertThat(DatabaseAway.is(end)).isTrue();
    }

    @Test
    void isNothingElse() {
        assertThat(DatabaseAway.is(new SQLException("no state"))).isFalse();
        assertThat(DatabaseAway.is(new IllegalArgumentException("x"))).isFalse();
    }
}
