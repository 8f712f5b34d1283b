package mellow.bench;

import static mellow.bench.Figures.seconds;

import java.io.ByteArrayOutputStream;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.lang.management.MemoryType;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import mellow.core.language.LanguageTag;
import tools.jackson.databind.JsonNode;

/** {@code ./mellow bench set}: 49 files of 1,300 texts from drop to board, beside one sheet with the same texts; and how much memory more keys take. */
public final class SetBench {

    private static final int LANGUAGES = 49;
    private static final int KEYS = 1_300;

    private final PrintStream out =
            new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
    private final List<String> tags = tags();

    private SetBench() {}

    public static void main(String[] arguments) throws Exception {
        try (Product product = new Product()) {
            SetBench bench = new SetBench();
            bench.run(product, 100, "warm");
            bench.run(product, KEYS, "set");
            bench.run(product, KEYS, "again");
            bench.run(product, 4 * KEYS, "large");
        }
    }

    private static List<String> tags() {
        List<String> tags = new ArrayList<>(List.of("en"));
        for (String tag : Locale.getISOLanguages()) {
            boolean known = tags.size() < LANGUAGES
                    && !tag.equals("en")
                    && LanguageTag.parse(tag)
                            .filter(one -> one.value().equals(tag))
                            .isPresent();
            if (known && !List.of("no", "in", "iw", "ji").contains(tag)) {
                tags.add(tag);
            }
        }
        return tags;
    }

    private static String text(String tag, int key) {
        return tag + " sailing of line " + key + " at quay " + key % 12;
    }

    private byte[] archive(int keys, String name) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
            for (String tag : tags) {
                StringBuilder file =
                        new StringBuilder(tag).append(":\n  ").append(name).append(":\n");
                for (int i = 0; i < keys; i++) {
                    file.append("    k")
                            .append(i)
                            .append(": ")
                            .append(text(tag, i))
                            .append('\n');
                }
                zip.putNextEntry(new ZipEntry(name + "/" + tag + ".yml"));
                zip.write(file.toString().getBytes(StandardCharsets.UTF_8));
                zip.closeEntry();
            }
        }
        return bytes.toByteArray();
    }

    private byte[] sheet(int keys, String name) {
        StringBuilder file =
                new StringBuilder("key,").append(String.join(",", tags)).append('\n');
        for (int i = 0; i < keys; i++) {
            file.append(name).append("-sheet.k").append(i);
            for (String tag : tags) {
                file.append(',').append(text(tag, i));
            }
            file.append('\n');
        }
        return file.toString().getBytes(StandardCharsets.UTF_8);
    }

    private void run(Product product, int keys, String name) throws Exception {
        byte[] sheet = sheet(keys, name);
        byte[] archive = archive(keys, name);
        forgetPeaks();
        long start = System.nanoTime();
        long id = product.upload(name + "-sheet.csv", sheet).path("id").asLong();
        IntakeBench.compared(product, id);
        IntakeBench.take(product, id);
        product.get("/api/tables");
        double one = seconds(start);
        long peakOne = peak();

        forgetPeaks();
        start = System.nanoTime();
        String drop = "/api/drops/"
                + product.send("POST", "/api/drops", "").path("id").asLong();
        product.bytes(drop + "/files?name=product.zip", archive);
        JsonNode sorted = product.send("POST", drop + "/sort", "");
        while (!sorted.has("intakes")) {
            Thread.sleep(20);
            sorted = product.json(product.get(drop));
        }
        double sorting = seconds(start);
        id = sorted.path("intakes").get(0).path("id").asLong();
        IntakeBench.compared(product, id);
        double comparing = seconds(start);
        IntakeBench.take(product, id);
        product.get("/api/tables");
        double many = seconds(start);
        IntakeBench.settle(product, id);
        out.printf(
                Locale.ROOT,
                "%-6s %d files x %,d texts, drop to board: %.1f s (sorted %.1f, compared %.1f); one sheet with the same texts: %.1f s; %.2fx; peak heap %d MB against %d MB%n",
                name,
                tags.size(),
                keys,
                many,
                sorting,
                comparing,
                one,
                many / one,
                peak(),
                peakOne);
    }

    private static void forgetPeaks() {
        System.gc();
        ManagementFactory.getMemoryPoolMXBeans().forEach(MemoryPoolMXBean::resetPeakUsage);
    }

    private static long peak() {
        return ManagementFactory.getMemoryPoolMXBeans().stream()
                        .filter(pool -> pool.getType() == MemoryType.HEAP)
                        .mapToLong(pool -> pool.getPeakUsage().getUsed())
                        .sum()
                / (1024 * 1024);
    }
}
