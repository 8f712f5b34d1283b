package mellow.server.launch;

import java.io.IOException;
import java.net.URLDecoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** {@code mellow pull}: fetches a table of a running server as files. Each appears whole or not at all. */
@Command(name = "pull", description = "Fetches a table of a running server as files.", mixinStandardHelpOptions = true)
final class PullCommand extends RemoteCommand implements Callable<Integer> {

    private static final Pattern NAME = Pattern.compile("filename\\*=UTF-8''([^;]+)");

    @Option(names = "--to", paramLabel = "FOLDER", defaultValue = ".", description = "where files go")
    private Path folder = Path.of(".");

    @Option(names = "--format", paramLabel = "NAME", defaultValue = "csv", description = "the format of fresh files")
    private String format = "csv";

    @Option(names = "--in", paramLabel = "TAGS", split = ",", description = "the languages, all otherwise")
    private List<String> languages = List.of();

    @Option(
            names = "--untranslated",
            paramLabel = "WHAT",
            defaultValue = "empty",
            description = "where there is no text: empty, source or fallback")
    private String untranslated = "empty";

    @Option(names = "--only-settled", description = "leave texts out that nobody settled")
    private boolean onlySettled;

    @Option(
            names = "--names",
            paramLabel = "PATTERN",
            defaultValue = "{table}-{language}.{ext}",
            description = "how files are named, with {table}, {language} and {ext}")
    private String pattern = "{table}-{language}.{ext}";

    @Option(
            names = "--in-place",
            paramLabel = "PATH",
            description = "a file that was taken in, with only what changed, instead of fresh ones")
    private @Nullable String inPlace;

    @Option(
            names = "--set",
            description =
                    "all files that the table was taken in from, at their paths, with one for each language that has none yet")
    private boolean set;

    @Option(
            names = "--only",
            paramLabel = "PATTERN",
            description = "only the files whose path matches, such as **.yml; may be given several times")
    private List<String> only = List.of();

    @Override
    public Integer call() throws IOException {
        Map<String, String> query = new LinkedHashMap<>();
        if (!set && inPlace != null) {
            query.put("file", inPlace);
        } else if (!set) {
            query.put("format", format);
            query.put("in", String.join(",", languages));
            query.put("untranslated", untranslated);
            query.put("onlySettled", Boolean.toString(onlySettled));
            query.put("pattern", pattern);
        }
        String kind = set ? "set" : inPlace == null ? "fresh" : "in-place";
        String path = "/api/tables/" + encoded(requiredTable()) + "/export/" + kind;
        HttpResponse<byte[]> response = send(request(path, query).GET().build());
        String name = name(response.headers().firstValue("Content-Disposition").orElse(""));
        if (name.endsWith(".zip")) {
            Unpacking.zip(response.body(), folder, only, spec.commandLine().getOut());
        } else {
            Unpacking.write(
                    folder.resolve(name), response.body(), spec.commandLine().getOut());
        }
        return 0;
    }

    private static String name(String disposition) {
        Matcher spelled = NAME.matcher(disposition);
        if (!spelled.find()) {
            throw new LaunchException("The server sent a file without a name.");
        }
        String name = URLDecoder.decode(spelled.group(1), StandardCharsets.UTF_8);
        return Path.of(name).getFileName().toString();
    }
}
