package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.awaitility.Awaitility;

/**
 * A server on the demo's database as a process of its own, started as people start it, to be killed.
 *
 * <p>It says itself where it is. Knocking at a port would tell less: a start tries its port before anything listens there, and
 * whoever knocks at a port that the system hands out may reach themselves.
 */
record ApartServer(Process process, int port) implements AutoCloseable {

    private static final Pattern PLACE = Pattern.compile("Mellow Ledger is at http://127\\.0\\.0\\.1:(\\d+)");
    private static final Duration PATIENCE = Duration.ofMinutes(3);

    /** Starts one on a port that is free, and waits until it answers; its data and its log are left in the folder. */
    static ApartServer start(Path folder) throws IOException {
        return start(folder, 0);
    }

    /** As {@link #start(Path)}, on a port that an earlier one had; 0 for any. */
    static ApartServer start(Path folder, int port) throws IOException {
        Path own = Files.createTempDirectory(folder, "server");
        Path log = own.resolve("log");
        ProcessBuilder builder = new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx512m",
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty("surefire.test.class.path", System.getProperty("java.class.path")),
                "mellow.server.launch.Mellow",
                "start",
                "--empty",
                "--port",
                Integer.toString(port),
                "--data",
                own.resolve("data").toString());
        builder.environment().putAll(Map.of("MELLOW_DATABASE_URL", DemoServer.databaseUrl()));
        Process process =
                builder.redirectErrorStream(true).redirectOutput(log.toFile()).start();
        int at = Awaitility.await()
                .atMost(PATIENCE)
                .pollInterval(Duration.ofMillis(50))
                .until(
                        () -> {
                            String said = Files.readString(log);
                            assertThat(process.isAlive()).as(said).isTrue();
                            Matcher place = PLACE.matcher(said);
                            return place.find() ? Integer.parseInt(place.group(1)) : 0;
                        },
                        found -> found > 0);
        return new ApartServer(process, at);
    }

    String address() {
        return "http://127.0.0.1:" + port;
    }

    /** As a power cut ends it. */
    void kill() throws InterruptedException {
        process.destroyForcibly().waitFor();
    }

    /** As an operator ends it. */
    @Override
    public void close() {
        process.destroy();
        try {
            if (!process.waitFor(1, TimeUnit.MINUTES)) {
                process.destroyForcibly();
            }
        } catch (InterruptedException interrupted) {
            process.destroyForcibly();
            Thread.currentThread().interrupt();
        }
    }
}
