package mellow.bench;

import static mellow.bench.Figures.seconds;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.util.FileSystemUtils;
import tools.jackson.databind.JsonNode;

/**
 * {@code ./mellow bench bundles [MINUTES]}: a bundle of 10,000 texts against a static file of the same bytes from the same server, all of it and not modified; bytes that
 * {@code since} saves; and 50 products that ask every second while 100 texts a minute are settled and delivered, for a minute or as many as are given.
 */
public final class BundlesBench {

    private static final int ENTRIES = 10_000;
    private static final int[] CLIENTS = {1, 10, 50};
    private static final int ASKED = 3_000;
    private static final int POLLING = 50;
    private static final int DELIVERED_EVERY = 10;
    private static final Duration SETTLED_EVERY = Duration.ofMillis(600);
    private static final long MEGABYTE = 1 << 20;

    private final Product product;
    private final Path files;
    private final PrintStream out;
    private final HttpClient http =
            HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();

    private BundlesBench(Product product, Path files, PrintStream out) {
        this.product = product;
        this.files = files;
        this.out = out;
    }

    public static void main(String[] arguments) throws Exception {
        PrintStream out = new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
        Path files = Files.createTempDirectory("mellow-static-");
        try (Product product = new Product(
                "--mellow.bundles.per-minute=100000000",
                "--spring.web.resources.static-locations=classpath:/static/," + files.toUri())) {
            new BundlesBench(product, files, out).run(arguments.length > 1 ? Integer.parseInt(arguments[1]) : 1);
        } finally {
            FileSystemUtils.deleteRecursively(files);
        }
    }

    private void run(int minutes) throws Exception {
        fill();
        deliver(1);
        HttpResponse<byte[]> bundle = ask("/api/bundles/deck/de");
        Files.write(files.resolve("bundle.json"), bundle.body());
        HttpResponse<byte[]> file = ask("/bundle.json");
        if (!Arrays.equals(file.body(), bundle.body())) {
            throw new IllegalStateException("The file is not the bundle: " + file.statusCode());
        }
        String mark = bundle.headers().firstValue("ETag").orElseThrow();
        String at = file.headers().firstValue("Last-Modified").orElseThrow();
        out.printf(Locale.ROOT, "a bundle of %,d texts, %,d bytes%n", ENTRIES, bundle.body().length);
        for (int clients : CLIENTS) {
            compare("all of it", clients, List.of("/api/bundles/deck/de"), List.of("/bundle.json"));
            compare(
                    "not modified",
                    clients,
                    List.of("/api/bundles/deck/de", "If-None-Match", mark),
                    List.of("/bundle.json", "If-Modified-Since", at));
        }
        for (int i = 0; i < 100; i++) {
            settle(i * 97 % ENTRIES, "Geändert " + i);
        }
        deliver(2);
        for (String coding : new String[] {"identity", "gzip", "br"}) {
            out.printf(
                    Locale.ROOT,
                    "%-10s whole %,9d bytes, since no. 1 (100 texts changed) %,7d%n",
                    coding,
                    ask("/api/bundles/deck/de", "Accept-Encoding", coding).body().length,
                    ask("/api/bundles/deck/de?since=1", "Accept-Encoding", coding)
                            .body()
                            .length);
        }
        for (String coding : new String[] {"gzip", "br"}) {
            List<String> request = List.of("/api/bundles/deck/de", "Accept-Encoding", coding);
            times(POLLING, request);
            double[] times = times(POLLING, request);
            out.printf(
                    Locale.ROOT,
                    "all of it by %s, %d clients: p50 %.2f ms, p99 %.2f ms%n",
                    coding,
                    POLLING,
                    1000 * Figures.percentile(times, 50),
                    1000 * Figures.percentile(times, 99));
        }
        poll(minutes);
    }

    private void fill() throws Exception {
        StringBuilder csv = new StringBuilder("key,en,de\n");
        for (int i = 0; i < ENTRIES; i++) {
            csv.append("deck.text.").append(i).append(",Text of deck number ").append(i);
            csv.append(",Der Text des Decks Nummer ").append(i).append('\n');
        }
        long id = product.upload("deck.csv", csv.toString().getBytes(StandardCharsets.UTF_8))
                .path("id")
                .asLong();
        product.send(
                "PUT",
                "/api/intakes/" + id + "/options",
                "{\"newTable\":\"Deck\",\"source\":\"en\",\"settlesOwn\":true,\"arrival\":\"SETTLED\"}");
        IntakeBench.compared(product, id);
        product.send("POST", "/api/intakes/" + id + "/apply", "");
        while (!product.json(product.get("/api/intakes/" + id))
                .path("status")
                .asString()
                .equals("applied")) {
            Thread.sleep(50);
        }
        product.send(
                "POST",
                "/api/products",
                "{\"version\":0,\"name\":\"Deck\",\"kind\":\"app\",\"tables\":[\"deck\"],\"languages\":[{\"tag\":\"de\"}]}");
        product.send(
                "POST",
                "/api/products/deck/recipes",
                """
                {"name":"Texts","active":true,"version":0,"settings":{"kind":"texts","format":"json","files":"each","pattern":"{tag}.json","which":"all","languages":[],
                "texts":"settled","hole":"out","charset":"utf-8","delimiter":"comma","guard":false,"nested":false,"ascii":false,"prefix":"","namespace":"","numbers":false}}
                """);
        product.send(
                "PUT",
                "/api/products/deck/bundles",
                "{\"served\":true,\"open\":true,\"origins\":[],\"shown\":false,\"version\":0}");
    }

    private void deliver(int number) throws IOException, InterruptedException {
        product.send("POST", "/api/products/deck/deliveries", "");
        while (product.json(product.get("/api/products/deck/deliveries"))
                        .path(0)
                        .path("number")
                        .asInt()
                < number) {
            Thread.sleep(50);
        }
    }

    private HttpResponse<byte[]> ask(String path, String... headers) throws IOException, InterruptedException {
        HttpRequest.Builder asking = HttpRequest.newBuilder(URI.create(product.address() + path));
        if (headers.length > 0) {
            asking.headers(headers);
        }
        return http.send(asking.build(), BodyHandlers.ofByteArray());
    }

    private void compare(String what, int clients, List<String> bundle, List<String> file) throws Exception {
        // Once each for warmth; and in turns, so that both meet the same machine.
        times(clients, file);
        times(clients, bundle);
        double[] files = times(clients, file);
        double[] bundles = times(clients, bundle);
        out.printf(
                Locale.ROOT,
                "%-13s %2d clients: p50 %6.2f ms, p99 %6.2f ms; static file p50 %6.2f ms, p99 %6.2f ms; %.2f x%n",
                what,
                clients,
                1000 * Figures.percentile(bundles, 50),
                1000 * Figures.percentile(bundles, 99),
                1000 * Figures.percentile(files, 50),
                1000 * Figures.percentile(files, 99),
                mean(bundles) / mean(files));
    }

    private static double mean(double[] times) {
        double sum = 0;
        for (double one : times) {
            sum += one;
        }
        return sum / times.length;
    }

    private double[] times(int clients, List<String> request) throws Exception {
        String[] headers = request.subList(1, request.size()).toArray(String[]::new);
        double[] times = new double[ASKED];
        AtomicInteger next = new AtomicInteger();
        ExecutorService all = Executors.newFixedThreadPool(clients);
        List<Future<?>> running = new ArrayList<>();
        for (int i = 0; i < clients; i++) {
            running.add(all.submit(() -> {
                for (int n = next.getAndIncrement(); n < ASKED; n = next.getAndIncrement()) {
                    long start = System.nanoTime();
                    int status = ask(request.get(0), headers).statusCode();
                    times[n] = seconds(start);
                    if (status != 200 && status != 304) {
                        throw new IllegalStateException(request + ": " + status);
                    }
                }
                return null;
            }));
        }
        for (Future<?> one : running) {
            one.get();
        }
        all.shutdown();
        return times;
    }

    private void settle(int entry, String text) throws Exception {
        try (Connection connection = product.database();
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(
                        "select e.id, c.version from entry e join cell c on c.entry_id = e.id where e.key = 'deck.text."
                                + entry + "' and c.language_id = (select id from language where tag = 'de')")) {
            row.next();
            product.send(
                    "POST",
                    "/api/entries/" + row.getLong(1) + "/cells/de/changes",
                    "{\"action\":\"PUT_FORWARD\",\"version\":" + row.getInt(2) + ",\"text\":\"" + text
                            + "\",\"meaningConfirmed\":false}");
        }
    }

    /** A product that has its texts, and asks what changed since. */
    private final class Polling {
        private final Map<String, String> texts = new TreeMap<>();
        private int delivery;
        private String mark = "";

        void ask() throws IOException, InterruptedException {
            String path = "/api/bundles/deck/de" + (delivery == 0 ? "" : "?since=" + delivery);
            HttpResponse<byte[]> answer =
                    mark.isEmpty() ? BundlesBench.this.ask(path) : BundlesBench.this.ask(path, "If-None-Match", mark);
            if (answer.statusCode() == 304) {
                return;
            }
            if (answer.statusCode() != 200) {
                throw new IOException("status " + answer.statusCode());
            }
            JsonNode said = product.json(answer.body());
            said.path("gone").forEach(name -> texts.remove(name.asString()));
            said.path("texts")
                    .properties()
                    .forEach(text -> texts.put(text.getKey(), text.getValue().asString()));
            boolean same = delivery == said.path("delivery").asInt();
            delivery = said.path("delivery").asInt();
            // The mark is of an answer since that delivery; asked since another one it means nothing.
            mark = same ? answer.headers().firstValue("ETag").orElse("") : "";
        }
    }

    private void poll(int minutes) throws Exception {
        long end = System.nanoTime() + Duration.ofMinutes(minutes).toNanos();
        AtomicInteger errors = new AtomicInteger();
        AtomicInteger asked = new AtomicInteger();
        List<Polling> products = new ArrayList<>();
        ExecutorService all = Executors.newFixedThreadPool(POLLING);
        List<Future<?>> running = new ArrayList<>();
        for (int i = 0; i < POLLING; i++) {
            Polling one = new Polling();
            products.add(one);
            running.add(all.submit(() -> {
                while (System.nanoTime() < end) {
                    try {
                        one.ask();
                        asked.incrementAndGet();
                    } catch (IOException failed) {
                        errors.incrementAndGet();
                    }
                    Thread.sleep(1_000);
                }
                return null;
            }));
        }
        long before = 0;
        long most = 0;
        int settled = 0;
        int deliveries = 2;
        long began = System.nanoTime();
        while (System.nanoTime() < end) {
            long due = began + settled * SETTLED_EVERY.toNanos();
            Thread.sleep(Math.max(0, (due - System.nanoTime()) / 1_000_000));
            settle(settled * 31 % ENTRIES, "Neu " + settled++);
            if (settled % (1000 * DELIVERED_EVERY / SETTLED_EVERY.toMillis()) == 0) {
                deliver(++deliveries);
                long used = used();
                before = before == 0 ? used : before;
                most = Math.max(most, used);
            }
        }
        for (Future<?> one : running) {
            one.get();
        }
        all.shutdown();
        deliver(++deliveries);
        int wrong = 0;
        Map<String, String> record = record();
        for (Polling one : products) {
            // A kept answer may be told for a while; the last one is asked for by its number.
            one.mark = "";
            one.ask();
            wrong += one.texts.equals(record) ? 0 : 1;
        }
        out.printf(
                Locale.ROOT,
                "%d products asked %,d times in %d minutes, %d errors, while %,d texts were settled and %d deliveries made; %d do not end with the record's texts%n",
                POLLING,
                asked.get(),
                minutes,
                errors.get(),
                settled,
                deliveries - 2,
                wrong);
        out.printf(
                Locale.ROOT,
                "heap after a collection %,d MB after the first delivery, %,d MB at most, %,d MB at the end%n",
                before / MEGABYTE,
                most / MEGABYTE,
                used() / MEGABYTE);
    }

    private Map<String, String> record() throws Exception {
        Map<String, String> record = new TreeMap<>();
        try (Connection connection = product.database();
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(
                        "select e.key, c.text from entry e join cell c on c.entry_id = e.id where c.language_id = (select id from language where tag = 'de')")) {
            while (row.next()) {
                record.put(row.getString(1), row.getString(2));
            }
        }
        return record;
    }

    private static long used() {
        System.gc();
        return Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
    }
}
