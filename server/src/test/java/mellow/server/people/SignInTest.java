package mellow.server.people;

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
import java.util.List;
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
    private RequestMappingHandlerMapping requestMappingHandlerMapping;

    @Value("${local.server.port}")
    private int port;

    private CookieManager cookies = new CookieManager();
    private HttpClient http = HttpClient.newHttpClient();

    @DynamicPropertySource
    static void database(DynamicPropertyRegistry registry) {
        TestDatabase.access().properties().forEach((name, value) -> registry.add(name, () -> value));
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
    void attemptsAreLimitedPerName() throws Exception {
        assertThat(signIn("mara", "ahoy-mara").statusCode())
                .as("a right one is not counted")
                .isEqualTo(200);
        for (int i = 0; i < 10; i++) {
            assertThat(signIn("mara", "wrong").statusCode()).isEqualTo(401);
        }
        assertThat(signIn("mara", "ahoy-mara").statusCode()).isEqualTo(429);
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
        List<String> endpoints = requestMappingHandlerMapping.getHandlerMethods().keySet().stream()
                .flatMap(info -> info.getPatternValues().stream()
                        .flatMap(path ->
                                info.getMethodsCondition().getMethods().stream().map(method -> method + " " + path)))
                .filter(endpoint -> endpoint.contains(" /api/")
                        && !endpoint.contains(" /api/session")
                        && !endpoint.contains(" /api/invitations/"))
                .toList();
        assertThat(endpoints).hasSizeGreaterThan(12);
        send("GET", "/api/session", "", false);
        for (String endpoint : endpoints) {
            String[] part = endpoint.split(" ");
            String path = part[1].replaceAll("\\{(id|entry)}", "1").replaceAll("\\{\\w+}", "de");
            assertThat(send(part[0], path, "", true).statusCode()).as(endpoint).isEqualTo(401);
        }
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
}
