package mellow.bench;

import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import mellow.core.scan.CodeScanner;
import mellow.core.scan.Habit;
import mellow.core.scan.HardText;
import mellow.core.scan.IgnoreRules;
import mellow.core.scan.KnownKeys;
import mellow.core.scan.ReadyHabits;

/**
 * {@code ./mellow bench scan}: how right the texts without keys are on the demo's four source trees, against what was written down by hand; and the command over a
 * million lines, beside {@code grep -rn} of one pattern over the same tree.
 */
public final class ScanBench {

    private static final Path DEMO = Path.of("demo/code");
    private static final String[][] TREES = {
        {"ramp-panel", "panel"}, {"deckside", "app"}, {"skippers-post", "game"}, {"booking-site", "site"}
    };
    private static final int LINES = 1_000_000;
    private static final int TENTH = 10;
    private static final int IN_FOLDER = 200;
    private static final int REPEATS = 3;
    private static final double KILO = 1024;

    private final PrintStream out = System.out;

    private ScanBench() {}

    /** Prints both. */
    public static void main(String[] arguments) throws Exception {
        ScanBench bench = new ScanBench();
        bench.right();
        bench.quick();
    }

    private record Judged(int told, int right, int wanted) {}

    private void right() throws IOException {
        out.println("texts without keys      told  right  wanted  precision  recall");
        int told = 0;
        int right = 0;
        int wanted = 0;
        for (String[] tree : TREES) {
            Judged judged = judge(tree[0], tree[1]);
            line(tree[0], judged);
            told += judged.told;
            right += judged.right;
            wanted += judged.wanted;
        }
        line("all", new Judged(told, right, wanted));
    }

    private void line(String name, Judged judged) {
        out.printf(
                Locale.ROOT,
                "%-22s %5d %6d %7d %9.1f%% %6.1f%%%n",
                name,
                judged.told,
                judged.right,
                judged.wanted,
                100.0 * judged.right / judged.told,
                100.0 * judged.right / judged.wanted);
    }

    private Judged judge(String name, String kind) throws IOException {
        List<String> wanted = new ArrayList<>(Files.readAllLines(DEMO.resolve(name + ".truth")).stream()
                .filter(line -> !line.startsWith("#"))
                .toList());
        int all = wanted.size();
        List<Habit> habits = new ArrayList<>(ReadyHabits.of(kind).habits());
        habits.add(new Habit.Own("talk", "*.talk", "@(?P<key>[\\w.-]+)(?:\\s+\"(?P<text>[^\"\\n]*)\")?"));
        CodeScanner scanner = new CodeScanner(habits, KnownKeys.NONE);
        int told = 0;
        int right = 0;
        for (Path file : files(DEMO.resolve(name))) {
            String path = DEMO.resolve(name).relativize(file).toString();
            for (HardText text : scanner.scan(path, Files.readAllBytes(file)).texts()) {
                told++;
                String line = path + "\t" + text.text().replace("\n", "⏎");
                if (wanted.remove(line)) {
                    right++;
                } else {
                    out.println("  told, and nobody sees it: " + line);
                }
            }
        }
        wanted.forEach(line -> out.println("  not told: " + line));
        return new Judged(told, right, all);
    }

    private static List<Path> files(Path root) throws IOException {
        IgnoreRules rules = IgnoreRules.none();
        for (String name : IgnoreRules.FILES) {
            if (Files.exists(root.resolve(name))) {
                rules = rules.with("", Files.readString(root.resolve(name)));
            }
        }
        IgnoreRules all = rules;
        try (Stream<Path> walk = Files.walk(root)) {
            return walk.filter(Files::isRegularFile)
                    .filter(file -> {
                        Path path = root.relativize(file);
                        boolean out = all.ignores(path.toString(), false);
                        for (Path folder = path.getParent(); folder != null; folder = folder.getParent()) {
                            out |= all.ignores(folder.toString(), true);
                        }
                        return !out;
                    })
                    .sorted()
                    .toList();
        }
    }

    private void quick() throws Exception {
        Path root = Files.createTempDirectory("mellow-scan");
        try {
            Path few = root.resolve("few");
            Path many = root.resolve("many");
            make(few, LINES / TENTH);
            make(many, LINES);
            out.printf(
                    "%n%,d lines of code in the manner of the demo's trees, %,.1f MB%n",
                    LINES, size(many) / KILO / KILO);
            double grep = best(List.of("grep", "-rn", "R\\.string\\.", many.toString()));
            double hundred = best(scan(few));
            double million = best(scan(many));
            out.printf(Locale.ROOT, "grep -rn                       %6.2f s%n", grep);
            out.printf(Locale.ROOT, "mellow scan, %,9d lines    %6.2f s, heap of 128 MB%n", LINES / TENTH, hundred);
            out.printf(
                    Locale.ROOT,
                    "mellow scan, %,9d lines    %6.2f s, heap of 128 MB: %.1f times grep%n",
                    LINES,
                    million,
                    million / grep);
        } finally {
            try (Stream<Path> walk = Files.walk(root)) {
                for (Path path : walk.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(path);
                }
            }
        }
    }

    private static List<String> scan(Path tree) {
        return List.of(
                "java",
                "-Xmx128m",
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty("java.class.path"),
                "mellow.server.launch.Mellow",
                "scan",
                tree.toString(),
                "--kind",
                "site");
    }

    private static double best(List<String> command) throws IOException, InterruptedException {
        double best = Double.MAX_VALUE;
        for (int i = 0; i < REPEATS; i++) {
            long start = System.nanoTime();
            Process process = new ProcessBuilder(command)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .redirectError(ProcessBuilder.Redirect.DISCARD)
                    .start();
            if (!process.waitFor(10, TimeUnit.MINUTES) || process.exitValue() != 0) {
                throw new IllegalStateException(command + " ended with " + process.exitValue());
            }
            best = Math.min(best, (System.nanoTime() - start) / 1e9);
        }
        return best;
    }

    /** Copies of the demo's files in folders of some hundred, with numbers in their words so that no two are the same. */
    private static void make(Path root, int lines) throws IOException {
        List<Path> sources = new ArrayList<>();
        for (String[] tree : TREES) {
            sources.addAll(files(DEMO.resolve(tree[0])));
        }
        int made = 0;
        for (int n = 0; made < lines; n++) {
            Path source = sources.get(n % sources.size());
            String text = Files.readString(source).replace("the", "the" + n % 97);
            String name = source.getFileName().toString();
            Path folder = root.resolve("part" + n / IN_FOLDER);
            Files.createDirectories(folder);
            Files.writeString(folder.resolve(n + "-" + name), text, StandardCharsets.UTF_8);
            made += (int) text.lines().count();
        }
    }

    private static long size(Path root) throws IOException {
        try (Stream<Path> walk = Files.walk(root)) {
            return walk.filter(Files::isRegularFile)
                    .mapToLong(path -> path.toFile().length())
                    .sum();
        }
    }
}
