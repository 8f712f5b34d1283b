package mellow.bench;

import static mellow.bench.Figures.ids;
import static mellow.bench.Figures.percentile;
import static mellow.bench.Figures.seconds;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.check.Checks;
import mellow.core.check.Ground;
import mellow.core.check.Measure;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import tools.jackson.databind.JsonNode;

/** {@code ./mellow bench checks}: the engine against a loop that reads each character; looking at 4 million texts again while somebody works in the sheet. */
public final class ChecksBench {

    private static final int TEXTS = 200_000;
    private static final int PAGE = 60;
    private static final int INTAKE = 100_000;
    private static final String[] WORDS = {
        "ramp",
        "visor",
        "bilge",
        "pump",
        "deck",
        "open",
        "closed",
        "the",
        "of",
        "and",
        "boarding",
        "passenger",
        "harbour",
        "low"
    };
    private static final String[] GERMAN = {
        "Rampe",
        "Visier",
        "Bilge",
        "Pumpe",
        "Deck",
        "offen",
        "zu",
        "die",
        "von",
        "und",
        "Einstieg",
        "Fahrgast",
        "Hafen",
        "niedrig"
    };

    private ChecksBench() {}

    public static void main(String[] arguments) throws Exception {
        PrintStream out = new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
        Figures figures = new Figures(out);
        figures.line("work", "texts", "took", "against", "took", "ratio");
        engine(figures, out);
        try (Product product = new Product()) {
            intake(product, out, 2_000);
            intake(product, out, INTAKE);
        }
        try (Product product = new Product()) {
            new RecordBench(product, out).fill();
            again(product, out);
        }
    }

    private record Pair(Measure measure, SortedMap<String, String> text) {}

    /** Texts of interfaces: 2 to 9 words, one in four with a placeholder, one in eight with a number, a few that are wrong. */
    private static List<Pair> pairs() {
        Random random = new Random(11);
        List<Pair> pairs = new ArrayList<>();
        for (int i = 0; i < TEXTS; i++) {
            StringBuilder source = new StringBuilder();
            StringBuilder text = new StringBuilder();
            int words = 2 + random.nextInt(8);
            for (int w = 0; w < words; w++) {
                int word = random.nextInt(WORDS.length);
                source.append(w == 0 ? "" : " ").append(WORDS[word]);
                text.append(w == 0 ? "" : " ").append(GERMAN[word]);
            }
            if (i % 4 == 0) {
                source.append(" {gate}");
                text.append(i % 100 == 0 ? "" : " {gate}");
            }
            if (i % 8 == 1) {
                source.append(" 25");
                text.append(" 25");
            }
            pairs.add(new Pair(
                    new Measure(
                            Shape.PLAIN,
                            new TreeMap<>(Map.of("other", source.append('.').toString())),
                            80,
                            2),
                    new TreeMap<>(Map.of("other", text.append('.').toString()))));
        }
        return pairs;
    }

    private static void engine(Figures figures, PrintStream out) throws Exception {
        List<Pair> pairs = pairs();
        Ground ground = Ground.of(new LanguageTag("en"), new LanguageTag("de"));
        double read = Figures.best(() -> {
            int sum = 0;
            for (Pair pair : pairs) {
                sum += characters(pair.measure().source()) + characters(pair.text());
            }
            return sum;
        });
        double looked = Figures.best(() -> {
            int found = 0;
            for (Pair pair : pairs) {
                found += Checks.found(pair.measure(), pair.text(), ground).size();
            }
            return found;
        });
        figures.compare("all kinds of checks", TEXTS, looked, "reading each character", read);
        out.printf(Locale.ROOT, "%,.0f texts a second on one core%n", TEXTS / looked);
    }

    /** A new sheet of two languages is taken in; the part of that time in which texts are looked at and what is found is stored. */
    private static void intake(Product product, PrintStream out, int rows) throws Exception {
        StringBuilder sheet = new StringBuilder("key,en,de\n");
        List<Pair> pairs = pairs();
        for (int i = 0; i < rows; i++) {
            Pair pair = pairs.get(i);
            sheet.append("intake.")
                    .append(i)
                    .append(",\"")
                    .append(pair.measure().source().get("other"));
            sheet.append(" (").append(i).append(")\",\"").append(pair.text().get("other"));
            sheet.append(" (").append(i).append(")\"\n");
        }
        long id = product.upload("intake-" + rows + ".csv", sheet.toString().getBytes(StandardCharsets.UTF_8))
                .path("id")
                .asLong();
        product.send(
                "PUT",
                "/api/intakes/" + id + "/options",
                "{\"newTable\":\"Intake " + rows + "\",\"source\":\"en\",\"settlesOwn\":true,\"arrival\":\"SETTLED\"}");
        IntakeBench.compared(product, id);
        MaskTimer.seconds();
        long start = System.nanoTime();
        IntakeBench.take(product, id);
        double took = seconds(start);
        double stored = MaskTimer.seconds();
        out.printf(
                Locale.ROOT,
                "%,d texts taken in in %.1f s; looking at them and storing what is found %.1f s of it, %.0f %%%n",
                rows,
                took,
                stored,
                100 * stored / took);
    }

    private static int characters(SortedMap<String, String> forms) {
        int sum = 0;
        for (String text : forms.values()) {
            for (int at = 0; at < text.length(); at++) {
                sum += text.charAt(at);
            }
        }
        return sum;
    }

    /** A pattern of placeholders has every text looked at again; meanwhile pages of the sheet are read. */
    private static void again(Product product, PrintStream out) throws Exception {
        long[] ids = ids(product, "/api/scope?table=large");
        Random random = new Random(5);
        page(product, ids, random);
        long start = System.nanoTime();
        product.send(
                "PUT",
                "/api/tables/large/checks",
                "{\"version\":0,\"weights\":{},\"placeholders\":[\"\\\\[\\\\[[a-z]+]]\"],\"forbidden\":\"\",\"lengthFactor\":0,\"keyRule\":\"\",\"charset\":\"\"}");
        List<Double> pages = new ArrayList<>();
        JsonNode counts;
        do {
            for (int i = 0; i < 10; i++) {
                pages.add(page(product, ids, random));
            }
            counts = product.json(product.get("/api/findings/counts?scope=table%3Dlarge"));
        } while (counts.path("again").path("tables").asInt() > 0);
        double took = seconds(start);
        double[] all = pages.stream().mapToDouble(Double::doubleValue).toArray();
        out.printf(
                Locale.ROOT,
                "%,d texts looked at again in %.0f s; a page of the sheet meanwhile: median %.0f ms, p95 %.0f ms; %,d texts have a finding%n",
                counts.path("texts").asLong(),
                took,
                percentile(all, 50) * 1000,
                percentile(all, 95) * 1000,
                counts.path("toMend").asLong());
    }

    private static double page(Product product, long[] ids, Random random) throws Exception {
        int from = random.nextInt(ids.length - PAGE);
        String query = String.join(
                ",",
                Arrays.stream(ids, from, from + PAGE).mapToObj(Long::toString).toList());
        long start = System.nanoTime();
        product.get("/api/rows?in=de,ar,ja&ids=" + query);
        return seconds(start);
    }
}
