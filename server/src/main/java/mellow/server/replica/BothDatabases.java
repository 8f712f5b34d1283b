package mellow.server.replica;

import com.zaxxer.hikari.HikariDataSource;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.springframework.jdbc.datasource.DelegatingDataSource;

/** The database that is written to, and for whoever asks for it on the same thread, its replica. */
final class BothDatabases extends DelegatingDataSource {

    private final HikariDataSource replica;
    private final ThreadLocal<Boolean> onReplica = ThreadLocal.withInitial(() -> false);

    BothDatabases(DataSource database, HikariDataSource replica) {
        super(database);
        this.replica = replica;
    }

    @Override
    public Connection getConnection() throws SQLException {
        return onReplica.get() ? replica.getConnection() : super.getConnection();
    }

    /** Does something whose connections are those of the replica. */
    <T> T onReplica(Supplier<T> what) {
        onReplica.set(true);
        try {
            return what.get();
        } finally {
            onReplica.remove();
        }
    }

    /** Ends the connections to the replica; the database's are its own bean's to end. */
    void close() {
        replica.close();
    }
}
