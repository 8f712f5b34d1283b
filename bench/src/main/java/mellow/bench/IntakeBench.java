package mellow.bench;

import static mellow.bench.Figures.ids;
import static mellow.bench.Figures.percentile;
import static mellow.bench.Figures.seconds;

import java.io.ByteArrayInputStream;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.lang.management.MemoryType;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.atomic.AtomicBoolean;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import tools.jackson.databind.JsonNode;

/**
 * {@code ./mellow bench intake}: a second edition of a source file, 3 % rewritten, 2 % new, 1 % removed, over a table in 20 languages: what is shown against the
 * truth, what it takes, and how the sheet of somebody else answers meanwhile.
 */
public final class IntakeBench {

    private static final String[] LANGUAGES = {
        "de", "fi", "et", "pl", "pt-BR", "ar", "ja", "fr", "es", "it", "nl", "sv", "da", "nb", "cs", "sk", "hu", "lt",
        "lv", "uk"
    };
    private static final int REWRITTEN_EACH = 33;
    private static final int NEW_EACH = 50;
    private static final int REMOVED_EACH = 100;
    private static final int PAGE = 60;

    private final PrintStream out =
            new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
    private final Figures figures = new Figures(out);
    private final int entries;

    private IntakeBench(int entries) {
        this.entries = entries;
    }

    public static void main(String[] arguments) throws Exception {
        try (Product product = new Product()) {
            new IntakeBench(2_000).run(product, "warm");
            IntakeBench bench = new IntakeBench(arguments.length > 1 ? Integer.parseInt(arguments[1]) : 100_000);
            bench.figures.line("work", "rows", "took", "against", "took", "ratio");
            bench.run(product, "source");
        }
    }

    private byte[] edition(boolean second) {
        StringBuilder file = new StringBuilder(entries * 60).append("key,en\n");
        for (int i = 0; i < entries; i++) {
            if (second && i % REMOVED_EACH == 7) {
                continue;
            }
            file.append("harbour.")
                    .append(i)
                    .append(",\"The ferry of line ")
                    .append(i)
                    .append(" leaves at quay ");
            file.append(i % 12).append(second && rewritten(i) ? " at once\"\n" : "\"\n");
            if (second && i % NEW_EACH == 3) {
                file.append("harbour.new.")
                        .append(i)
                        .append(",A new sailing of line ")
                        .append(i)
                        .append('\n');
            }
        }
        return file.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static boolean rewritten(int i) {
        return i % REWRITTEN_EACH == 5 && i % REMOVED_EACH != 7;
    }

    private byte[] texts() {
        StringBuilder file = new StringBuilder(entries * 700)
                .append("key,")
                .append(String.join(",", LANGUAGES))
                .append('\n');
        for (int i = 0; i < entries; i++) {
            file.append("harbour.").append(i);
            for (String language : LANGUAGES) {
                file.append(',').append(language).append(" Fähre der Linie ").append(i);
            }
            file.append('\n');
        }
        return file.toString().getBytes(StandardCharsets.UTF_8);
    }

    private void run(Product product, String table) throws Exception {
        take(product, open(product, table + ".csv", edition(false), null));
        long start = System.nanoTime();
        take(product, open(product, table + "-texts.csv", texts(), table));
        out.printf(
                Locale.ROOT,
                "  %,d texts in %d languages taken in: %.1f s%n",
                (long) entries * LANGUAGES.length,
                LANGUAGES.length,
                seconds(start));
        forgetPeaks();

        start = System.nanoTime();
        long id = open(product, table + ".csv", edition(true), null);
        double upload = seconds(start);
        start = System.nanoTime();
        JsonNode preview = compared(product, id);
        double comparing = seconds(start);
        truth(preview);
        start = System.nanoTime();
        product.get("/api/intakes/" + id + "/lines?kind=SOURCES_REWRITTEN&from=" + entries / REWRITTEN_EACH / 2);
        double page = seconds(start);
        start = System.nanoTime();
        product.send("PUT", "/api/intakes/" + id + "/choices", "{\"kind\":\"SOURCES_REWRITTEN\",\"choice\":\"FIX\"}");
        product.send(
                "PUT", "/api/intakes/" + id + "/choices", "{\"kind\":\"SOURCES_REWRITTEN\",\"choice\":\"CHANGED\"}");
        double choosing = seconds(start) / 2;

        long[] ids = ids(product, "/api/scope?table=" + table);
        double[] quiet = pages(product, ids, new AtomicBoolean(), 200);
        AtomicBoolean over = new AtomicBoolean();
        List<double[]> during = new ArrayList<>();
        Thread other = new Thread(() -> {
            try {
                during.add(pages(product, ids, over, Integer.MAX_VALUE));
            } catch (IOException | InterruptedException failed) {
                throw new IllegalStateException(failed);
            }
        });
        double copy = bareCopy(product);
        other.start();
        start = System.nanoTime();
        take(product, id);
        double applying = seconds(start);
        over.set(true);
        other.join();
        figures.compare("apply the second edition", entries, applying, "COPY of the file's rows", copy);
        figures.compare(
                "another's page meanwhile, p95",
                entries,
                percentile(during.get(0), 95),
                "the same before, p95",
                percentile(quiet, 95));
        out.printf(
                Locale.ROOT,
                "  upload and read %.2f s, comparing %.2f s, a page of lines %.0f ms, a choice for all %.0f ms, peak heap %d MB%n",
                upload,
                comparing,
                page * 1000,
                choosing * 1000,
                peakHeap() >> 20);
        start = System.nanoTime();
        product.send("POST", "/api/intakes/" + id + "/undo", "");
        until(product, id, "undone");
        out.printf(Locale.ROOT, "  taken back in %.2f s%n", seconds(start));
    }

    private long open(Product product, String name, byte[] file, @Nullable String into) throws Exception {
        JsonNode uploaded = product.upload(name, file);
        long id = uploaded.path("id").asLong();
        String where = into != null
                ? "\"table\":\"" + into + "\""
                : uploaded.path("options").path("table").isMissingNode()
                        ? "\"newTable\":\"" + name.replace(".csv", "") + "\""
                        : "\"table\":" + uploaded.path("options").path("table");
        product.send(
                "PUT",
                "/api/intakes/" + id + "/options",
                "{" + where + ",\"source\":\"en\",\"settlesOwn\":true,\"arrival\":\"SETTLED\"}");
        return id;
    }

    static JsonNode compared(Product product, long id) throws Exception {
        while (true) {
            JsonNode reply = product.json(product.get("/api/intakes/" + id + "/preview"));
            if (!reply.path("preview").isMissingNode() && !reply.path("preview").isNull()) {
                return reply.path("preview");
            }
            if (reply.path("run").path("status").asString().equals("failed")) {
                throw new IOException(reply.path("run").path("message").asString());
            }
            Thread.sleep(20);
        }
    }

    private void truth(JsonNode preview) throws IOException {
        int removed = 0;
        int rewritten = 0;
        int added = 0;
        for (int i = 0; i < entries; i++) {
            boolean gone = i % REMOVED_EACH == 7;
            removed += gone ? 1 : 0;
            rewritten += !gone && rewritten(i) ? 1 : 0;
            added += !gone && i % NEW_EACH == 3 ? 1 : 0;
        }
        String truth = "NEW_ENTRIES " + added + " SOURCES_REWRITTEN " + rewritten + " GONE_FROM_FILE " + removed
                + " stale " + rewritten * LANGUAGES.length;
        StringBuilder shown = new StringBuilder();
        preview.path("groups").forEach(group -> shown.append(group.path("kind").asString())
                .append(' ')
                .append(group.path("count").asInt())
                .append(' '));
        int stale = preview.path("stale")
                .propertyStream()
                .mapToInt(one -> one.getValue().asInt())
                .sum();
        if (!truth.contentEquals(shown.append("stale ").append(stale))) {
            throw new IOException("shown: " + shown + "; the truth: " + truth);
        }
        out.println("  shown is the truth: " + truth);
    }

    static void take(Product product, long id) throws Exception {
        product.send("POST", "/api/intakes/" + id + "/apply", "");
        until(product, id, "applied");
    }

    /** Waits until the run is over, which tidies up after the intake is applied. */
    static void settle(Product product, long id) throws Exception {
        String status = "going";
        while (status.equals("going")) {
            Thread.sleep(20);
            status = product.json(product.get("/api/intakes/" + id))
                    .path("run")
                    .path("status")
                    .asString();
        }
    }

    private static void until(Product product, long id, String wanted) throws Exception {
        String status = "";
        while (!status.equals(wanted)) {
            Thread.sleep(20);
            JsonNode intake = product.json(product.get("/api/intakes/" + id));
            status = intake.path("status").asString();
            if (intake.path("run").path("status").asString().equals("failed")) {
                throw new IOException(intake.path("run").path("message").asString());
            }
        }
    }

    private static double[] pages(Product product, long[] ids, AtomicBoolean over, int most)
            throws IOException, InterruptedException {
        List<Double> took = new ArrayList<>();
        for (int i = 0; i < most && !over.get(); i++) {
            int from = (int) ((i * 7919L) % (ids.length - PAGE));
            String query = String.join(
                    ",",
                    Arrays.stream(ids, from, from + PAGE)
                            .mapToObj(Long::toString)
                            .toList());
            long start = System.nanoTime();
            product.get("/api/rows?in=de,ar,ja&ids=" + query);
            took.add(seconds(start));
        }
        return took.stream().mapToDouble(Double::doubleValue).toArray();
    }

    private double bareCopy(Product product) throws Exception {
        StringBuilder rows = new StringBuilder(entries * 80);
        for (int i = 0; i < entries; i++) {
            rows.append(i)
                    .append("\tharbour.")
                    .append(i)
                    .append("\tThe ferry of line ")
                    .append(i)
                    .append('\n');
        }
        byte[] data = rows.toString().getBytes(StandardCharsets.UTF_8);
        try (Connection connection = product.database();
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "drop table if exists bare_source; create table bare_source (entry int primary key, key text, text text)");
            long start = System.nanoTime();
            connection
                    .unwrap(PGConnection.class)
                    .getCopyAPI()
                    .copyIn("copy bare_source from stdin", new ByteArrayInputStream(data));
            return seconds(start);
        }
    }

    private static void forgetPeaks() {
        ManagementFactory.getMemoryPoolMXBeans().forEach(MemoryPoolMXBean::resetPeakUsage);
    }

    private static long peakHeap() {
        return ManagementFactory.getMemoryPoolMXBeans().stream()
                .filter(pool -> pool.getType() == MemoryType.HEAP)
                .mapToLong(pool -> pool.getPeakUsage().getUsed())
                .sum();
    }
}
