package mellow.bench;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.Stream;
import mellow.server.MellowServer;
import mellow.server.launch.PrivateCluster;
import mellow.server.people.PeopleService;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.util.FileSystemUtils;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The whole product on a port and a database of its own, asked over HTTP as a browser asks. */
final class Product implements AutoCloseable {

    private static final String PASSWORD = "ahoy-bench";

    private final Path data;
    private final PrivateCluster cluster;
    private final PrivateCluster.Access access;
    private final ConfigurableApplicationContext server;
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http =
            HttpClient.newBuilder().cookieHandler(cookies).build();
    private final JsonMapper json = new JsonMapper();
    private final String address;
    private final AtomicBoolean closed = new AtomicBoolean();

    /** Starts it with some settings of its own, as arguments. */
    Product(String... settings) throws IOException, InterruptedException {
        data = Files.createTempDirectory("mellow-bench-");
        data.toFile().setExecutable(true, false);
        data.toFile().setReadable(true, false);
        cluster = new PrivateCluster(data);
        // Somebody may end a measurement before its time; neither database nor gigabytes stay behind.
        Runtime.getRuntime().addShutdownHook(new Thread(this::clear));
        access = cluster.start();
        server = new SpringApplicationBuilder(MellowServer.class, MaskTimer.class)
                .registerShutdownHook(false)
                .properties(access.properties())
                .run(Stream.concat(Stream.of("--server.port=0"), Stream.of(settings))
                        .toArray(String[]::new));
        address = "http://127.0.0.1:" + server.getEnvironment().getRequiredProperty("local.server.port");
        server.getBean(PeopleService.class).add("bench", "Bench", PASSWORD, true);
        get("/api/session");
        send("POST", "/api/session", "{\"signIn\":\"bench\",\"password\":\"" + PASSWORD + "\"}");
        get("/api/session");
    }

    /** Where it is, without a slash at the end. */
    String address() {
        return address;
    }

    /** A connection of one's own to the same database. */
    Connection database() throws SQLException {
        return DriverManager.getConnection(access.url(), access.user(), access.password());
    }

    byte[] get(String path) throws IOException, InterruptedException {
        return checked(
                http.send(HttpRequest.newBuilder(URI.create(address + path)).build(), BodyHandlers.ofByteArray()));
    }

    JsonNode json(byte[] body) {
        return json.readTree(body);
    }

    JsonNode send(String method, String path, String body) throws IOException, InterruptedException {
        return json(checked(http.send(
                request(path)
                        .method(method, BodyPublishers.ofString(body))
                        .header("Content-Type", "application/json")
                        .build(),
                BodyHandlers.ofByteArray())));
    }

    JsonNode upload(String name, byte[] content) throws IOException, InterruptedException {
        return bytes("/api/intakes?name=" + name, content);
    }

    JsonNode bytes(String path, byte[] content) throws IOException, InterruptedException {
        HttpRequest request = request(path)
                .POST(BodyPublishers.ofByteArray(content))
                .header("Content-Type", "application/octet-stream")
                .build();
        return json(checked(http.send(request, BodyHandlers.ofByteArray())));
    }

    private HttpRequest.Builder request(String path) {
        String token = cookies.getCookieStore().getCookies().stream()
                .filter(cookie -> cookie.getName().equals("XSRF-TOKEN"))
                .map(HttpCookie::getValue)
                .findFirst()
                .orElse("");
        return HttpRequest.newBuilder(URI.create(address + path)).header("X-XSRF-TOKEN", token);
    }

    private static byte[] checked(HttpResponse<byte[]> response) {
        if (response.statusCode() >= 300) {
            throw new UncheckedIOException(
                    new IOException(response.statusCode() + " " + new String(response.body(), StandardCharsets.UTF_8)));
        }
        return response.body();
    }

    @Override
    public void close() {
        server.close();
        clear();
    }

    private void clear() {
        if (closed.getAndSet(true)) {
            return;
        }
        cluster.stop();
        try {
            FileSystemUtils.deleteRecursively(data);
        } catch (IOException kept) {
            throw new UncheckedIOException(kept);
        }
    }
}
