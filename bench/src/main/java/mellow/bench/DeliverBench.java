package mellow.bench;

import static mellow.bench.Figures.seconds;

import java.io.BufferedWriter;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.io.Writer;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.lang.management.MemoryType;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.Locale;
import tools.jackson.databind.JsonNode;

/**
 * {@code ./mellow bench deliver}: a delivery of 200,000 entries in 20 languages against reading the texts by bare SQL and writing them as one CSV; another
 * after one text in a hundred changed; comparing both; opening the screen.
 */
public final class DeliverBench {

    private static final int LOOKS_EVERY_MS = 100;
    private static final int OPENED = 50;
    private static final long MEGABYTE = 1 << 20;

    private final Product product;
    private final PrintStream out;

    private DeliverBench(Product product, PrintStream out) {
        this.product = product;
        this.out = out;
    }

    public static void main(String[] arguments) throws Exception {
        PrintStream out = new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
        try (Product product = new Product()) {
            new RecordBench(product, out).fill();
            new DeliverBench(product, out).run();
        }
    }

    private void run() throws Exception {
        double bare = Figures.best(this::bare, 2);
        out.printf(Locale.ROOT, "%-46s %7.1f s%n", "bare SQL into one CSV", bare);
        StringBuilder languages = new StringBuilder();
        for (String tag : RecordBench.LANGUAGES) {
            languages
                    .append(languages.isEmpty() ? "" : ",")
                    .append("{\"tag\":\"")
                    .append(tag)
                    .append("\"}");
        }
        product.send(
                "POST",
                "/api/products",
                "{\"version\":0,\"name\":\"Large\",\"kind\":\"app\",\"tables\":[\"large\"],\"languages\":[" + languages
                        + "]}");
        product.send(
                "POST",
                "/api/products/large/recipes",
                """
                {"name":"Texts","active":true,"version":0,"settings":{"kind":"texts","format":"csv","files":"one","pattern":"texts.csv","which":"all","languages":[],
                "texts":"settled","hole":"out","charset":"utf-8","delimiter":"comma","guard":false,"nested":false,"ascii":false,"prefix":"","namespace":"","numbers":false}}
                """);
        for (MemoryPoolMXBean pool : ManagementFactory.getMemoryPoolMXBeans()) {
            pool.resetPeakUsage();
        }
        double first = deliver(1);
        tell("delivery no. 1, a column per language", first, bare);
        try (Connection connection = product.database();
                Statement statement = connection.createStatement()) {
            int changed = statement.executeUpdate(
                    "update cell set text = text || ' neu', text_version = text_version + 1, version = version + 1, changed_at = now() where entry_id % 100 = 0 and standing = 2");
            out.printf(Locale.ROOT, "%,d texts changed%n", changed);
        }
        tell("delivery no. 2", deliver(2), bare);
        out.printf(
                Locale.ROOT,
                "peak of the heap %,d MB, of at most %,d%n",
                peak() / MEGABYTE,
                Runtime.getRuntime().maxMemory() / MEGABYTE);
        long start = System.nanoTime();
        JsonNode compared = product.json(product.get("/api/products/large/deliveries/compare?from=1&to=2"));
        out.printf(Locale.ROOT, "%-46s %7.1f s, %s%n", "comparing them", seconds(start), sizes(compared));
        double[] opened = new double[OPENED];
        for (int i = 0; i < OPENED; i++) {
            long began = System.nanoTime();
            product.get("/api/products/large/delivery");
            product.get("/api/products/large/deliveries");
            opened[i] = seconds(began);
        }
        out.printf(
                Locale.ROOT,
                "%-46s p50 %.0f ms, p95 %.0f ms%n",
                "opening the screen",
                1000 * Figures.percentile(opened, 50),
                1000 * Figures.percentile(opened, 95));
    }

    private void tell(String what, double took, double bare) {
        out.printf(Locale.ROOT, "%-46s %7.1f s %5.1f x%n", what, took, took / bare);
    }

    private static String sizes(JsonNode compared) {
        return compared.path("texts").size() + " of the changed texts shown";
    }

    private double deliver(int number) throws IOException, InterruptedException {
        long start = System.nanoTime();
        product.send("POST", "/api/products/large/deliveries", "");
        JsonNode run;
        do {
            Thread.sleep(LOOKS_EVERY_MS);
            run = product.json(product.get("/api/products/large/deliveries/run"));
        } while (run.path("status").asString().equals("going")
                || run.path("status").asString().equals("queued"));
        if (!run.path("status").asString().equals("done")) {
            throw new IllegalStateException("delivery " + number + " was not made: " + run);
        }
        return seconds(start);
    }

    /** Reads every settled text as it comes and writes it as one CSV with a column per language. */
    private int bare() throws Exception {
        Path file = Files.createTempFile("bare", ".csv");
        int rows = 0;
        try (Connection connection = product.database();
                Statement statement = connection.createStatement();
                Writer to = new BufferedWriter(Files.newBufferedWriter(file))) {
            connection.setAutoCommit(false);
            statement.setFetchSize(1_000);
            try (ResultSet row = statement.executeQuery(
                    "select e.key, e.source, array_agg(c.text order by c.language_id) from entry e left join cell c on c.entry_id = e.id and c.standing = 2 group by e.id order by e.position")) {
                while (row.next()) {
                    to.write('"' + row.getString(1) + "\",\"" + row.getString(2) + '"');
                    for (Object text : (Object[]) row.getArray(3).getArray()) {
                        to.write(",\"" + text + '"');
                    }
                    to.write('\n');
                    rows++;
                }
            }
        } finally {
            Files.deleteIfExists(file);
        }
        return rows;
    }

    private static long peak() {
        return ManagementFactory.getMemoryPoolMXBeans().stream()
                .filter(pool -> pool.getType() == MemoryType.HEAP)
                .mapToLong(pool -> pool.getPeakUsage().getUsed())
                .sum();
    }
}
