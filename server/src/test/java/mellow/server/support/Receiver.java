package mellow.server.support;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpHandler;
import com.sun.net.httpserver.HttpServer;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.Executors;

/** A program of somebody else that is told things by POST: it remembers them and answers as a test has it. One for all tests of a JVM. */
public final class Receiver {

    private static final int NO_BODY = -1;
    private static final HttpServer SERVER = start();
    private static final List<Word> HEARD = new ArrayList<>();
    private static HttpHandler answer = Receiver::well;

    private Receiver() {}

    /** Something that it was told. */
    public record Word(Map<String, List<String>> headers, String body) {

        /** The value of a header, empty for none. */
        public String header(String name) {
            return String.join(", ", headers.getOrDefault(name, List.of()));
        }
    }

    /** Its host and port. */
    public static String authority() {
        return "127.0.0.1:" + SERVER.getAddress().getPort();
    }

    /** Forgets what it heard and answers as {@code handler} does. */
    public static synchronized void answer(HttpHandler handler) {
        HEARD.clear();
        answer = handler;
    }

    /** What it heard since it was last told how to answer. */
    public static synchronized List<Word> heard() {
        return List.copyOf(HEARD);
    }

    /** The usual answer: all is well. */
    public static void well(HttpExchange exchange) throws IOException {
        exchange.sendResponseHeaders(204, NO_BODY);
        exchange.close();
    }

    /** An answer of nothing but a status. */
    public static HttpHandler status(int status) {
        return exchange -> {
            exchange.sendResponseHeaders(status, NO_BODY);
            exchange.close();
        };
    }

    private static HttpServer start() {
        try {
            HttpServer server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
            server.setExecutor(Executors.newCachedThreadPool(work -> {
                Thread thread = new Thread(work, "receiver");
                thread.setDaemon(true);
                return thread;
            }));
            server.createContext("/", Receiver::hear);
            server.start();
            return server;
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }

    private static void hear(HttpExchange exchange) throws IOException {
        String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        HttpHandler as;
        synchronized (Receiver.class) {
            Map<String, List<String>> headers = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
            headers.putAll(exchange.getRequestHeaders());
            HEARD.add(new Word(headers, body));
            as = answer;
        }
        // A test's answer may depend on what was asked.
        exchange.setStreams(new ByteArrayInputStream(body.getBytes(StandardCharsets.UTF_8)), null);
        as.handle(exchange);
    }
}
