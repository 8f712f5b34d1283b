package mellow.server.support;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;
import mellow.server.launch.PrivateCluster;
import org.springframework.test.context.DynamicPropertyRegistry;

/** One private PostgreSQL cluster for all tests of a JVM, made fresh and removed at the end. */
public final class TestDatabase {

    private static final PrivateCluster.Access ACCESS = start();

    private TestDatabase() {}

    /** How to reach it. */
    public static PrivateCluster.Access access() {
        return ACCESS;
    }

    /** Has a test's server use it, with few connections: several servers of tests live at the same time. */
    public static void register(DynamicPropertyRegistry registry) {
        ACCESS.properties().forEach((name, value) -> registry.add(name, () -> value));
        registry.add("spring.datasource.hikari.maximum-pool-size", () -> "12");
        registry.add("spring.datasource.hikari.minimum-idle", () -> "1");
        registry.add("spring.datasource.hikari.idle-timeout", () -> "10000");
    }

    private static PrivateCluster.Access start() {
        try {
            Path data = Files.createTempDirectory("mellow-test-");
            // The postgres user has to pass through when the tests run as root.
            data.toFile().setExecutable(true, false);
            data.toFile().setReadable(true, false);
            PrivateCluster cluster = PrivateCluster.throwaway(data);
            Runtime.getRuntime().addShutdownHook(new Thread(() -> {
                cluster.stop();
                delete(data);
            }));
            return cluster.start();
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }

    private static void delete(Path folder) {
        try (Stream<Path> all = Files.walk(folder)) {
            all.sorted(Comparator.reverseOrder()).forEach(path -> path.toFile().delete());
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }
}
