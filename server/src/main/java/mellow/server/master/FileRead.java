package mellow.server.master;

import java.nio.charset.Charset;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import mellow.core.format.EmptyReading;
import mellow.core.format.EntryId;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FormRows;
import mellow.core.format.Habits;
import mellow.core.format.Problem;
import mellow.core.format.ReadOptions;
import mellow.core.format.charset.TextEncoding;
import mellow.core.format.csv.CsvDialect;
import mellow.core.format.csv.CsvFormat;
import mellow.core.format.csv.CsvOptions;
import mellow.core.format.csv.CsvReading;
import mellow.core.format.registry.Formats;
import mellow.core.format.sheet.SheetLayout;
import mellow.core.format.workbook.WorkbookFormat;
import mellow.core.format.workbook.WorkbookReading;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.server.common.Refusal;
import mellow.server.master.ReadingChoice.ColumnChoice;
import mellow.server.master.ReadingChoice.SheetChoice;
import org.jspecify.annotations.Nullable;

/**
 * A file read as was decided about it, or as it seems.
 *
 * @param format its format
 * @param raw what was read, row by row
 * @param reading the same as entries: rows that are forms of one entry put together
 */
public record FileRead(FileFormat format, FileReading raw, FileReading reading) {

    private static final String CSV = "csv";

    /**
     * Reads a file.
     *
     * @param source the source language of the table it goes into
     * @param formed the table's entries that have forms
     * @throws mellow.core.format.UnreadableFileException when it cannot be read
     */
    public static FileRead of(
            String path, byte[] content, ReadingChoice options, LanguageTag source, Map<EntryId, Shape> formed) {
        FileFormat format = format(path, content, options);
        return new FileRead(
                format, raw(format, path, content, options, known(options).from(source)), formed);
    }

    /** Separated text and workbooks are read although nothing tells what their columns hold, so that somebody can say it. */
    private static FileReading raw(
            FileFormat format, String path, byte[] content, ReadingChoice options, ReadOptions known) {
        if (format.name().equals(CSV)) {
            return CsvFormat.read(path, content, csv(options));
        }
        return format instanceof WorkbookFormat workbook
                ? workbook.read(path, content, known, layouts(options))
                : format.read(path, content, known);
    }

    /** The same of a file in a set, in which a language that has no texts yet is one. */
    public static FileRead ofMember(
            String path, byte[] content, ReadingChoice options, LanguageTag source, Map<EntryId, Shape> formed) {
        FileFormat format = format(path, content, options);
        return EmptyReading.of(path, format.name(), content, known(options))
                .map(empty -> new FileRead(format, empty, empty))
                .orElseGet(() -> of(path, content, options, source, formed));
    }

    /** Reads a file as it tells by itself, its source language included, and understood as {@code habits} say where files do not tell; {@code among} others of all kinds, it may be no text, or a language with nothing yet. */
    public static FileRead byItself(String path, byte[] content, boolean among, ReadingChoice habits) {
        FileFormat format = (among ? Formats.detectAmongOthers(path, content) : Formats.detect(path, content))
                .orElseThrow(() -> Formats.unknown(path));
        FileReading read = Optional.of(ReadOptions.AUTOMATIC)
                .filter(options -> among)
                .flatMap(options -> EmptyReading.of(path, format.name(), content, options))
                .orElseGet(() -> raw(format, path, content, ReadingChoice.UNDECIDED, known(habits)));
        return new FileRead(format, read, Map.of());
    }

    /** The same as if it had been read as somebody says, where that makes no difference; empty where it has to be read anew. */
    public Optional<FileRead> as(ReadingChoice options, LanguageTag source, Map<EntryId, Shape> formed) {
        List<LanguageTag> languages = raw.languages();
        String language = options.language();
        ReadingChoice bare = options.understood(null, null);
        boolean plain = bare.equals(language == null ? ReadingChoice.UNDECIDED : ReadingChoice.UNDECIDED.in(language));
        Habits habits = raw.habits();
        boolean understood = (options.keys() == null || habits.key().equals(Optional.of(options.keys())))
                && (options.siblings() == null
                        || habits.siblings().isEmpty()
                        || habits.siblings().equals(Optional.of(options.siblings())));
        boolean spoken = language == null
                || (!languages.isEmpty()
                        && languages.get(languages.size() - 1).value().equals(language));
        boolean from = raw.sourceLanguage().isEmpty() || raw.sourceLanguage().equals(Optional.of(source));
        boolean told = language != null || !languages.contains(LanguageTag.UNDETERMINED);
        return plain && understood && spoken && from && told
                ? Optional.of(new FileRead(format, raw, formed))
                : Optional.empty();
    }

    private static FileFormat format(String path, byte[] content, ReadingChoice options) {
        return options.format() == null
                ? Formats.detect(path, content).orElseThrow(() -> Formats.unknown(path))
                : Formats.named(options.format())
                        .orElseThrow(() -> Refusal.unacceptable(
                                "unknown-format",
                                "There is no format “{format}”.",
                                Map.of("format", options.format())));
    }

    private static ReadOptions known(ReadingChoice options) {
        ReadOptions known = ReadOptions.AUTOMATIC;
        if (options.charset() != null) {
            known = known.spelled(charset(options.charset()));
        }
        if (options.language() != null && !options.language().isBlank()) {
            known = known.in(ReadingChoice.tag(options.language(), ""));
        }
        if (options.keys() != null) {
            known = known.by(options.keys());
        }
        if (options.siblings() != null) {
            known = known.with(options.siblings());
        }
        return known;
    }

    /** Reads a file whose table does not matter yet. */
    public static FileRead of(String path, byte[] content, ReadingChoice options, LanguageTag source) {
        return of(path, content, options, source, Map.of());
    }

    /** The same with the rows of a table's entries that have forms put together. */
    FileRead formed(Map<EntryId, Shape> formed) {
        return formed.isEmpty() ? this : new FileRead(format, raw, formed);
    }

    private FileRead(FileFormat format, FileReading raw, Map<EntryId, Shape> formed) {
        this(format, raw, FormRows.of(raw, formed));
    }

    private static CsvOptions csv(ReadingChoice options) {
        CsvOptions csv = CsvOptions.AUTOMATIC;
        if (options.charset() != null) {
            csv = csv.withEncoding(new TextEncoding(charset(options.charset()), 0));
        }
        String delimiter = options.delimiter();
        if (delimiter != null && !delimiter.isEmpty()) {
            String quote = options.quote();
            csv = csv.withDialect(dialect(delimiter, quote == null || quote.isEmpty() ? "\"" : quote));
        }
        List<ColumnChoice> columns = options.columns();
        Integer headerRow = options.headerRow();
        if (columns != null && headerRow != null) {
            csv = csv.withLayout(ReadingChoice.layout(headerRow, columns));
        } else if (headerRow != null) {
            csv = csv.withHeaderRow(headerRow);
        }
        return csv;
    }

    private static Map<String, SheetLayout> layouts(ReadingChoice options) {
        List<SheetChoice> sheets = options.sheets() == null ? List.of() : options.sheets();
        Map<String, SheetLayout> layouts = new HashMap<>();
        sheets.forEach(sheet -> layouts.put(sheet.name(), sheet.layout()));
        return layouts;
    }

    private static CsvDialect dialect(String delimiter, String quote) {
        try {
            return new CsvDialect(delimiter.charAt(0), quote.charAt(0));
        } catch (IllegalArgumentException notPossible) {
            throw Refusal.unacceptable(
                    "bad-dialect", "Delimiter and quote must be two different characters of ASCII, within a line.");
        }
    }

    private static Charset charset(String name) {
        return TextEncoding.SUPPORTED.stream()
                .filter(charset -> charset.name().toLowerCase(Locale.ROOT).equals(name.toLowerCase(Locale.ROOT)))
                .findFirst()
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-charset",
                        "The character set \u201c{name}\u201d cannot be read here.",
                        Map.of("name", name)));
    }

    /** The reading of separated text, which knows more about itself. */
    public Optional<CsvReading> separated() {
        return raw instanceof CsvReading csv ? Optional.of(csv) : Optional.empty();
    }

    /** The reading of a workbook, which knows its sheets. */
    public Optional<WorkbookReading> workbook() {
        return raw instanceof WorkbookReading workbook ? Optional.of(workbook) : Optional.empty();
    }

    /** Why it cannot be taken in before something is corrected; empty when it can. */
    public Optional<String> blocked() {
        if (flawed()) {
            return reading.problems().stream()
                    .filter(problem -> problem.severity() == Problem.Severity.ERROR)
                    .findFirst()
                    .map(Problem::sentence);
        }
        int unknown = reading.languages().indexOf(LanguageTag.UNDETERMINED);
        boolean texts = unknown >= 0
                && IntStream.range(0, reading.size())
                        .anyMatch(i -> !reading.entry(i).texts().get(unknown).isEmpty());
        return texts
                ? Optional.of("The file does not say which language its texts are in; choose it.")
                : Optional.empty();
    }

    /** Whether somebody has to say what its columns hold before it has entries. */
    public boolean flawed() {
        return separated().filter(CsvReading::blocked).isPresent()
                || workbook().filter(WorkbookReading::blocked).isPresent();
    }

    /** How many problems the file has, those not kept included. */
    public int problemCount() {
        return separated()
                .map(CsvReading::problemCount)
                .orElse(reading.problems().size());
    }

    /** The language of its texts when it holds texts in one, beside its sources. */
    public @Nullable String language() {
        List<LanguageTag> languages = reading.languages();
        if (separated().isPresent() || workbook().isPresent() || languages.isEmpty() || languages.size() > 2) {
            return null;
        }
        LanguageTag own = languages.size() == 1
                ? languages.get(0)
                : reading.sourceLanguage()
                        .map(source -> languages.get(1 - Math.max(0, languages.indexOf(source))))
                        .orElse(LanguageTag.UNDETERMINED);
        boolean one = languages.size() == 1 || format.bilingual();
        return !one ? null : own.equals(LanguageTag.UNDETERMINED) ? "" : own.value();
    }

    /** {@code options} with every guess written down, so that the file is read the same way for ever. */
    public ReadingChoice exact(ReadingChoice options) {
        Optional<CsvReading> csv = separated();
        String language = language();
        return new ReadingChoice(
                format.name(),
                csv.isPresent() || options.charset() != null ? reading.charset() : null,
                csv.map(one -> String.valueOf(one.dialect().delimiter())).orElse(null),
                csv.map(one -> String.valueOf(one.dialect().quote())).orElse(null),
                csv.map(one -> one.layout().headerRow()).orElse(null),
                csv.map(one -> one.layout().columns().stream()
                                .map(ColumnChoice::of)
                                .toList())
                        .orElse(null),
                workbook()
                        .map(book -> book.sheets().stream()
                                .map(sheet -> new SheetChoice(
                                        sheet.name(),
                                        sheet.taken() ? sheet.layout().headerRow() : -1,
                                        sheet.taken()
                                                ? sheet.layout().columns().stream()
                                                        .map(ColumnChoice::of)
                                                        .toList()
                                                : List.of()))
                                .toList())
                        .orElse(null),
                language == null || language.isEmpty() ? options.language() : language,
                raw.habits().key().orElse(null),
                raw.habits().siblings().orElse(null));
    }
}
