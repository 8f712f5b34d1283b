package mellow.core.format.registry;

import java.util.List;
import java.util.Optional;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
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
import mellow.core.format.workbook.OdsFormat;
import mellow.core.format.workbook.XlsxFormat;
import mellow.core.format.xliff.XliffFormat;
import mellow.core.format.yaml.YamlFormat;

/** Every format there is. A new one is a line here, and everything else in its own package. */
public final class Formats {

    private static final FormatList ALL = new FormatList(List.of(
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
            new CsvFileFormat()));

    private Formats() {}

    /** All formats, in order. */
    public static List<FileFormat> all() {
        return ALL.all();
    }

    /** The format of that name. */
    public static Optional<FileFormat> named(String name) {
        return ALL.named(name);
    }

    /** The format that a new file of that name is written in. */
    public static Optional<FileFormat> forNew(String path) {
        return ALL.forNew(path);
    }

    /** The format that a file is most likely of; content counts before the name. */
    public static Optional<FileFormat> detect(String path, byte[] bytes) {
        return ALL.detect(path, bytes);
    }

    /** The same among files of all kinds that came together, of which many are no texts: a format that its name or its content vouches for. */
    public static Optional<FileFormat> detectAmongOthers(String path, byte[] bytes) {
        return ALL.detectAmongOthers(path, bytes);
    }

    /**
     * Reads a file of whatever format it is.
     *
     * @throws UnreadableFileException when it is of none, or cannot be read
     */
    public static FileReading read(String path, byte[] bytes, ReadOptions options) {
        return detect(path, bytes).orElseThrow(() -> unknown(path)).read(path, bytes, options);
    }

    /** The refusal of a file of no format. */
    public static UnreadableFileException unknown(String path) {
        return ALL.unknown(path);
    }
}
