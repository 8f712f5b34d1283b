package mellow.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;
import mellow.core.merge.Arrival;
import mellow.server.MellowServer;
import mellow.server.demo.DemoLoader;
import mellow.server.drafter.StandIn;
import mellow.server.intake.IntakeService;
import mellow.server.launch.PrivateCluster;
import mellow.server.people.PeopleService;
import mellow.server.run.RunService;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;

/** The whole product with its demo data on a port of its own, started once for all tests of a JVM and ended with it. */
final class DemoServer {

    /** Everybody's password in the demo. */
    static final String PASSWORD = "ahoy-ostrel";

    private static final Path DATA = folder();
    private static final PrivateCluster CLUSTER = PrivateCluster.throwaway(DATA);
    private static final PrivateCluster.Access DATABASE = CLUSTER.start();
    /** A drafting service, for tests that keep one. */
    static final StandIn DRAFTER = drafter();

    private static final ConfigurableApplicationContext FIRST = server();
    private static final String ADDRESS = loaded();

    private static @Nullable ConfigurableApplicationContext second;

    private DemoServer() {}

    static Browser browse() {
        return new Browser(ADDRESS);
    }

    /** A browser at a second server on the same database, which is started when it is first asked for. */
    static synchronized Browser browseSecond() {
        if (second == null) {
            second = server();
        }
        return new Browser(address(second));
    }

    private static String loaded() {
        Runtime.getRuntime().addShutdownHook(new Thread(() -> {
            FIRST.close();
            if (second != null) {
                second.close();
            }
            CLUSTER.stop();
            DRAFTER.close();
            delete(DATA);
        }));
        FIRST.getBean(DemoLoader.class).load(line -> {});
        return address(FIRST);
    }

    private static StandIn drafter() {
        try {
            return new StandIn(0, new StandIn.Manner("tide", 20, 0, 0, 7));
        } catch (IOException taken) {
            throw new UncheckedIOException(taken);
        }
    }

    private static ConfigurableApplicationContext server() {
        return new SpringApplicationBuilder(MellowServer.class)
                .registerShutdownHook(false)
                .properties(DATABASE.properties())
                .run(
                        "--server.port=0",
                        "--mellow.drafting.hosts=" + DRAFTER.authority(),
                        "--mellow.secret-key=MDEyMzQ1Njc4OTAxMjM0NTY3ODkwMTIzNDU2Nzg5MDE=");
    }

    /** Where the database is, as {@code MELLOW_DATABASE_URL} says it. */
    static String databaseUrl() {
        Map<String, Object> access = DATABASE.properties();
        return String.valueOf(access.get("spring.datasource.url"))
                .replace(
                        "jdbc:postgresql://",
                        "postgresql://" + access.get("spring.datasource.username") + ":"
                                + access.get("spring.datasource.password") + "@");
    }

    /** A part of the first server. */
    static <T> T part(Class<T> type) {
        return FIRST.getBean(type);
    }

    /** Takes a file in as the demo's coordinator, all of it settled. */
    static void takeIn(String table, String name, byte[] content) {
        takeIn("mirja", table, name, content, Arrival.SETTLED);
    }

    /** Takes a file in as somebody. */
    static void takeIn(String who, String table, String name, byte[] content, Arrival arrival) {
        IntakeService intakes = FIRST.getBean(IntakeService.class);
        long person = FIRST.getBean(PeopleService.class).find(who).orElseThrow().id();
        long intake = intakes.upload(person, name, content);
        boolean there = FIRST.getBean(TableService.class).all().stream()
                .anyMatch(listed -> listed.table().name().equals(table));
        String slug = table.toLowerCase(Locale.ROOT).replace(' ', '-');
        intakes.decide(person, intake, there ? slug : null, there ? null : table, arrival);
        intakes.apply(person, intake, RunService.Progress.UNWATCHED);
    }

    private static String address(ConfigurableApplicationContext server) {
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
