package mellow.bench;

import static mellow.bench.Figures.best;
import static mellow.bench.Figures.ids;
import static mellow.bench.Figures.percentile;
import static mellow.bench.Figures.seconds;
import static mellow.bench.Figures.sql;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.lang.management.MemoryType;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.Locale;
import java.util.Random;
import mellow.core.format.FilePatch;
import mellow.core.format.csv.CsvFormat;
import mellow.core.format.csv.CsvOptions;
import mellow.core.format.csv.CsvReading;
import org.postgresql.PGConnection;
import tools.jackson.databind.JsonNode;

/** {@code ./mellow bench csv}: read, intake, export and the sheet for 10,000 and 100,000 rows in seven languages. */
public final class CsvBench {

    private static final int PAGES = 400;
    private static final int PAGE = 60;
    private static final int SAVES = 200;
    private static final int[] SIZES = {10_000, 100_000};

    private final PrintStream out;
    private final Figures figures;

    private CsvBench(PrintStream out) {
        this.out = out;
        this.figures = new Figures(out);
    }

    public static void main(String[] arguments) throws Exception {
        CsvBench bench =
                new CsvBench(new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8));
        bench.figures.line("work", "rows", "took", "against", "took", "ratio");
        try (Product product = new Product()) {
            // The first round only warms the machine up.
            new CsvBench(new PrintStream(new ByteArrayOutputStream(), true, StandardCharsets.UTF_8))
                    .round(product, 2_000);
            for (int rows : SIZES) {
                bench.round(product, rows);
            }
        }
        bench.out.println("Peak resident memory of the server (this process): " + peakResident());
    }

    private void round(Product product, int rows) throws Exception {
        byte[] sheet = Sheets.csv(rows);
        for (MemoryPoolMXBean pool : ManagementFactory.getMemoryPoolMXBeans()) {
            pool.resetPeakUsage();
        }
        reading(rows, sheet);
        String table = "bench-" + rows;
        intake(product, rows, sheet, table);
        export(product, rows, sheet, table);
        sheet(product, rows, table);
        save(product, rows, table);
        out.printf(
                Locale.ROOT,
                "  peak heap at %,d rows: %d MB (file %d MB)%n",
                rows,
                peakHeap() >> 20,
                sheet.length >> 20);
    }

    private void reading(int rows, byte[] sheet) throws Exception {
        double scan = best(() -> byteScan(sheet));
        figures.compare(
                "read: spans of every cell, keys checked",
                rows,
                best(() -> read(sheet).size()),
                "byte scan",
                scan);
        figures.compare(
                "read: and every text decoded",
                rows,
                best(() -> {
                    CsvReading reading = read(sheet);
                    int length = 0;
                    for (int i = 0; i < reading.size(); i++) {
                        length += reading.entry(i).texts().size();
                    }
                    return length;
                }),
                "byte scan",
                scan);
        CsvReading reading = read(sheet);
        double copy = best(() -> {
            ByteArrayOutputStream copied = new ByteArrayOutputStream(sheet.length);
            copied.write(sheet);
            return copied.size();
        });
        figures.compare(
                "write in place, 1 % changed",
                rows,
                best(() -> {
                    FilePatch patch = reading.patch();
                    for (int i = 0; i < reading.size(); i += 100) {
                        patch.set(i, 1, "changed");
                    }
                    ByteArrayOutputStream written = new ByteArrayOutputStream(sheet.length);
                    patch.writeTo(written);
                    return written.size();
                }),
                "copy in memory",
                copy);
    }

    private static CsvReading read(byte[] sheet) {
        return CsvFormat.read("bench.csv", sheet, CsvOptions.AUTOMATIC);
    }

    private static int byteScan(byte[] sheet) {
        int separators = 0;
        for (byte b : sheet) {
            if (b == ',' || b == '\n' || b == '"') {
                separators++;
            }
        }
        return separators;
    }

    private void intake(Product product, int rows, byte[] sheet, String table) throws Exception {
        double copy = bareCopy(product, sheet);
        long start = System.nanoTime();
        JsonNode uploaded = product.upload(table + ".csv", sheet);
        long id = uploaded.path("id").asLong();
        product.send(
                "PUT",
                "/api/intakes/" + id + "/options",
                "{\"newTable\":\"" + table + "\",\"source\":\"en\",\"settlesOwn\":true,\"arrival\":\"SETTLED\"}");
        double readIn = seconds(start);
        start = System.nanoTime();
        IntakeBench.compared(product, id);
        double preview = seconds(start);
        start = System.nanoTime();
        IntakeBench.take(product, id);
        figures.compare(
                "intake: apply, history and counters included", rows, seconds(start), "COPY of the same texts", copy);
        out.printf(Locale.ROOT, "  upload and read %.2f s, preview %.2f s%n", readIn, preview);
    }

    /** The same texts, a row each, into one table with a primary key, by COPY. */
    private static double bareCopy(Product product, byte[] sheet) throws SQLException, IOException {
        CsvReading reading = read(sheet);
        StringBuilder rows = new StringBuilder(sheet.length * 2);
        for (int i = 0; i < reading.size(); i++) {
            var entry = reading.entry(i);
            for (int language = 0; language < entry.texts().size(); language++) {
                if (!entry.text(language).isEmpty()) {
                    rows.append(i)
                            .append('\t')
                            .append(language)
                            .append('\t')
                            .append(entry.key())
                            .append('\t')
                            .append(entry.text(language).replace("\\", "\\\\"))
                            .append('\n');
                }
            }
        }
        byte[] data = rows.toString().getBytes(StandardCharsets.UTF_8);
        try (Connection connection = product.database();
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "drop table if exists bare; create table bare (entry int, language smallint, key text, text text, primary key (entry, language))");
            long start = System.nanoTime();
            connection
                    .unwrap(PGConnection.class)
                    .getCopyAPI()
                    .copyIn("copy bare from stdin", new ByteArrayInputStream(data));
            return seconds(start);
        }
    }

    private void export(Product product, int rows, byte[] sheet, String table) throws Exception {
        double plain = best(() -> read(sheet).size());
        figures.compare(
                "export in place over HTTP",
                rows,
                best(() -> product.get("/api/tables/" + table + "/export/in-place?file=" + table + ".csv").length, 3),
                "reading the file",
                plain);
        figures.compare(
                "export fresh over HTTP",
                rows,
                best(() -> product.get("/api/tables/" + table + "/export/fresh").length, 3),
                "reading the file",
                plain);
        boolean same =
                Arrays.equals(sheet, product.get("/api/tables/" + table + "/export/in-place?file=" + table + ".csv"));
        out.println("  in place gives the same bytes: " + (same ? "yes" : "NO"));
    }

    private void sheet(Product product, int rows, String table) throws Exception {
        String base = "/api/scope?table=" + table;
        for (String filter : new String[] {"", "&only=untranslated", "&words=satama"}) {
            String sql = filter.isEmpty()
                    ? "select id, section from entry where table_id = T and removed_at is null order by position"
                    : filter.contains("words")
                            ? "select id from entry e where table_id = T and removed_at is null and (key ilike '%satama%' or source ilike '%satama%' or exists (select 1 from cell c where c.entry_id = e.id and c.language_id in (select id from language where tag in ('de', 'ar', 'ja')) and text ilike '%satama%')) order by position"
                            : "select id from entry e where table_id = T and removed_at is null and (select count(*) from cell c where c.entry_id = e.id and c.language_id in (select id from language where tag in ('de', 'ar', 'ja'))) < 3 order by position";
            double bare = sql(product, sql.replace("T", "(select id from ledger_table where slug = '" + table + "')"));
            figures.compare(
                    "open a scope" + (filter.isEmpty() ? "" : " " + filter.substring(1)),
                    rows,
                    best(() -> product.get(base + "&in=de,ar,ja" + filter).length),
                    "bare SQL",
                    bare);
        }
        long[] ids = ids(product, base);
        Random random = new Random(7);
        double[] took = new double[PAGES];
        double[] bare = new double[PAGES];
        try (Connection connection = product.database();
                PreparedStatement page = connection.prepareStatement(
                        "select e.*, c.* from entry e left join cell c on c.entry_id = e.id and c.language_id in (select id from language where tag in ('de', 'ar', 'ja')) where e.id = any(?)")) {
            for (int i = 0; i < PAGES; i++) {
                int from = random.nextInt(Math.max(1, ids.length - PAGE));
                long[] wanted = Arrays.copyOfRange(ids, from, Math.min(ids.length, from + PAGE));
                String query = String.join(
                        ",", Arrays.stream(wanted).mapToObj(Long::toString).toList());
                long start = System.nanoTime();
                product.get("/api/rows?in=de,ar,ja&ids=" + query);
                took[i] = seconds(start);
                start = System.nanoTime();
                page.setArray(
                        1,
                        connection.createArrayOf(
                                "bigint", Arrays.stream(wanted).boxed().toArray()));
                try (ResultSet row = page.executeQuery()) {
                    while (row.next()) {
                        row.getString("key");
                    }
                }
                bare[i] = seconds(start);
            }
        }
        figures.compare(
                "a page of " + PAGE + " rows × 3 languages, median",
                rows,
                percentile(took, 50),
                "one SQL page by key",
                percentile(bare, 50));
        figures.compare(
                "a page of " + PAGE + " rows × 3 languages, p95",
                rows,
                percentile(took, 95),
                "one SQL page by key, p95",
                percentile(bare, 95));
    }

    private void save(Product product, int rows, String table) throws Exception {
        long[] ids = ids(product, "/api/scope?table=" + table);
        double[] took = new double[SAVES];
        double[] bare = new double[SAVES];
        try (Connection connection = product.database();
                PreparedStatement update =
                        connection.prepareStatement("update bare set text = ? where entry = ? and language = 1")) {
            for (int i = 0; i < SAVES; i++) {
                long id = ids[(int) ((long) i * ids.length / SAVES)];
                JsonNode row =
                        product.json(product.get("/api/rows?in=fi&ids=" + id)).get(0);
                int version = row.path("cells").size() == 0
                        ? 0
                        : row.path("cells").get(0).path("version").asInt();
                long start = System.nanoTime();
                product.send(
                        "POST",
                        "/api/entries/" + id + "/cells/fi/changes",
                        "{\"action\":\"PUT_FORWARD\",\"version\":" + version + ",\"text\":\"Uusi teksti " + i
                                + "\",\"meaningConfirmed\":false}");
                took[i] = seconds(start);
                start = System.nanoTime();
                update.setString(1, "new text " + i);
                update.setInt(2, i);
                update.executeUpdate();
                bare[i] = seconds(start);
            }
        }
        figures.compare(
                "save one cell, median", rows, percentile(took, 50), "one UPDATE committed", percentile(bare, 50));
        figures.compare(
                "save one cell, p95", rows, percentile(took, 95), "one UPDATE committed, p95", percentile(bare, 95));
    }

    private static long peakHeap() {
        return ManagementFactory.getMemoryPoolMXBeans().stream()
                .filter(pool -> pool.getType() == MemoryType.HEAP)
                .mapToLong(pool -> pool.getPeakUsage().getUsed())
                .sum();
    }

    private static String peakResident() throws IOException {
        Path status = Path.of("/proc/self/status");
        return Files.exists(status)
                ? Files.readAllLines(status).stream()
                        .filter(line -> line.startsWith("VmHWM"))
                        .map(line -> line.replaceAll("\\D+", ""))
                        .map(kb -> Long.parseLong(kb) / 1024 + " MB")
                        .findFirst()
                        .orElse("unknown")
                : "unknown here";
    }
}
