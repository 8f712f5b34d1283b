package mellow.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;
import mellow.server.MellowServer;
import mellow.server.demo.DemoLoader;
import mellow.server.launch.PrivateCluster;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/** The whole product with its demo data on a port of its own, started once for all tests of a JVM and ended with it. */
final class DemoServer {

    /** Everybody's password in the demo. */
    static final String PASSWORD = "ahoy-ostrel";

    private static final String ADDRESS = start();

    private DemoServer() {}

    static Browser browse() {
        return new Browser(ADDRESS);
    }

    private static String start() {
        Path data = folder();
        PrivateCluster cluster = new PrivateCluster(data);
        PrivateCluster.Access access = cluster.start();
        ConfigurableApplicationContext server = new SpringApplicationBuilder(MellowServer.class)
                .registerShutdownHook(false)
                .properties(access.properties())
                .run("--server.port=0");
        Runtime.getRuntime().addShutdownHook(new Thread(() -> {
            server.close();
            cluster.stop();
            delete(data);
        }));
        server.getBean(DemoLoader.class).load(line -> {});
        return "http://127.0.0.1:" + server.getEnvironment().getRequiredProperty("local.server.port");
    }

    private static Path folder() {
        try {
            Path data = Files.createTempDirectory("mellow-e2e-");
            data.toFile().setExecutable(true, false);
            data.toFile().setReadable(true, false);
            return data;
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
