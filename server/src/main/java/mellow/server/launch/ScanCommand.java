package mellow.server.launch;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintWriter;
import java.net.http.HttpRequest.BodyPublishers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import mellow.core.scan.CodeScanner;
import mellow.core.scan.FileFindings;
import mellow.core.scan.FileFindings.Skipped;
import mellow.core.scan.KnownKeys;
import mellow.core.scan.ReadyHabits;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * {@code mellow scan}: looks through a product's code where it lies, and tells a running server what it found: places and what stands on their lines. The files
 * themselves stay here.
 */
@Command(
        name = "scan",
        description = "Looks through a product's code for its keys and for texts that have none.",
        mixinStandardHelpOptions = true)
final class ScanCommand extends RemoteCommand implements Callable<Integer> {

    private static final int FOUND_MISSING = 1;
    private static final int AT_ONCE = 256;
    private static final int MOST_TOLD = 50;
    private static final JsonMapper JSON = JsonMapper.shared();

    @Parameters(paramLabel = "FOLDER", description = "the root of the code")
    private Path folder = Path.of(".");

    @Option(names = "--product", paramLabel = "NAME", description = "the product, by its name in addresses")
    private @Nullable String product;

    @Option(
            names = "--kind",
            paramLabel = "KIND",
            description = "without a server: look as for a panel, an app, a game or a site, and only say what there is")
    private @Nullable String kind;

    @Option(
            names = "--fail-on",
            paramLabel = "WHAT",
            description = "end with 1 when there is any: missing, for keys that no table has; so that a build can stop")
    private @Nullable String failOn;

    @Option(
            names = "--patch",
            paramLabel = "FILE",
            description = "write the patch that puts keys where texts were that have become entries")
    private @Nullable Path patch;

    /** What was seen on the way. */
    private static final class Tally {
        private int files;
        private long lines;
        private int ignored;
        private int binary;
        private int large;
        private int uses;
        private int texts;

        void count(FileFindings found) {
            if (found.skipped() == Skipped.BINARY) {
                binary++;
            } else if (found.skipped() == Skipped.LARGE) {
                large++;
            } else {
                files++;
            }
            lines += found.lines();
            uses += found.uses().size();
            texts += found.texts().size();
        }

        String told() {
            return String.format(
                    "%,d files with %,d lines; %,d left out by the tree's own rules, %,d that are no text, %,d too large. %,d places use keys, %,d texts have none.",
                    files, lines, ignored, binary, large, uses, texts);
        }
    }

    @Override
    public Integer call() throws IOException {
        if (!Files.isDirectory(folder)) {
            throw new LaunchException("“" + folder + "” is no folder.");
        }
        if (failOn != null && !failOn.equals("missing")) {
            throw new LaunchException("--fail-on can be missing, not “" + failOn + "”.");
        }
        PrintWriter out = spec.commandLine().getOut();
        if (product == null) {
            return alone(out);
        }
        String at = "/api/products/" + encoded(product) + "/code";
        List<String> keys = new String(
                        send(request(at + "/keys", Map.of()).GET().build()).body(), StandardCharsets.UTF_8)
                .lines()
                .toList();
        CodeScanner scanner = new CodeScanner(SentHabits.read(json(at + "/settings")), KnownKeys.of(keys));
        Tally tally = new Tally();
        Path found = Files.createTempFile("mellow-", ".findings");
        try {
            try (OutputStream file = new BufferedOutputStream(Files.newOutputStream(found))) {
                look(scanner, tally, one -> {
                    file.write(JSON.writeValueAsBytes(one));
                    file.write('\n');
                });
            }
            JsonNode begun = JSON.readTree(send(request(at + "/findings", query(tally))
                            .header("Content-Type", "application/octet-stream")
                            .POST(BodyPublishers.ofFile(found))
                            .build())
                    .body());
            await(at + "/scans/" + begun.path("scan").asLong(), "it", "It was not kept.");
        } finally {
            Files.deleteIfExists(found);
        }
        out.println(tally.told());
        int missing = tell(at, out);
        if (patch != null) {
            Files.write(
                    patch, send(request(at + "/patch", Map.of()).GET().build()).body());
        }
        return failOn != null && missing > 0 ? FOUND_MISSING : 0;
    }

    private int alone(PrintWriter out) throws IOException {
        if (kind == null) {
            throw new LaunchException(
                    "Say which product it is: --product NAME; or, to look without a server, --kind panel, app, game or site.");
        }
        CodeScanner scanner = new CodeScanner(ReadyHabits.of(kind).habits(), KnownKeys.NONE);
        Tally tally = new Tally();
        look(scanner, tally, one -> one.texts()
                .forEach(text -> out.println(one.path() + ":" + text.place().line() + ": "
                        + text.text().replace("\n", "⏎"))));
        out.println(tally.told());
        return 0;
    }

    private Map<String, String> query(Tally tally) {
        Map<String, String> query = new TreeMap<>();
        query.put("name", folder.toAbsolutePath().normalize().getFileName() + "/");
        query.put("files", Integer.toString(tally.files));
        query.put("lines", Long.toString(tally.lines));
        query.put("ignored", Integer.toString(tally.ignored));
        query.put("binary", Integer.toString(tally.binary));
        query.put("large", Integer.toString(tally.large));
        return query;
    }

    /** What is done with a file in which something was found. */
    @FunctionalInterface
    private interface Take {
        void file(FileFindings found) throws IOException;
    }

    /** Looks through the files some hundred at a time, on all processors, and hands over what was found in their order. */
    private void look(CodeScanner scanner, Tally tally, Take take) throws IOException {
        FolderTree tree = new FolderTree(folder);
        List<Path> some = new ArrayList<>();
        for (Path file : tree.files()) {
            some.add(file);
            if (some.size() == AT_ONCE) {
                look(scanner, some, tally, take);
                some.clear();
            }
        }
        look(scanner, some, tally, take);
        tally.ignored = tree.ignored();
    }

    private void look(CodeScanner scanner, List<Path> files, Tally tally, Take take) throws IOException {
        List<FileFindings> found = files.parallelStream()
                .map(file -> scanner.scan(
                        folder.relativize(file).toString().replace('\\', '/'),
                        FolderTree.content(file, CodeScanner.LARGEST + 1)))
                .toList();
        for (FileFindings one : found) {
            tally.count(one);
            if (!one.uses().isEmpty() || !one.texts().isEmpty()) {
                take.file(one);
            }
        }
    }

    /** Says how the code stands to the tables; how many keys are missing. */
    private int tell(String at, PrintWriter out) {
        JsonNode told = json(at);
        int missing = told.path("missing").asInt();
        out.printf(
                "Entries: %,d used, %,d perhaps, %,d in tests only, %,d unused. Keys missing: %,d. Texts that differ: %,d, values that do not fit: %,d. Texts without keys: %,d open, %,d put off, %,d ignored, %,d taken.%n",
                told.path("used").asInt(),
                told.path("maybe").asInt(),
                told.path("tests").asInt(),
                told.path("unused").asInt(),
                missing,
                told.path("differing").asInt(),
                told.path("misfits").asInt(),
                told.path("open").asInt(),
                told.path("later").asInt(),
                told.path("ignored").asInt(),
                told.path("taken").asInt());
        int shown = 0;
        for (JsonNode key : missing > 0 ? json(at + "/missing") : JSON.createArrayNode()) {
            if (shown++ < MOST_TOLD) {
                String context = key.path("context").asString();
                out.println("missing: " + key.path("path").asString() + ":"
                        + key.path("line").asInt() + ": " + key.path("key").asString()
                        + (context.isEmpty() ? "" : " (" + context + ")"));
            }
        }
        if (missing > MOST_TOLD) {
            out.printf("… and %,d more%n", missing - MOST_TOLD);
        }
        return missing;
    }
}
