package mellow.bench;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Optional;
import java.util.concurrent.Callable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Somebody who asks again while nobody answers. */
final class FaultsClient {

    static final String PASSWORD = "ahoy-bench";
    private static final long PATIENCE_MILLIS = 120_000;
    private static final JsonMapper JSON = new JsonMapper();

    private final String address;
    private final CookieManager cookies = new CookieManager();
    private final HttpClient http =
            HttpClient.newBuilder().cookieHandler(cookies).build();

    FaultsClient(String address) {
        this.address = address;
    }

    HttpResponse<byte[]> send(String method, String path, byte[] body, String type)
            throws IOException, InterruptedException {
        String token = cookies.getCookieStore().getCookies().stream()
                .filter(cookie -> cookie.getName().equals("XSRF-TOKEN"))
                .map(HttpCookie::getValue)
                .findFirst()
                .orElse("");
        return http.send(
                HttpRequest.newBuilder(URI.create(address + path))
                        .timeout(Duration.ofSeconds(30))
                        .header("X-XSRF-TOKEN", token)
                        .header("Content-Type", type)
                        .method(method, BodyPublishers.ofByteArray(body))
                        .build(),
                BodyHandlers.ofByteArray());
    }

    HttpResponse<byte[]> json(String method, String path, String body) throws IOException, InterruptedException {
        return send(method, path, body.getBytes(StandardCharsets.UTF_8), "application/json");
    }

    boolean signIn(String name) throws IOException, InterruptedException {
        json("GET", "/api/session", "");
        int status = json("POST", "/api/session", "{\"signIn\":\"" + name + "\",\"password\":\"" + PASSWORD + "\"}")
                .statusCode();
        json("GET", "/api/session", "");
        return status == 200;
    }

    static JsonNode read(HttpResponse<byte[]> response) {
        return JSON.readTree(response.body().length == 0 ? "{}".getBytes(StandardCharsets.UTF_8) : response.body());
    }

    /** Does something until it is done, however often somebody is ended meanwhile. */
    static <T> T until(String what, Callable<Optional<T>> attempt) throws InterruptedException {
        long end = System.currentTimeMillis() + PATIENCE_MILLIS;
        Exception last = null;
        while (System.currentTimeMillis() < end) {
            try {
                Optional<T> got = attempt.call();
                if (got.isPresent()) {
                    return got.get();
                }
            } catch (InterruptedException ended) {
                throw ended;
            } catch (Exception notYet) {
                last = notYet;
            }
            Thread.sleep(100);
        }
        throw new IllegalStateException("Nothing came of it: " + what, last);
    }

    /** An answer that says nothing. */
    static JsonNode nothing() {
        return JSON.createObjectNode();
    }
}
