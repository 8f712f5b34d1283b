package mellow.server.replica;

import jakarta.persistence.PersistenceException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * A PostgreSQL that follows the one that is written to by streaming replication, to read from. It is never believed without a look: what it does not have yet, and all while it is
 * away, is read from the database itself by whoever asked.
 */
@Component
public class Replica implements DisposableBean {

    private static final Logger LOG = LoggerFactory.getLogger(Replica.class);
    /** Nobody waits for one that is away more often than that. */
    private static final Duration REST = Duration.ofSeconds(5);

    private static final String WRITTEN = "select pg_current_wal_insert_lsn()::text";
    private static final String IDENTITY = "select system_identifier from pg_control_system()";
    private static final String FOLLOWS =
            "select pg_is_in_recovery() and system_identifier = :identity from pg_control_system()";
    /** One whose database was replaced by another may have more than that and yet not the same; it receives nothing. */
    private static final String REPLAYED =
            """
            select coalesce(pg_last_wal_replay_lsn() >= cast(:written as pg_lsn), false)
              and exists (select from pg_stat_wal_receiver where pid is not null)
            """;

    private final @Nullable BothDatabases databases;
    private final JdbcClient jdbc;
    private final Clock clock;
    private volatile Now now;
    private volatile Instant restUntil = Instant.MIN;
    private volatile @Nullable Long identity;

    Replica(DataSource database, JdbcClient jdbc, Clock clock) {
        this.databases = database instanceof BothDatabases both ? both : null;
        this.jdbc = jdbc;
        this.clock = clock;
        this.now = new Now(Standing.UNASKED, clock.instant());
    }

    /** What came of it when it was asked last. */
    public enum Standing {
        /** Nobody asked since the server started. */
        UNASKED,
        /** It had what was asked for. */
        READ,
        /** It had not everything yet. */
        BEHIND,
        /** It does not answer, or follows another database. */
        AWAY
    }

    /** How it stands, since when. */
    public record Now(Standing standing, Instant since) {}

    /** How it stands on this server; empty where there is none. */
    public Optional<Now> now() {
        return databases == null ? Optional.empty() : Optional.of(now);
    }

    /**
     * Reads something that never changes.
     *
     * @param reading gives nothing where the replica does not have it yet
     * @return nothing where it must be read from the database itself
     */
    public <T> Optional<T> read(Supplier<Optional<T>> reading) {
        BothDatabases both = databases;
        // Within a transaction all is read over its connection, which is to the database itself.
        if (both == null
                || clock.instant().isBefore(restUntil)
                || TransactionSynchronizationManager.isActualTransactionActive()) {
            return Optional.empty();
        }
        long expected = identity();
        try {
            Optional<T> had = both.onReplica(() -> {
                requireFollowing(expected);
                return reading.get();
            });
            stands(had.isPresent() ? Standing.READ : Standing.BEHIND, "");
            return had;
        } catch (DataAccessException | PersistenceException | TransactionException | NotFollowingException away) {
            restUntil = clock.instant().plus(REST);
            stands(Standing.AWAY, String.valueOf(away.getMessage()));
            return Optional.empty();
        }
    }

    /** Reads something as it stands now: only where the replica has all that the database had when this was called. */
    public <T> Optional<T> readAsItStands(Supplier<T> reading) {
        if (databases == null || clock.instant().isBefore(restUntil)) {
            return Optional.empty();
        }
        String written = jdbc.sql(WRITTEN).query(String.class).single();
        return read(() -> jdbc.sql(REPLAYED)
                        .param("written", written)
                        .query(Boolean.class)
                        .single()
                ? Optional.of(reading.get())
                : Optional.empty());
    }

    private long identity() {
        Long known = identity;
        if (known == null) {
            known = jdbc.sql(IDENTITY).query(Long.class).single();
            identity = known;
        }
        return known;
    }

    private void requireFollowing(long expected) {
        if (!jdbc.sql(FOLLOWS).param("identity", expected).query(Boolean.class).single()) {
            throw new NotFollowingException();
        }
    }

    private void stands(Standing standing, String why) {
        Standing before = now.standing;
        if (before == standing) {
            return;
        }
        now = new Now(standing, clock.instant());
        if (standing == Standing.AWAY) {
            LOG.warn("The replica cannot be read; bundles come from the database itself: {}", why);
        } else if (before == Standing.AWAY) {
            LOG.warn("The replica answers again.");
        }
    }

    @Override
    public void destroy() {
        if (databases != null) {
            databases.close();
        }
    }

    /** What answers is no replica of this database. */
    private static final class NotFollowingException extends RuntimeException {

        private static final long serialVersionUID = 1L;

        NotFollowingException() {
            super("it does not follow this database; it is one of its own");
        }
    }
}
