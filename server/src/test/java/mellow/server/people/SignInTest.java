package mellow.server.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import mellow.server.MellowServer;
import mellow.server.support.Ledger;
import mellow.server.support.TestDatabase;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.context.SpringBootTest.WebEnvironment;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/** Signing in over a real port, with real cookies. */
@SpringBootTest(classes = MellowServer.class, webEnvironment = WebEnvironment.RANDOM_PORT)
class SignInTest {

    @Autowired
    private Ledger ledger;

    @Autowired
    private PeopleDesk desk;

    @Autowired
    private RequestMappingHandlerMapping requestMappingHandlerMapping;

    @Value("${local.server.port}")
    private int port;

    private CookieManager cookies = new CookieManager();
    private HttpClient http = HttpClient.newHttpClient();

    @DynamicPropertySource
    static void database(DynamicPropertyRegistry registry) {
        TestDatabase.register(registry);
    }

    @BeforeEach
    void someoneNew() {
        ledger.empty();
        ledger.coordinator("mara");
        cookies = new CookieManager();
        http = HttpClient.newBuilder().cookieHandler(cookies).build();
    }

    private HttpResponse<String> send(String method, String path, String body, boolean withToken)
            throws IOException, InterruptedException {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                .method(method, body.isEmpty() ? BodyPublishers.noBody() : BodyPublishers.ofString(body))
                .header("Content-Type", "application/json");
        if (withToken) {
            request.header("X-XSRF-TOKEN", cookie("XSRF-TOKEN"));
        }
        return http.send(request.build(), BodyHandlers.ofString());
    }

    private String cookie(String name) {
        return cookies.getCookieStore().getCookies().stream()
                .filter(cookie -> cookie.getName().equals(name))
                .map(HttpCookie::getValue)
                .findFirst()
                .orElse("");
    }

    private HttpResponse<String> signIn(String name, String password) throws IOException, InterruptedException {
        send("GET", "/api/session", "", false);
        return send("POST", "/api/session", "{\"signIn\":\"" + name + "\",\"password\":\"" + password + "\"}", true);
    }

    @Test
    void aSessionLivesInTheDatabaseAndEndsWithSigningOut() throws Exception {
        HttpResponse<String> in = signIn(" Mara ", "ahoy-mara");
        assertThat(in.statusCode()).isEqualTo(200);
        assertThat(in.headers().allValues("Set-Cookie")).anySatisfy(cookie -> assertThat(cookie)
                .contains("MELLOW=")
                .contains("HttpOnly")
                .contains("SameSite=Lax"));
        assertThat(ledger.ask(Integer.class, "select count(*) from spring_session where principal_name = 'mara'"))
                .isEqualTo(1);
        assertThat(send("GET", "/api/tables", "", false).statusCode()).isEqualTo(200);
        send("GET", "/api/session", "", false);
        assertThat(send("DELETE", "/api/session", "", true).statusCode()).isEqualTo(204);
        assertThat(send("GET", "/api/tables", "", false).statusCode()).isEqualTo(401);
        assertThat(ledger.ask(Integer.class, "select count(*) from spring_session where principal_name = 'mara'"))
                .isZero();
    }

    @Test
    void aWrongPasswordAndAnUnknownNameGetTheSameAnswer() throws Exception {
        assertThat(signIn("mara", "wrong").body())
                .isEqualTo(signIn("nobody", "wrong").body())
                .contains("do not belong together");
    }

    @Test
    void guessingIsSlowedDownWhereItHappens() throws Exception {
        for (int i = 0; i < 5; i++) {
            assertThat(signIn("mara", "wrong").statusCode()).isEqualTo(401);
        }
        // As if it were forty seconds earlier: however slow the machine is, the pause is not over.
        ledger.run("update attempt set last_at = now() + interval '40 seconds'");
        HttpResponse<String> paused = signIn("mara", "ahoy-mara");
        assertThat(paused.statusCode()).isEqualTo(429);
        assertThat(paused.body())
                .containsPattern("wait (3[0-9]|4[01]) seconds")
                .containsPattern("\"seconds\":(3[0-9]|4[01])");
        ledger.run("update attempt set failures = 9, last_at = now() + interval '40 seconds'");
        assertThat(signIn("mara", "ahoy-mara").body())
                .as("the pause grows")
                .containsPattern("wait (4[4-9]|5[0-6]) seconds");
        ledger.run("update attempt set last_at = now() - interval '20 seconds'");
        assertThat(signIn("mara", "ahoy-mara").statusCode()).isEqualTo(200);
        assertThat(ledger.ask(Integer.class, "select count(*) from attempt where failures > 8"))
                .as("one's own counter begins anew")
                .isLessThanOrEqualTo(1);
    }

    @Test
    void nobodyIsKeptOutByTheFailuresOfOthers() throws Exception {
        assertThat(signIn("mara", "ahoy-mara").statusCode()).isEqualTo(200);
        send("GET", "/api/session", "", false);
        send("DELETE", "/api/session", "", true);
        CookieManager marasBrowser = cookies;
        cookies = new CookieManager();
        http = HttpClient.newBuilder().cookieHandler(cookies).build();
        for (int i = 0; i < 12; i++) {
            signIn("mara", "wrong");
        }
        assertThat(signIn("mara", "ahoy-mara").statusCode()).isEqualTo(429);
        cookies = marasBrowser;
        http = HttpClient.newBuilder().cookieHandler(cookies).build();
        assertThat(signIn("mara", "ahoy-mara").statusCode())
                .as("in a browser that is known")
                .isEqualTo(200);
    }

    @Test
    void guessesAtInvitationsDoNotStopInvitations() throws Exception {
        send("GET", "/api/session", "", false);
        for (int i = 0; i < 20; i++) {
            assertThat(send("GET", "/api/invitations/guess" + i, "", false).statusCode())
                    .isEqualTo(404);
        }
    }

    @Test
    void theEndOfAccessEndsWhatIsBeingOpenedToo() throws Exception {
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        signIn("lina", "ahoy-lina");
        assertThat(send("GET", "/api/tables", "", false).statusCode()).isEqualTo(200);
        // What ending somebody's access does, while the session that is being opened is saved a moment later.
        ledger.run("update person set door = door + 1 where id = " + lina);
        HttpResponse<String> refused = send("GET", "/api/tables", "", false);
        assertThat(refused.statusCode()).isEqualTo(401);
        assertThat(refused.body()).contains("signed-out");
        assertThat(send("GET", "/api/session", "", false).body()).doesNotContain("lina");
        assertThat(ledger.ask(Integer.class, "select count(*) from spring_session where principal_name = 'lina'"))
                .isZero();
        signIn("lina", "ahoy-lina");
        ledger.run("update person set ended_at = now() where id = " + lina);
        assertThat(send("GET", "/api/board/left", "", false).statusCode()).isEqualTo(401);
    }

    @Test
    void endedByACoordinatorAtTheSameMomentNoSessionLives() throws Exception {
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        long mara = ledger.ask(Long.class, "select id from person where sign_in = 'mara'");
        var both = Executors.newFixedThreadPool(2);
        try {
            for (int round = 0; round < 4; round++) {
                cookies = new CookieManager();
                http = HttpClient.newBuilder().cookieHandler(cookies).build();
                var in = both.submit(() -> signIn("lina", "ahoy-lina"));
                var out = both.submit(() -> {
                    desk.end(mara, lina);
                    return 0;
                });
                in.get();
                out.get();
                assertThat(send("GET", "/api/tables", "", false).statusCode()).isEqualTo(401);
                desk.resume(mara, lina);
                assertThat(send("GET", "/api/tables", "", false).statusCode())
                        .as("nor after the access was given back")
                        .isEqualTo(401);
            }
        } finally {
            both.shutdown();
        }
    }

    /** A stream of what happens, which has begun: its first line was heard. */
    private BufferedReader listening() throws Exception {
        HttpRequest request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/live"))
                .build();
        HttpResponse<InputStream> reply =
                http.sendAsync(request, BodyHandlers.ofInputStream()).get(15, TimeUnit.SECONDS);
        BufferedReader lines = new BufferedReader(new InputStreamReader(reply.body(), StandardCharsets.UTF_8));
        assertThat(soon(lines::readLine)).contains("here");
        return lines;
    }

    private static <T> T soon(Callable<T> work) throws Exception {
        FutureTask<T> task = new FutureTask<>(work);
        new Thread(task, "soon").start();
        return task.get(15, TimeUnit.SECONDS);
    }

    private static void ends(BufferedReader stream) throws Exception {
        assertThat(soon(() -> stream.lines().count())).isNotNegative();
    }

    @Test
    void aStreamEndsWithTheSessionAndWithTheAccess() throws Exception {
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        long mara = ledger.ask(Long.class, "select id from person where sign_in = 'mara'");
        signIn("lina", "ahoy-lina");
        BufferedReader first = listening();
        send("DELETE", "/api/session", "", true);
        ends(first);
        signIn("lina", "ahoy-lina");
        BufferedReader second = listening();
        desk.end(mara, lina);
        ends(second);
    }

    @Test
    void whoHasNoRightSeesNothingButWhoTheyAre() throws Exception {
        long lina = ledger.person("lina", "de", Level.READER);
        ledger.run("delete from person_right where person_id = " + lina);
        assertThat(signIn("lina", "ahoy-lina").statusCode()).isEqualTo(200);
        for (String endpoint : endpoints()) {
            String[] part = endpoint.split(" ");
            String path = part[1].replaceAll("\\{(id|entry)}", "1").replaceAll("\\{\\w+}", "de");
            HttpResponse<String> reply = send(part[0], path, "", true);
            // Bundles, and what is shown on pages of others, are no person's: whoever is signed in gets as little as a
            // stranger.
            boolean bundle = path.startsWith("/api/bundles/");
            boolean shown = path.startsWith("/api/shown/");
            assertThat(reply.statusCode()).as(endpoint).isEqualTo(shown ? 404 : bundle ? 401 : 403);
            assertThat(reply.body())
                    .as(endpoint)
                    .contains(shown ? "not-shown" : bundle ? "no-bundle-token" : "no-right");
        }
        assertThat(send("GET", "/api/session", "", false).body()).contains("\"name\":\"LINA\"");
    }

    @Test
    void whoStaysKeepsTheCookieWhenTheBrowserIsClosed() throws Exception {
        send("GET", "/api/session", "", false);
        HttpResponse<String> in =
                send("POST", "/api/session", "{\"signIn\":\"mara\",\"password\":\"ahoy-mara\",\"stay\":true}", true);
        assertThat(in.headers().allValues("Set-Cookie"))
                .anySatisfy(cookie -> assertThat(cookie).contains("MELLOW=").contains("Max-Age"));
        assertThat(signIn("mara", "ahoy-mara").headers().allValues("Set-Cookie"))
                .filteredOn(cookie -> cookie.startsWith("MELLOW="))
                .allSatisfy(cookie -> assertThat(cookie).doesNotContain("Max-Age"));
    }

    private List<String> endpoints() {
        return requestMappingHandlerMapping.getHandlerMethods().keySet().stream()
                .flatMap(info -> info.getPatternValues().stream()
                        .flatMap(path ->
                                info.getMethodsCondition().getMethods().stream().map(method -> method + " " + path)))
                .filter(endpoint -> endpoint.contains(" /api/")
                        && !endpoint.contains(" /api/session")
                        && !endpoint.contains(" /api/invitations/"))
                .toList();
    }

    @Test
    void writesNeedTheTokenOfThePage() throws Exception {
        signIn("mara", "ahoy-mara");
        assertThat(send("DELETE", "/api/session", "", false).statusCode()).isEqualTo(403);
        assertThat(send("GET", "/api/session", "", false).body()).contains("\"signIn\":\"mara\"");
    }

    /** Lists every endpoint there is, so that a new one is refused to strangers or fails here. */
    @Test
    void nothingOfTheApiIsOpenToStrangers() throws Exception {
        List<String> endpoints = endpoints();
        assertThat(endpoints).hasSizeGreaterThan(12);
        send("GET", "/api/session", "", false);
        for (String endpoint : endpoints) {
            String[] part = endpoint.split(" ");
            String path = part[1].replaceAll("\\{(id|entry)}", "1").replaceAll("\\{\\w+}", "de");
            // Those that anybody may see are not there unless a coordinator says so.
            int expected = path.startsWith("/api/shown/") ? 404 : 401;
            assertThat(send(part[0], path, "", true).statusCode()).as(endpoint).isEqualTo(expected);
        }
    }

    /** A path that is spelled otherwise is the same path. */
    @Test
    void noSpellingOfAPathIsAnotherDoor() throws Exception {
        for (String path : List.of(
                "/%61pi/tables",
                "/ap%69/tables",
                "/api%2Ftables",
                "/%2fapi/tables",
                "/./api/tables",
                "/x/../api/tables",
                "//api/tables",
                "/api;x/tables",
                "/API/tables")) {
            HttpResponse<String> reply = send("GET", path, "", false);
            assertThat(reply.statusCode()).as(path).isBetween(400, 499);
            assertThat(reply.body()).as(path).doesNotContain("slug");
        }
        long lina = ledger.person("lina", "de", Level.READER);
        ledger.run("delete from person_right where person_id = " + lina);
        signIn("lina", "ahoy-lina");
        assertThat(send("GET", "/%61pi/tables", "", false).statusCode()).isEqualTo(403);
        assertThat(send("POST", "/%61pi/session", "{\"signIn\":\"" + "x".repeat(20_000) + "\"}", true)
                        .statusCode())
                .isEqualTo(413);
    }

    private HttpResponse<String> look(String path, String accept) throws IOException, InterruptedException {
        return http.send(
                HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                        .header("Accept", accept)
                        .build(),
                BodyHandlers.ofString());
    }

    @Test
    void anAddressThatIsNotThereIsAPageForPeopleAndAProblemForPrograms() throws Exception {
        String browser = "text/html,application/xhtml+xml,*/*;q=0.8";
        for (String path : List.of("/anything/unknown", "/ledger/deep/down", "/%6cedger/x")) {
            HttpResponse<String> page = look(path, browser);
            assertThat(page.statusCode()).as(path).isEqualTo(404);
            assertThat(page.body()).startsWith("<!");
            assertThat(page.headers().firstValue("Content-Type").orElse("")).startsWith("text/html");
            assertThat(page.headers().firstValue("Content-Security-Policy").orElse(""))
                    .contains("default-src 'none'");
            assertThat(look(path, "application/json").body()).startsWith("{");
        }
        assertThat(look("/api/unknown", browser).body()).doesNotStartWith("<");
        assertThat(look("/assets/gone.js", "*/*").body()).doesNotStartWith("<");
    }

    @Test
    void thePageHasAStrictPolicyWithAFreshNonce() throws Exception {
        String first = send("GET", "/ledger", "", false)
                .headers()
                .firstValue("Content-Security-Policy")
                .orElse("");
        String second = send("GET", "/ledger", "", false)
                .headers()
                .firstValue("Content-Security-Policy")
                .orElse("");
        assertThat(first)
                .contains("default-src 'none'")
                .contains("script-src 'self';")
                .doesNotContain("unsafe")
                .isNotEqualTo(second);
    }

    @Test
    void endingAccessForgetsItsSessionsAtOnce() throws Exception {
        long mara = ledger.coordinator("milo");
        long lina = ledger.person("lina", "de", Level.CONTRIBUTOR);
        signIn("lina", "ahoy-lina");
        assertThat(ledger.ask(Integer.class, "select count(*) from spring_session where principal_name = 'lina'"))
                .isEqualTo(1);
        desk.end(mara, lina);
        assertThat(ledger.ask(Integer.class, "select count(*) from spring_session where principal_name = 'lina'"))
                .isZero();
        assertThat(send("GET", "/api/tables", "", false).statusCode()).isEqualTo(401);
    }
}
