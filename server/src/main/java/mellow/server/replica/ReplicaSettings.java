package mellow.server.replica;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import javax.sql.DataSource;
import org.springframework.beans.factory.config.BeanPostProcessor;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.env.Environment;

/** Puts the replica beside the database where {@code mellow.bundles.replica.url} names one; without it nothing is put between the server and its database. */
@Configuration
class ReplicaSettings {

    private static final int CONNECTIONS = 8;
    /** Whoever waits longer for a replica is better off without. */
    private static final int CONNECT_MILLIS = 500;

    private static final String SOCKET_SECONDS = "5";

    @Bean
    static BeanPostProcessor replicaBesideTheDatabase(Environment environment) {
        return new BeanPostProcessor() {
            @Override
            public Object postProcessAfterInitialization(Object bean, String name) {
                String url = environment.getProperty("mellow.bundles.replica.url", "");
                return bean instanceof DataSource database && !url.isBlank()
                        ? new BothDatabases(database, pool(url, environment))
                        : bean;
            }
        };
    }

    private static HikariDataSource pool(String url, Environment environment) {
        HikariConfig config = new HikariConfig();
        config.setPoolName("replica");
        config.setJdbcUrl(url);
        config.setUsername(environment.getProperty("mellow.bundles.replica.username", ""));
        config.setPassword(environment.getProperty("mellow.bundles.replica.password", ""));
        config.setMaximumPoolSize(CONNECTIONS);
        config.setMinimumIdle(0);
        config.setIdleTimeout(60_000);
        config.setConnectionTimeout(CONNECT_MILLIS);
        config.setValidationTimeout(CONNECT_MILLIS / 2);
        // A server starts without its replica, too.
        config.setInitializationFailTimeout(-1);
        config.setReadOnly(true);
        config.setConnectionInitSql("set statement_timeout = '30s'");
        config.addDataSourceProperty("ApplicationName", "mellow-ledger replica");
        config.addDataSourceProperty("connectTimeout", "1");
        config.addDataSourceProperty("socketTimeout", SOCKET_SECONDS);
        return new HikariDataSource(config);
    }
}
