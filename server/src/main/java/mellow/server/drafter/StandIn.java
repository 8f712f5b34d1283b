package mellow.server.drafter;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicInteger;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Answers by the protocol in docs/drafting.md on a port of the loopback address; slow, busy, failing and losing marks as it is told. */
public final class StandIn implements AutoCloseable {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final int THREADS = 8;
    private static final int OK = 200;
    private static final int BAD = 400;
    private static final int UNKNOWN = 401;
    private static final int BUSY = 503;

    private final Manner manner;
    private final WordList words = new WordList();
    private final HttpServer server;
    private final ExecutorService threads = Executors.newFixedThreadPool(THREADS);
    private final AtomicInteger requests = new AtomicInteger();
    private final AtomicInteger texts = new AtomicInteger();

    /**
     * How it behaves.
     *
     * @param secret that it wants with each request, empty for none
     * @param slowMillis before each answer
     * @param failEvery of so many texts one is not drafted; 0 for none
     * @param loseEvery of so many texts one comes back without its marks; 0 for none
     * @param busyEvery of so many requests one is answered as too busy; 0 for none
     */
    public record Manner(String secret, int slowMillis, int failEvery, int loseEvery, int busyEvery) {}

    /**
     * Starts it.
     *
     * @param port 0 for any
     * @throws IOException when the port is in use
     */
    public StandIn(int port, Manner manner) throws IOException {
        this.manner = manner;
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), port), 0);
        server.setExecutor(threads);
        server.createContext("/", this::answer);
        server.start();
    }

    /** Its host and port. */
    public String authority() {
        return "127.0.0.1:" + server.getAddress().getPort();
    }

    /** How many texts it was asked for. */
    public int asked() {
        return texts.get();
    }

    private void answer(HttpExchange exchange) throws IOException {
        byte[] body = exchange.getRequestBody().readAllBytes();
        try (exchange) {
            if (manner.slowMillis > 0) {
                Thread.sleep(manner.slowMillis);
            }
            if (every(requests.incrementAndGet(), manner.busyEvery)) {
                exchange.getResponseHeaders().set("Retry-After", "1");
                reply(exchange, BUSY, Map.of());
            } else if (!manner.secret.isEmpty()
                    && !("Bearer " + manner.secret)
                            .equals(exchange.getRequestHeaders().getFirst("Authorization"))) {
                reply(exchange, UNKNOWN, Map.of());
            } else {
                JsonNode question = JSON.readTree(body);
                List<Map<String, String>> drafts = new ArrayList<>();
                question.path("texts")
                        .forEach(text ->
                                drafts.add(draft(text, question.path("to").asString(""))));
                reply(exchange, OK, Map.of("drafts", drafts));
            }
        } catch (JacksonException none) {
            reply(exchange, BAD, Map.of());
        } catch (InterruptedException ending) {
            Thread.currentThread().interrupt();
        }
    }

    private Map<String, String> draft(JsonNode text, String to) {
        Map<String, String> draft = new LinkedHashMap<>();
        draft.put("id", text.path("id").asString(""));
        int number = texts.incrementAndGet();
        if (every(number, manner.failEvery)) {
            draft.put("failure", "This stand-in does not draft one text in " + manner.failEvery + ".");
            return draft;
        }
        String source = text.path("text").asString("");
        for (JsonNode term : text.path("terms")) {
            String agreed = term.path("text").asString("");
            if (!agreed.isEmpty()) {
                source = source.replace(term.path("term").asString(""), agreed);
            }
        }
        String drafted = words.draft(source, to).orElse(source);
        if (every(number, manner.loseEvery)) {
            for (JsonNode mark : text.path("marks")) {
                drafted = drafted.replace(mark.asString(""), "");
            }
        }
        draft.put("text", drafted);
        return draft;
    }

    private static boolean every(int number, int of) {
        return of > 0 && number % of == 0;
    }

    private static void reply(HttpExchange exchange, int status, Object body) throws IOException {
        byte[] bytes = JSON.writeValueAsString(body).getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders().set("Content-Type", "application/json");
        exchange.sendResponseHeaders(status, bytes.length);
        exchange.getResponseBody().write(bytes);
    }

    /** Ends it at once. */
    @Override
    public void close() {
        server.stop(0);
        threads.shutdownNow();
    }
}
