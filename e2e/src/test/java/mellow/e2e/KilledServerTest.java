package mellow.e2e;

import static org.assertj.core.api.Assertions.assertThat;

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
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A server is killed in the middle of taking a file in: nothing half of it is there, and another server begins it anew by itself. */
class KilledServerTest {

    private static final int ENTRIES = 30_000;
    private static final int SET_KEYS = 4_000;
    private static final int DELIVERED = 4_000;
    private static final String DELIVERIES = "/api/products/davits/deliveries";
    private static final Duration PATIENCE = Duration.ofMinutes(3);

    @TempDir
    private Path folder;

    /** A signed-in coordinator at a server. */
    private static final class Person {
        private final CookieManager cookies = new CookieManager();
        private final HttpClient http =
                HttpClient.newBuilder().cookieHandler(cookies).build();
        private final String address;

        Person(String address) throws IOException, InterruptedException {
            this.address = address;
            send("GET", "/api/session", "", "application/json");
            send(
                    "POST",
                    "/api/session",
                    "{\"signIn\":\"mirja\",\"password\":\"" + DemoServer.PASSWORD + "\"}",
                    "application/json");
        }

        JsonNode send(String method, String path, String body, String type) throws IOException, InterruptedException {
            String csrf = cookies.getCookieStore().getCookies().stream()
                    .filter(cookie -> cookie.getName().equals("XSRF-TOKEN"))
                    .map(HttpCookie::getValue)
                    .findFirst()
                    .orElse("");
            HttpRequest request = HttpRequest.newBuilder(URI.create(address + path))
                    .header("Content-Type", type)
                    .header("X-XSRF-TOKEN", csrf)
                    .method(method, BodyPublishers.ofString(body))
                    .build();
            String reply = http.send(request, BodyHandlers.ofString()).body();
            return JsonMapper.shared().readTree(reply.isEmpty() ? "{}" : reply);
        }

        byte[] bytes(String path) throws IOException, InterruptedException {
            HttpResponse<byte[]> reply =
                    http.send(HttpRequest.newBuilder(URI.create(address + path)).build(), BodyHandlers.ofByteArray());
            assertThat(reply.statusCode()).isEqualTo(200);
            return reply.body();
        }

        JsonNode intake(long id) throws IOException, InterruptedException {
            return send("GET", "/api/intakes/" + id, "", "application/json");
        }
    }

    private static void until(Callable<Boolean> condition) {
        Awaitility.await().atMost(PATIENCE).pollInterval(Duration.ofMillis(20)).until(condition);
    }

    @Test
    void leavesNothingHalfDoneAndAnotherServerGoesOn() throws Exception {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
        }
        StringBuilder csv = new StringBuilder("key,en,de,fi\n");
        for (int i = 0; i < ENTRIES; i++) {
            csv.append("anchor.")
                    .append(i)
                    .append(",Anchor ")
                    .append(i)
                    .append(",Anker ")
                    .append(i)
                    .append(",Ankkuri\n");
        }
        long id;
        ApartServer first = ApartServer.start(folder);
        try {
            Person mirja = new Person(first.address());
            id = mirja.send("POST", "/api/intakes?name=anchors.csv", csv.toString(), "application/octet-stream")
                    .path("id")
                    .asLong();
            mirja.send("POST", "/api/intakes/" + id + "/apply", "", "application/json");
            until(() -> mirja.intake(id).path("run").path("done").asInt() > 0);
        } finally {
            first.kill();
        }

        try (ApartServer second = ApartServer.start(folder)) {
            Person mirja = new Person(second.address());
            // Nothing of it is there, or another server has begun it anew and done all of it.
            JsonNode tables = mirja.send("GET", "/api/tables", "", "application/json");
            assertThat(tables.toString().contains("\"Anchors\""))
                    .isEqualTo(tables.toString().contains("\"entries\":" + ENTRIES));
            until(() -> mirja.intake(id).path("status").asString().equals("applied"));
            assertThat(mirja.intake(id).path("run").path("status").asString()).isEqualTo("done");
            assertThat(mirja.send("GET", "/api/tables", "", "application/json").toString())
                    .contains("\"name\":\"Anchors\"")
                    .contains("\"entries\":" + ENTRIES);
        }
    }

    @Test
    void ofASetNothingIsThereOrAllOfIt() throws Exception {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/intake");
        }
        List<String> tags = LanguageFiles.FORTY_NINE.subList(0, 12);
        long id;
        ApartServer first = ApartServer.start(folder);
        try {
            Person mirja = new Person(first.address());
            String drop = "/api/drops/"
                    + mirja.send("POST", "/api/drops", "", "application/json")
                            .path("id")
                            .asLong();
            for (Map.Entry<String, String> file :
                    LanguageFiles.yaml(tags, SET_KEYS).entrySet()) {
                mirja.send(
                        "POST",
                        drop + "/files?name=killed/" + file.getKey(),
                        file.getValue(),
                        "application/octet-stream");
            }
            mirja.send("POST", drop + "/sort", "", "application/json");
            until(() -> mirja.send("GET", drop, "", "application/json").has("intakes"));
            id = mirja.send("GET", drop, "", "application/json")
                    .path("intakes")
                    .get(0)
                    .path("id")
                    .asLong();
            mirja.send("POST", "/api/intakes/" + id + "/apply", "", "application/json");
            until(() -> mirja.intake(id).path("run").path("done").asInt() > tags.size());
        } finally {
            first.kill();
        }

        try (ApartServer second = ApartServer.start(folder)) {
            Person mirja = new Person(second.address());
            until(() -> mirja.intake(id).path("status").asString().equals("applied"));
            JsonNode report = mirja.intake(id).path("report");
            assertThat(report.path("languages").size()).isEqualTo(tags.size() - 1);
            assertThat(report.path("languages").path("de").path("settled").asInt())
                    .isEqualTo(SET_KEYS);
            mirja.send("POST", "/api/intakes/" + id + "/undo", "", "application/json");
            until(() -> mirja.intake(id).path("status").asString().equals("undone"));
            assertThat(mirja.send("GET", "/api/tables", "", "application/json").toString())
                    .doesNotContain("\"Locales\"");
        }
    }

    /** What a server delivered another one tells with the same bytes, and delivers again with the same; one that was killed in the middle left nothing half done. */
    @Test
    void deliveriesAreTheSameOnEveryServer() throws Exception {
        try (Browser browser = DemoServer.browse()) {
            browser.go("/deliveries");
        }
        StringBuilder csv = new StringBuilder("key,en,de,fi\n");
        for (int i = 0; i < DELIVERED; i++) {
            csv.append("davit.%d,Davit %d,Davit %d an Bord,Taavetti %d\n".formatted(i, i, i, i));
        }
        DemoServer.takeIn("Davits", "davits.csv", csv.toString().getBytes(StandardCharsets.UTF_8));
        byte[] packed;
        ApartServer first = ApartServer.start(folder);
        try {
            Person mirja = new Person(first.address());
            mirja.send(
                    "POST",
                    "/api/products",
                    """
                    {"version":0,"name":"Davits","kind":"app","tables":["davits"],"languages":[{"tag":"de"},{"tag":"fi"}],"start":"de"}
                    """,
                    "application/json");
            for (String format : List.of("json", "po", "xlsx")) {
                mirja.send(
                        "POST",
                        "/api/products/davits/recipes",
                        """
                        {"name":"%1$s","active":true,"version":0,"settings":{"kind":"texts","format":"%1$s","files":"each","pattern":"{tag}.{ext}","which":"all","languages":[],
                        "texts":"pencilled","hole":"source","charset":"utf-8","delimiter":"comma","guard":false,"nested":false,"ascii":false,"prefix":"","namespace":"","numbers":false}}
                        """
                                .formatted(format),
                        "application/json");
            }
            mirja.send("POST", DELIVERIES, "", "application/json");
            until(() -> mirja.send("GET", DELIVERIES, "", "application/json").size() == 1);
            packed = mirja.bytes(DELIVERIES + "/1/archive");
            mirja.send("POST", DELIVERIES, "", "application/json");
            until(() -> mirja.send("GET", DELIVERIES + "/run", "", "application/json")
                            .path("done")
                            .asInt()
                    > 0);
        } finally {
            first.kill();
        }
        try (ApartServer second = ApartServer.start(folder)) {
            Person mirja = new Person(second.address());
            until(() -> mirja.send("GET", DELIVERIES, "", "application/json").size() == 2);
            JsonNode both = mirja.send("GET", DELIVERIES, "", "application/json");
            assertThat(both.get(0).path("number").asInt()).isEqualTo(2);
            assertThat(both.get(0).path("files").asInt()).isEqualTo(6);
            assertThat(both.get(0).path("contents")).isEqualTo(both.get(1).path("contents"));
            assertThat(mirja.bytes(DELIVERIES + "/1/archive")).isEqualTo(packed);
        }
    }
}
