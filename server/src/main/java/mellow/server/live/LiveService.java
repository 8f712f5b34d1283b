package mellow.server.live;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import javax.sql.DataSource;
import mellow.server.people.Doors;
import mellow.server.people.Doors.Seat;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.postgresql.PGNotification;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.SmartLifecycle;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Carries changes from the transaction that makes them to everyone who listens, on whatever server. PostgreSQL hands a notification out when its
 * transaction commits, never before and never for one that was rolled back.
 */
@Service
public class LiveService implements SmartLifecycle {

    private static final Logger LOG = LoggerFactory.getLogger(LiveService.class);
    private static final String CHANNEL = "mellow_live";
    /** How long one look for notifications lasts; also how often silent listeners are reminded that the line is up. */
    private static final int LOOK_MILLIS = 5_000;

    /** However much happens, those who may not listen any more are looked for as often. */
    private static final long LOOK_NANOS = LOOK_MILLIS * 1_000_000L;

    private static final int BEFORE_TRYING_AGAIN_MILLIS = 1_000;

    /** Hears what changed. Must not block. */
    interface Listener {

        /** A change, as the JSON that went through the database. */
        void changed(String json);

        /** Who listens, and where. */
        Seat seat();

        /** Nothing changed for a while. */
        void quiet();

        /** The line was down for a moment, so changes may have been missed. */
        void missed();

        /** The server is about to end. */
        void ending();
    }

    /** Hears what changed on behalf of others, whom it asks itself whether they may stay. Must not block. */
    public interface Ear {

        /** A change that was committed. */
        void changed(LiveChange change);

        /** Whatever there is may have changed. */
        void missed();
    }

    private final JdbcClient jdbc;
    private final Doors doors;
    private final DataSource database;
    private final JsonMapper json;
    private final Set<Listener> listeners = ConcurrentHashMap.newKeySet();
    private final Set<Ear> ears = ConcurrentHashMap.newKeySet();
    private volatile boolean running;
    private volatile @Nullable Thread ear;

    LiveService(JdbcClient jdbc, Doors doors, DataSource database, JsonMapper json) {
        this.jdbc = jdbc;
        this.doors = doors;
        this.database = database;
        this.json = json;
    }

    /** Tells everyone, once this transaction commits. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void tell(LiveChange change) {
        jdbc.sql("select cast(pg_notify(:channel, :payload) as text)")
                .param("channel", CHANNEL)
                .param("payload", json.writeValueAsString(change))
                .query((row, n) -> "")
                .list();
    }

    /** Has {@code ear} hear all changes from now on. */
    public void attend(Ear ear) {
        ears.add(ear);
    }

    void listen(Listener listener) {
        listeners.add(listener);
    }

    void leave(Listener listener) {
        listeners.remove(listener);
    }

    private void hear() {
        boolean first = true;
        while (running) {
            try (Connection connection = database.getConnection();
                    Statement statement = connection.createStatement()) {
                statement.execute("listen " + CHANNEL + "; listen " + Doors.CHANNEL);
                if (!first) {
                    listeners.forEach(Listener::missed);
                    ears.forEach(Ear::missed);
                }
                first = false;
                hear(connection.unwrap(PGConnection.class));
            } catch (SQLException | DataAccessException | TransactionException lineDown) {
                if (running) {
                    LOG.warn("The line for live changes is down, trying again: {}", lineDown.getMessage());
                    pause();
                }
            }
        }
    }

    private void hear(PGConnection connection) throws SQLException {
        long looked = System.nanoTime();
        while (running) {
            PGNotification[] heard = connection.getNotifications(LOOK_MILLIS);
            List<PGNotification> all = heard == null ? List.of() : Arrays.asList(heard);
            boolean doorsMoved = all.stream().anyMatch(one -> one.getName().equals(Doors.CHANNEL));
            if (doorsMoved || System.nanoTime() - looked > LOOK_NANOS) {
                endThoseWhoMayNotStay();
                looked = System.nanoTime();
            }
            if (all.isEmpty()) {
                listeners.forEach(Listener::quiet);
            }
            for (PGNotification one : all) {
                if (one.getName().equals(CHANNEL)) {
                    listeners.forEach(listener -> listener.changed(one.getParameter()));
                    if (!ears.isEmpty()) {
                        LiveChange change = json.readValue(one.getParameter(), LiveChange.class);
                        ears.forEach(ear -> ear.changed(change));
                    }
                }
            }
        }
    }

    private void endThoseWhoMayNotStay() {
        List<Listener> here = List.copyOf(listeners);
        if (here.isEmpty()) {
            return;
        }
        Set<Integer> staying = doors.mayStay(here.stream().map(Listener::seat).toList());
        for (int i = 0; i < here.size(); i++) {
            if (!staying.contains(i)) {
                listeners.remove(here.get(i));
                here.get(i).ending();
            }
        }
    }

    private void pause() {
        try {
            Thread.sleep(BEFORE_TRYING_AGAIN_MILLIS);
        } catch (InterruptedException ended) {
            Thread.currentThread().interrupt();
            running = false;
        }
    }

    @Override
    public void start() {
        running = true;
        Thread thread = new Thread(this::hear, "live");
        thread.setDaemon(true);
        ear = thread;
        thread.start();
    }

    @Override
    public void stop() {
        running = false;
        // Otherwise open streams would keep the server waiting for them.
        listeners.forEach(Listener::ending);
        Thread thread = ear;
        if (thread != null) {
            thread.interrupt();
        }
    }

    @Override
    public boolean isRunning() {
        return running;
    }
}
