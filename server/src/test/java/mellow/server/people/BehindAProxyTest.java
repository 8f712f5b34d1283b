package mellow.server.people;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import mellow.server.MellowServer;
import mellow.server.support.Ledger;
import mellow.server.support.TestDatabase;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.context.SpringBootTest.WebEnvironment;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** What a proxy that is trusted says of a request: where it came from, and that it came encrypted. */
@SpringBootTest(
        classes = MellowServer.class,
        webEnvironment = WebEnvironment.RANDOM_PORT,
        properties = {
            "server.forward-headers-strategy=native",
            "server.tomcat.remoteip.internal-proxies=127[.]0[.]0[.]1",
            "server.tomcat.remoteip.remote-ip-header=x-forwarded-for",
            "server.tomcat.remoteip.protocol-header=x-forwarded-proto"
        })
class BehindAProxyTest {

    @Autowired
    private Ledger ledger;

    @Value("${local.server.port}")
    private int port;

    @DynamicPropertySource
    static void database(DynamicPropertyRegistry registry) {
        TestDatabase.register(registry);
    }

    private HttpResponse<String> signIn(String from, String password) throws Exception {
        HttpRequest request = HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/session"))
                .header("Content-Type", "application/json")
                .header("X-Forwarded-For", from)
                .header("X-Forwarded-Proto", "https")
                .header("Cookie", "XSRF-TOKEN=token")
                .header("X-XSRF-TOKEN", "token")
                .POST(HttpRequest.BodyPublishers.ofString("{\"signIn\":\"mara\",\"password\":\"" + password + "\"}"))
                .build();
        return HttpClient.newHttpClient().send(request, BodyHandlers.ofString());
    }

    @Test
    void addressesAreToldApartAndWhatCameEncryptedStaysSo() throws Exception {
        ledger.empty();
        ledger.coordinator("mara");
        for (int i = 0; i < 6; i++) {
            signIn("203.0.113.7", "wrong");
        }
        assertThat(signIn("203.0.113.7", "ahoy-mara").statusCode()).isEqualTo(429);
        HttpResponse<String> elsewhere = signIn("203.0.113.8", "ahoy-mara");
        assertThat(elsewhere.statusCode()).isEqualTo(200);
        assertThat(elsewhere.headers().allValues("Set-Cookie"))
                .filteredOn(cookie -> cookie.startsWith("MELLOW"))
                .isNotEmpty()
                .allSatisfy(cookie -> assertThat(cookie).contains("Secure").contains("HttpOnly"));
        assertThat(elsewhere.headers().firstValue("Strict-Transport-Security")).isPresent();
    }
}
