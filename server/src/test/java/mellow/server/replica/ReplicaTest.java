package mellow.server.replica;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import com.zaxxer.hikari.HikariDataSource;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;
import mellow.server.replica.Replica.Standing;
import mellow.server.support.TestDatabase;
import org.junit.jupiter.api.Test;
import org.springframework.dao.DataAccessResourceFailureException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DataSourceTransactionManager;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import org.springframework.transaction.support.TransactionTemplate;

/** When a replica is believed; that it gives the same texts is BundleReplicaTest's. */
class ReplicaTest {

    private static final DataSource DATABASE = new DriverManagerDataSource(
            TestDatabase.access().url(),
            TestDatabase.access().user(),
            TestDatabase.access().password());

    private Instant now = Instant.parse("2026-11-28T10:00:00Z");
    private final AtomicInteger tried = new AtomicInteger();
    private final AtomicInteger readings = new AtomicInteger();

    private Replica replica(HikariDataSource second) {
        BothDatabases both = new BothDatabases(DATABASE, second);
        return new Replica(both, JdbcClient.create(both), new Clock() {
            @Override
            public ZoneId getZone() {
                return ZoneOffset.UTC;
            }

            @Override
            public Clock withZone(ZoneId zone) {
                return this;
            }

            @Override
            public Instant instant() {
                return now;
            }
        });
    }

    private HikariDataSource second(boolean answers) throws SQLException {
        HikariDataSource second = mock();
        when(second.getConnection()).then(any -> {
            tried.incrementAndGet();
            if (answers) {
                return DATABASE.getConnection();
            }
            throw new SQLException("gone");
        });
        return second;
    }

    private Optional<String> reading() {
        readings.incrementAndGet();
        return Optional.of("text");
    }

    @Test
    void aDatabaseThatFollowsNothingIsNoReplica() throws Exception {
        Replica replica = replica(second(true));
        assertThat(replica.read(this::reading)).isEmpty();
        assertThat(readings).hasValue(0);
        assertThat(replica.now().orElseThrow().standing()).isEqualTo(Standing.AWAY);
    }

    @Test
    void nobodyWaitsAgainForOneThatWasAwayAMomentAgo() throws Exception {
        Replica replica = replica(second(false));
        assertThat(replica.read(this::reading)).isEmpty();
        assertThat(replica.readAsItStands(() -> "text")).isEmpty();
        now = now.plusMillis(4_999);
        assertThat(replica.read(this::reading)).isEmpty();
        assertThat(tried).hasValue(1);
        now = now.plusMillis(1);
        assertThat(replica.read(this::reading)).isEmpty();
        assertThat(tried).hasValue(2);
        assertThat(replica.now().orElseThrow())
                .isEqualTo(new Replica.Now(Standing.AWAY, Instant.parse("2026-11-28T10:00:00Z")));
    }

    /** A transaction has its connection already, to the database itself. */
    @Test
    void withinATransactionItIsNotAsked() throws Exception {
        Replica replica = replica(second(false));
        new TransactionTemplate(new DataSourceTransactionManager(DATABASE))
                .executeWithoutResult(
                        open -> assertThat(replica.read(this::reading)).isEmpty());
        assertThat(tried).hasValue(0);
        assertThat(replica.now().orElseThrow().standing()).isEqualTo(Standing.UNASKED);
    }

    @Test
    void withoutOneNothingIsAskedOrShown() {
        Replica replica = new Replica(DATABASE, JdbcClient.create(DATABASE), Clock.systemUTC());
        assertThat(replica.read(this::reading)).isEmpty();
        assertThat(replica.readAsItStands(() -> "text")).isEmpty();
        assertThat(replica.now()).isEmpty();
        assertThat(readings).hasValue(0);
    }

    /** What fails after the reading of the replica is over goes to the database itself again. */
    @Test
    void aConnectionThatBreaksLeavesTheThreadAsItWas() throws Exception {
        HikariDataSource gone = second(false);
        BothDatabases both = new BothDatabases(DATABASE, gone);
        try {
            both.onReplica(() -> {
                throw new DataAccessResourceFailureException("broken");
            });
        } catch (DataAccessResourceFailureException expected) {
            assertThat(JdbcClient.create(both)
                            .sql("select 1")
                            .query(Integer.class)
                            .single())
                    .isEqualTo(1);
        }
        assertThat(tried).hasValue(0);
    }
}
