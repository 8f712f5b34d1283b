package mellow.bench;

import java.io.IOException;
import java.io.PrintStream;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.Arrays;
import java.util.Locale;
import java.util.concurrent.Callable;
import tools.jackson.databind.JsonNode;

/** Times work beside bare work and prints both with their ratio. */
final class Figures {

    private static final int REPEATS = 7;

    private final PrintStream out;

    Figures(PrintStream out) {
        this.out = out;
    }

    static long[] ids(Product product, String base) throws IOException, InterruptedException {
        JsonNode deltas = product.json(product.get(base + "&in=de")).path("deltas");
        long[] ids = new long[deltas.size()];
        long id = 0;
        for (int i = 0; i < ids.length; i++) {
            id += deltas.get(i).asLong();
            ids[i] = id;
        }
        return ids;
    }

    static double sql(Product product, String sql) throws Exception {
        try (Connection connection = product.database();
                Statement statement = connection.createStatement()) {
            return best(() -> {
                int rows = 0;
                try (ResultSet row = statement.executeQuery(sql)) {
                    while (row.next()) {
                        rows++;
                    }
                }
                return rows;
            });
        }
    }

    static double best(Callable<Integer> work) throws Exception {
        return best(work, REPEATS);
    }

    static double best(Callable<Integer> work, int repeats) throws Exception {
        double best = Double.MAX_VALUE;
        for (int i = 0; i < repeats; i++) {
            long start = System.nanoTime();
            if (work.call() < 0) {
                throw new IllegalStateException("nothing was done");
            }
            best = Math.min(best, seconds(start));
        }
        return best;
    }

    static double percentile(double[] values, int percent) {
        double[] sorted = values.clone();
        Arrays.sort(sorted);
        return sorted[Math.min(sorted.length - 1, sorted.length * percent / 100)];
    }

    static double seconds(long since) {
        return (System.nanoTime() - since) / 1e9;
    }

    void compare(String work, int rows, double took, String against, double base) {
        line(
                work,
                String.format(Locale.ROOT, "%,d", rows),
                time(took),
                against,
                time(base),
                String.format(Locale.ROOT, "%.1f×", took / base));
    }

    static String time(double seconds) {
        return seconds < 1
                ? String.format(Locale.ROOT, "%.1f ms", seconds * 1000)
                : String.format(Locale.ROOT, "%.2f s", seconds);
    }

    void line(String... cells) {
        out.printf("%-46s %8s %10s   %-26s %10s %7s%n", (Object[]) cells);
    }
}
