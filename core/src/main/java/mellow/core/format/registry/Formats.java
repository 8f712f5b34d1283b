package mellow.core.format.registry;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import mellow.core.format.FileFormat;
import mellow.core.format.FileFormat.Sample;
import mellow.core.format.FileReading;
import mellow.core.format.Position;
import mellow.core.format.Problem;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.android.AndroidFormat;
import mellow.core.format.csv.CsvFileFormat;
import mellow.core.format.json.JsonFormat;
import mellow.core.format.ledger.LedgerFormat;
import mellow.core.format.memory.TbxFormat;
import mellow.core.format.memory.TmxFormat;
import mellow.core.format.po.MoFormat;
import mellow.core.format.po.PoFormat;
import mellow.core.format.properties.PropertiesFormat;
import mellow.core.format.source.SourceText;
import mellow.core.format.workbook.OdsFormat;
import mellow.core.format.workbook.XlsxFormat;
import mellow.core.format.xliff.XliffFormat;
import mellow.core.format.yaml.YamlFormat;

/** The formats, those with the plainest marks first: where two are equally sure of a file, the earlier has it. */
public final class Formats {

    private static final int SAMPLE = 8_192;

    /** What a name with a fitting first line gives at least. */
    private static final int NAMED = 45;

    /** What only a content gives that can be nothing else. */
    private static final int VOUCHED_FOR = 90;

    private static final List<FileFormat> ALL = List.of(
            new MoFormat(),
            new OdsFormat(),
            new XlsxFormat(),
            XliffFormat.FIRST,
            XliffFormat.SECOND,
            new TmxFormat(),
            new TbxFormat(),
            new AndroidFormat(),
            new PoFormat(),
            new LedgerFormat(),
            new JsonFormat(),
            new YamlFormat(),
            new PropertiesFormat(),
            new CsvFileFormat());

    /** Endings of new files; for reading, content counts before the name. */
    private static final Map<String, String> ENDINGS = Map.ofEntries(
            Map.entry("csv", "csv"),
            Map.entry("xlsx", "xlsx"),
            Map.entry("ods", "ods"),
            Map.entry("tmx", "tmx"),
            Map.entry("tbx", "tbx"),
            Map.entry("ledger.json", "ledger-json"),
            Map.entry("po", "po"),
            Map.entry("pot", "po"),
            Map.entry("mo", "mo"),
            Map.entry("xlf", "xliff-1.2"),
            Map.entry("xliff", "xliff-2"),
            Map.entry("json", "json"),
            Map.entry("yml", "yaml"),
            Map.entry("yaml", "yaml"),
            Map.entry("properties", "properties"),
            Map.entry("xml", "android"));

    private static final Map<String, String> OTHER_NAMES = Map.of(
            "xliff", "xliff-1.2",
            "xliff1.2", "xliff-1.2",
            "xliff2", "xliff-2",
            "xliff-2.0", "xliff-2",
            "xliff-2.1", "xliff-2",
            "yml", "yaml",
            "tsv", "csv",
            "pot", "po",
            "java-properties", "properties");

    private Formats() {}

    /** All formats, in order. */
    public static List<FileFormat> all() {
        return ALL;
    }

    /** The format of that name. */
    public static Optional<FileFormat> named(String name) {
        String lower = name.toLowerCase(Locale.ROOT);
        String known = OTHER_NAMES.getOrDefault(lower, lower);
        return ALL.stream().filter(format -> format.name().equals(known)).findFirst();
    }

    /** The format that a new file of that name is written in. */
    public static Optional<FileFormat> forNew(String path) {
        String lower = path.toLowerCase(Locale.ROOT);
        int dot = lower.endsWith(".ledger.json") ? lower.length() - ".ledger.json".length() : path.lastIndexOf('.');
        return dot < 0
                ? Optional.empty()
                : Optional.ofNullable(ENDINGS.get(path.substring(dot + 1).toLowerCase(Locale.ROOT)))
                        .flatMap(Formats::named);
    }

    /** The format that a file is most likely of; content counts before the name. */
    public static Optional<FileFormat> detect(String path, byte[] bytes) {
        return detect(path, bytes, 1);
    }

    /** The same among files of all kinds that came together, of which many are no texts: a format that its name or its content vouches for. */
    public static Optional<FileFormat> detectAmongOthers(String path, byte[] bytes) {
        String lower = path.toLowerCase(Locale.ROOT);
        boolean named = forNew(path).isPresent() || lower.matches(".*\\.(tsv|tab|txt|arb|gmo)");
        return detect(path, bytes, named ? NAMED : VOUCHED_FOR);
    }

    private static Optional<FileFormat> detect(String path, byte[] bytes, int least) {
        byte[] head = Arrays.copyOf(bytes, Math.min(SAMPLE, bytes.length));
        Charset charset = SourceText.charsetOf(head, StandardCharsets.UTF_8);
        String text = new String(head, charset);
        String name = path.substring(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1)
                .toLowerCase(Locale.ROOT);
        Sample sample = new Sample(name, path, head, text.startsWith("\uFEFF") ? text.substring(1) : text);
        FileFormat best = null;
        int surest = least - 1;
        for (FileFormat format : ALL) {
            int sure = format.likelihood(sample);
            if (sure > surest) {
                surest = sure;
                best = format;
            }
        }
        return Optional.ofNullable(best);
    }

    /**
     * Reads a file of whatever format it is.
     *
     * @throws UnreadableFileException when it is of none, or cannot be read
     */
    public static FileReading read(String path, byte[] bytes, ReadOptions options) {
        FileFormat format = detect(path, bytes).orElseThrow(() -> unknown(path));
        return format.read(path, bytes, options);
    }

    /** The refusal of a file of no format. */
    public static UnreadableFileException unknown(String path) {
        String known = ALL.stream().map(FileFormat::name).collect(Collectors.joining(", "));
        return new UnreadableFileException(
                Problem.error(path, Position.WHOLE_FILE, "this is of no known format", "one of " + known));
    }
}
