package mellow.server.web;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import mellow.server.MellowServer;
import mellow.server.people.Level;
import mellow.server.support.Ledger;
import mellow.server.support.TestDatabase;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.context.SpringBootTest.WebEnvironment;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;

/** Senders who never finish, over a real port: they keep nobody else waiting. */
@SpringBootTest(classes = MellowServer.class, webEnvironment = WebEnvironment.RANDOM_PORT)
class SlowBodiesTest {

    @Autowired
    private Ledger ledger;

    @Value("${local.server.port}")
    private int port;

    private final List<Socket> open = new ArrayList<>();
    private String session = "";
    private String csrf = "";

    @DynamicPropertySource
    static void database(DynamicPropertyRegistry registry) {
        TestDatabase.register(registry);
    }

    @BeforeEach
    void someone() throws IOException {
        ledger.empty();
        ledger.coordinator("mara");
        String first = whole("GET /api/session", "", "");
        csrf = cookie(first, "XSRF-TOKEN");
        String in = whole(
                "POST /api/session",
                "Cookie: XSRF-TOKEN=" + csrf + "\r\n",
                "{\"signIn\":\"mara\",\"password\":\"ahoy-mara\"}");
        session = cookie(in, "MELLOW");
        csrf = cookie(whole("GET /api/session", "Cookie: MELLOW=" + session + "\r\n", ""), "XSRF-TOKEN");
    }

    @AfterEach
    void closed() throws IOException {
        for (Socket one : open) {
            one.close();
        }
    }

    private static String cookie(String reply, String name) {
        return reply.lines()
                .filter(line -> line.startsWith("Set-Cookie: " + name + "="))
                .reduce((earlier, later) -> later)
                .map(line -> line.substring(line.indexOf('=') + 1).replaceAll(";.*", ""))
                .orElse("");
    }

    private String signedIn() {
        return "Cookie: MELLOW=" + session + "; XSRF-TOKEN=" + csrf + "\r\n";
    }

    private Socket begun(String request, String headers, long length, String part) throws IOException {
        Socket socket = new Socket(InetAddress.getLoopbackAddress(), port);
        socket.setSoTimeout(30_000);
        open.add(socket);
        OutputStream out = socket.getOutputStream();
        String head = request + " HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n" + headers
                + (length > 0 ? "Content-Length: " + length + "\r\nX-XSRF-TOKEN: " + csrf + "\r\n" : "");
        boolean typed = headers.contains("Content-Type");
        out.write((head + (length > 0 && !typed ? "Content-Type: application/json\r\n" : "") + "\r\n" + part)
                .getBytes(StandardCharsets.UTF_8));
        out.flush();
        return socket;
    }

    private String whole(String request, String headers, String body) throws IOException {
        return reply(begun(request, headers, body.length(), body));
    }

    private static String reply(Socket socket) throws IOException {
        StringBuilder all = new StringBuilder();
        BufferedReader in = new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.UTF_8));
        for (String line = in.readLine(); line != null; line = in.readLine()) {
            all.append(line).append('\n');
        }
        return all.toString();
    }

    private String status(Socket socket) throws IOException {
        return new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.UTF_8)).readLine();
    }

    @Test
    void threeHundredSlowOnesAtTheDoorKeepNobodyWaitingWhoIsIn() throws Exception {
        for (int i = 0; i < 300; i++) {
            begun("POST /api/session", "Cookie: XSRF-TOKEN=" + csrf + "\r\n", 100, "{");
        }
        assertThat(whole("GET /api/tables", signedIn(), "")).startsWith("HTTP/1.1 200");
        String refused = reply(open.get(299));
        assertThat(refused).startsWith("HTTP/1.1 503").contains("too-many-at-once");
        // Those who wait are given up after ten seconds, and then others come in again.
        Awaitility.await()
                .atMost(Duration.ofSeconds(40))
                .pollInterval(Duration.ofSeconds(1))
                .until(() -> whole("POST /api/session", signedIn(), "{\"signIn\":\"mara\",\"password\":\"ahoy-mara\"}")
                        .startsWith("HTTP/1.1 200"));
    }

    @Test
    void aLargeBodyAtTheDoorIsRefusedByItsSize() throws Exception {
        assertThat(status(begun("POST /api/session", "", 20_000_000, "{"))).contains("413");
        assertThat(status(begun("POST /api/cells/changes", signedIn(), 20_000_000, "{")))
                .contains("413");
    }

    @Test
    void strangersFilesAreNotWaitedFor() throws Exception {
        String upload = "Content-Type: application/octet-stream\r\n";
        for (int i = 0; i < 300; i++) {
            begun("POST /api/intakes?name=a.csv", upload, 100_000_000, "key");
        }
        assertThat(whole("GET /api/tables", signedIn(), "")).startsWith("HTTP/1.1 200");
        assertThat(reply(open.get(open.size() - 2))).contains("403");
    }

    @Test
    void slowFilesHoldNoConnectionToTheDatabase() throws Exception {
        List<Socket> slow = new ArrayList<>();
        String upload = "Content-Type: application/octet-stream\r\n";
        for (int person = 0; person < 10; person++) {
            ledger.person("p" + person, "de", Level.CONTRIBUTOR);
            String first = whole("GET /api/session", "", "");
            String token = cookie(first, "XSRF-TOKEN");
            csrf = token;
            String in = whole(
                    "POST /api/session",
                    "Cookie: XSRF-TOKEN=" + token + "\r\n",
                    "{\"signIn\":\"p" + person + "\",\"password\":\"ahoy-p" + person + "\"}");
            String theirs = cookie(in, "MELLOW");
            csrf = cookie(whole("GET /api/session", "Cookie: MELLOW=" + theirs + "\r\n", ""), "XSRF-TOKEN");
            String cookies = "Cookie: MELLOW=" + theirs + "; XSRF-TOKEN=" + csrf + "\r\n";
            for (int i = 0; i < 4; i++) {
                slow.add(begun("POST /api/intakes?name=a.csv", cookies + upload, 1_000_000, "key,en\n"));
            }
        }
        for (int i = 0; i < 5; i++) {
            long begun = System.nanoTime();
            assertThat(whole("GET /api/tables", signedIn(), "")).startsWith("HTTP/1.1 200");
            assertThat(System.nanoTime() - begun).isLessThan(5_000_000_000L);
        }
        assertThat(
                        ledger.ask(
                                Integer.class,
                                "select count(*) from pg_stat_activity where datname = current_database() and state like 'idle in transaction%'"))
                .isZero();
        assertThat(slow).hasSize(40);
    }

    @Test
    void onePersonSendsSoManyFilesAtOnceAndNoMore() throws Exception {
        String upload = "Content-Type: application/octet-stream\r\n";
        for (int i = 0; i < 4; i++) {
            begun("POST /api/intakes?name=a.csv", signedIn() + upload, 1_000_000, "key,en\n");
        }
        Awaitility.await().until(() -> reply(begun("POST /api/intakes?name=a.csv", signedIn() + upload, 7, "key,en\n"))
                .contains("too-many-at-once"));
    }

    /** Whoever asks for a parameter would read a form to its end. */
    @Test
    void slowFormsAreNotRead() throws Exception {
        for (String type : List.of("application/x-www-form-urlencoded", "Multipart/form-data; boundary=x")) {
            for (String path : List.of("POST /api/session?a=1", "POST /api/session", "POST /api/tables?a=1")) {
                assertThat(status(begun(path, "Content-Type: " + type + "\r\n", 10_000, "a=")))
                        .contains("415");
            }
        }
    }
}
