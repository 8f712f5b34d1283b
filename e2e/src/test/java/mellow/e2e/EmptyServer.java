package mellow.e2e;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import mellow.server.MellowServer;
import mellow.server.launch.PrivateCluster;
import mellow.server.people.PeopleService;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.util.FileSystemUtils;

/** The whole product with nothing in it but one coordinator, as somebody meets it on the first day. */
final class EmptyServer implements AutoCloseable {

    /** The coordinator's name to sign in. */
    static final String WHO = "asta";

    static final String PASSWORD = "ahoy-asta";

    private final Path data;
    private final PrivateCluster cluster;
    private final ConfigurableApplicationContext server;

    EmptyServer() throws IOException {
        data = Files.createTempDirectory("mellow-empty-");
        data.toFile().setExecutable(true, false);
        data.toFile().setReadable(true, false);
        cluster = PrivateCluster.throwaway(data);
        server = new SpringApplicationBuilder(MellowServer.class)
                .registerShutdownHook(false)
                .properties(cluster.start().properties())
                .run("--server.port=0");
        server.getBean(PeopleService.class).add(WHO, "Asta Rand", PASSWORD, true);
    }

    String address() {
        return "http://127.0.0.1:" + server.getEnvironment().getRequiredProperty("local.server.port");
    }

    Browser browse() {
        return new Browser(address());
    }

    @Override
    public void close() {
        server.close();
        cluster.stop();
        try {
            FileSystemUtils.deleteRecursively(data);
        } catch (IOException kept) {
            throw new UncheckedIOException(kept);
        }
    }
}
