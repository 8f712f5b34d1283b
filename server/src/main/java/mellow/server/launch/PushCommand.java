package mellow.server.launch;

import java.io.IOException;
import java.net.http.HttpRequest.BodyPublishers;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** {@code mellow push}: takes files into a table of a running server, so that a build can bring its source file at every commit; or a folder of them. */
@Command(name = "push", description = "Takes files into a table of a running server.", mixinStandardHelpOptions = true)
final class PushCommand extends RemoteCommand implements Callable<Integer> {

    @Parameters(arity = "1..*", paramLabel = "FILE or FOLDER")
    private List<Path> files = List.of();

    @Option(
            names = "--only",
            paramLabel = "PATTERN",
            description =
                    "of a folder only the files whose path below it matches, such as **.yml; may be given several times")
    private List<String> only = List.of();

    @Option(names = "--skip", description = "of a folder go on without files that cannot go in")
    private boolean skip;

    @Option(names = "--as", paramLabel = "PATH", description = "the path that the file is known by; one file only")
    private @Nullable String as;

    @Option(names = "--dry-run", description = "only say what would be done")
    private boolean dryRun;

    @Option(
            names = "--arrival",
            paramLabel = "HOW",
            defaultValue = "settled",
            description = "how texts arrive: settled, offered or pencilled")
    private String arrival = "settled";

    @Option(
            names = "--meaning",
            paramLabel = "WHAT",
            defaultValue = "changed",
            description = "rewritten sources: changed, fix, or keep to leave them")
    private String meaning = "changed";

    @Option(names = "--gone", paramLabel = "WHAT", description = "entries that the file lost: remove or keep")
    private @Nullable String gone;

    @Option(names = "--lang", paramLabel = "TAG", description = "the language of the texts")
    private @Nullable String language;

    @Override
    public Integer call() throws IOException {
        if (as != null && files.size() > 1) {
            throw new LaunchException("--as names one file, and there are " + files.size() + ".");
        }
        int status = 0;
        for (Path file : files) {
            try {
                String said = Files.isDirectory(file) ? folder(file) : pushed(file);
                spec.commandLine().getOut().println(file + ": " + said);
            } catch (LaunchException refused) {
                spec.commandLine().getErr().println(file + ": " + refused.getMessage());
                status = REFUSED;
            }
        }
        return status;
    }

    /** Everything below a folder at once, as the server sorts it into tables. */
    private String folder(Path folder) throws IOException {
        Map<String, String> query = policy();
        if (!table.isEmpty()) {
            query.put("table", table);
        }
        query.put("skip", Boolean.toString(skip));
        Path archive = Files.createTempFile("mellow-", ".zip");
        try {
            FolderArchive.pack(folder, only, archive);
            JsonNode done = JsonMapper.shared()
                    .readTree(send(request("/api/intakes/sets", query)
                                    .header("Content-Type", "application/octet-stream")
                                    .POST(BodyPublishers.ofFile(archive))
                                    .build())
                            .body());
            return grid(done);
        } finally {
            Files.deleteIfExists(archive);
        }
    }

    /** A paragraph for each table, with a line for each of its files. */
    private String grid(JsonNode done) {
        StringBuilder grid = new StringBuilder();
        for (JsonNode one : done.path("intakes")) {
            JsonNode files = one.path("set").path("files");
            grid.append("\n")
                    .append(one.path("name").asString())
                    .append(" -> ")
                    .append(one.path("table").asString())
                    .append(", written in ")
                    .append(one.path("source").asString())
                    .append("; ")
                    .append(told(one.path("report")));
            for (JsonNode file : files) {
                JsonNode facts = file.path("facts");
                grid.append(String.format(
                        "%n  %-10s %7d texts %7d missing %5d unknown  %s%s",
                        file.path("source").asBoolean()
                                ? "(source)"
                                : file.path("language").asString("?"),
                        facts.path("texts").asInt(),
                        facts.path("missing").asInt(),
                        facts.path("unknown").asInt(),
                        file.path("path").asString(),
                        file.path("leftOut").asBoolean()
                                ? "  left out: " + facts.path("blocked").asString("")
                                : ""));
            }
        }
        for (JsonNode refused : done.path("refused")) {
            grid.append("\n  not taken: ").append(refused.path("why").asString());
        }
        return grid.isEmpty() ? "nothing in it can be taken in" : grid.toString();
    }

    private Map<String, String> policy() {
        Map<String, String> query = new LinkedHashMap<>();
        query.put("dryRun", Boolean.toString(dryRun));
        query.put("arrival", arrival.toUpperCase(Locale.ROOT));
        query.put("meaning", meaning.toUpperCase(Locale.ROOT));
        if (gone != null) {
            query.put("gone", gone.toUpperCase(Locale.ROOT));
        }
        return query;
    }

    private String pushed(Path file) throws IOException {
        if (!Files.isReadable(file)) {
            throw new LaunchException("There is no such file that can be read.");
        }
        Map<String, String> query = policy();
        query.put("name", as != null ? as : file.toString().replace('\\', '/'));
        query.put("table", requiredTable());
        if (language != null) {
            query.put("language", language);
        }
        JsonNode done = JsonMapper.shared()
                .readTree(send(request("/api/intakes", query)
                                .header("Content-Type", "application/octet-stream")
                                .POST(BodyPublishers.ofFile(file))
                                .build())
                        .body());
        return told(done);
    }

    /** "would do: NEW_ENTRIES 2, SOURCES_REWRITTEN 1; 3 texts settled, 1 offered, 0 pencilled; stale: de 2". */
    private String told(JsonNode done) {
        StringBuilder told = new StringBuilder(dryRun ? "would do: " : "did: ");
        String gap = "";
        for (JsonNode group : done.path("groups")) {
            told.append(gap)
                    .append(group.path("kind")
                            .asString()
                            .toLowerCase(Locale.ROOT)
                            .replace('_', ' '))
                    .append(' ')
                    .append(group.path("count").asInt());
            gap = ", ";
        }
        if (gap.isEmpty()) {
            return told.append("nothing, all of it is there already").toString();
        }
        told.append("; texts settled ").append(done.path("settled").asInt());
        told.append(", offered ").append(done.path("offered").asInt());
        told.append(", pencilled ").append(done.path("pencilled").asInt());
        if (!done.path("stale").isEmpty()) {
            told.append("; stale");
            done.path("stale").propertyStream().forEach(one -> told.append(' ')
                    .append(one.getKey())
                    .append(' ')
                    .append(one.getValue().asInt()));
        }
        for (JsonNode problem : done.path("problems")) {
            told.append("\n  ").append(problem.asString());
        }
        return told.toString();
    }
}
