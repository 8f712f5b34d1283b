package mellow.core.format.workbook;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.Position;
import mellow.core.format.Problem;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.Repeats;
import mellow.core.format.archive.Archive;
import mellow.core.format.sheet.Column.Role;
import mellow.core.format.sheet.LayoutFinder;
import mellow.core.format.sheet.RowEntries;
import mellow.core.format.sheet.SheetLayout;
import mellow.core.format.workbook.Sheet.Cell;
import mellow.core.format.workbook.Sheet.Kind;
import mellow.core.format.workbook.Sheet.Row;
import mellow.core.language.LanguageTag;

/** A workbook as it was read: the entries of every sheet that has a column of keys and one of texts. Of several such sheets each is a section. */
public final class WorkbookReading implements FileReading {

    private static final int SAMPLE_ROWS = LayoutFinder.SEARCHED_ROWS + 20;

    private final Archive archive;
    private final Problems problems;
    private final Function<WorkbookReading, FilePatch> patching;
    private final List<LanguageTag> languages;
    private final Optional<LanguageTag> source;
    private final List<Item> items;
    private final List<SheetShown> shown = new ArrayList<>();
    private final boolean blocked;

    /** An entry with its row. */
    record Item(FileEntry entry, Sheet sheet, Row row, RowEntries columns) {}

    /**
     * A sheet as it stands in the workbook.
     *
     * @param name its name
     * @param layout what its columns hold, as guessed or as said
     * @param rows its first rows that are not blank
     * @param taken whether it has entries
     */
    public record SheetShown(String name, SheetLayout layout, List<List<String>> rows, boolean taken) {}

    private record Found(Sheet sheet, SheetLayout layout, RowEntries columns) {}

    WorkbookReading(
            Archive archive,
            List<Sheet> sheets,
            ReadOptions options,
            Map<String, SheetLayout> layouts,
            Problems problems,
            Function<WorkbookReading, FilePatch> patching) {
        this.archive = archive;
        this.problems = problems;
        this.patching = patching;
        List<Found> found = new ArrayList<>();
        String why = "";
        List<String> unread = new ArrayList<>();
        for (Sheet sheet : sheets) {
            List<List<String>> sample = sheet.rows().stream()
                    .limit(SAMPLE_ROWS)
                    .map(row -> row.cells().stream().map(Cell::text).toList())
                    .toList();
            if (sample.isEmpty()) {
                continue;
            }
            SheetLayout said = layouts.get(sheet.name());
            boolean leftOut = said != null && said.columns().isEmpty() && said.headerRow() < 0;
            SheetLayout layout = said == null || leftOut
                    ? LayoutFinder.find(sample)
                    : said.columns().isEmpty()
                            ? LayoutFinder.withHeader(sample, Math.min(said.headerRow(), sample.size() - 1))
                            : said;
            boolean taken = !leftOut && layout.flaws().isEmpty();
            shown.add(new SheetShown(sheet.name(), layout, sample, taken));
            if (taken && said == null) {
                LayoutFinder.leftOut(layout, sample.subList(layout.headerRow() + 1, sample.size()))
                        .forEach(column -> problems.warn(
                                Position.WHOLE_FILE,
                                LayoutFinder.leftOutSentence(layout, column) + " in sheet “" + sheet.name() + "”",
                                "it is not taken in unless somebody says what it holds"));
            }
            if (taken) {
                found.add(new Found(sheet, layout, new RowEntries(layout)));
            } else if (!leftOut) {
                why = "sheet “" + sheet.name() + "”: " + layout.flaws().get(0).found();
                if (!layouts.containsKey(sheet.name())) {
                    unread.add(why);
                } else {
                    problems.error(
                            Position.WHOLE_FILE, why, layout.flaws().get(0).expected());
                }
            }
        }
        this.blocked = found.isEmpty() || problems.kept().stream().anyMatch(WorkbookReading::stops);
        if (found.isEmpty() && problems.kept().stream().noneMatch(WorkbookReading::stops)) {
            problems.error(
                    Position.WHOLE_FILE,
                    why.isEmpty() ? "all sheets are empty" : why,
                    "a sheet with a column of keys and one per language");
        }
        if (!found.isEmpty()) {
            unread.forEach(sheet -> problems.warn(Position.WHOLE_FILE, sheet, "the sheet is not taken in"));
        }
        Set<LanguageTag> all = new LinkedHashSet<>();
        found.forEach(one -> all.addAll(one.columns.languages()));
        this.languages = List.copyOf(all);
        this.source = options.source()
                .filter(languages::contains)
                .or(() -> languages.size() > 1 ? Optional.of(languages.get(0)) : Optional.empty());
        List<Item> read = new ArrayList<>();
        for (Found one : found) {
            entries(one, found.size() > 1, read);
        }
        this.items = Repeats.lastOf(read, Item::entry, problems);
    }

    private static boolean stops(Problem problem) {
        return problem.severity() == Problem.Severity.ERROR;
    }

    /** The sheets that are not empty, in order. */
    public List<SheetShown> sheets() {
        return List.copyOf(shown);
    }

    /** Whether the layout of a sheet must be corrected before the file can be taken in; the problems say why. */
    public boolean blocked() {
        return blocked;
    }

    private void entries(Found found, boolean several, List<Item> to) {
        RowEntries columns = found.columns;
        for (int i = found.layout.headerRow() + 1; i < found.sheet.rows().size(); i++) {
            Row row = found.sheet.rows().get(i);
            if (row.cell(columns.keyColumn()).text().isBlank()) {
                if (row.cells().stream().anyMatch(cell -> !cell.text().isBlank())) {
                    warn(row, "a row without a key in sheet “" + found.sheet.name() + "”", "left out");
                }
                continue;
            }
            FileEntry entry =
                    columns.entry(row.number(), column -> row.cell(column).text(), column -> words(found, row, column));
            if (several && !columns.has(Role.SECTION)) {
                entry = entry.copy().section(found.sheet.name()).build();
            }
            to.add(new Item(entry.with(placed(entry.texts(), columns)), found.sheet, row, columns));
        }
    }

    private List<FileText> placed(List<FileText> texts, RowEntries columns) {
        if (columns.languages().equals(languages)) {
            return texts;
        }
        return languages.stream()
                .map(language -> {
                    int column = columns.languages().indexOf(language);
                    return column < 0 ? FileText.NONE : texts.get(column);
                })
                .toList();
    }

    private String words(Found found, Row row, int column) {
        Cell cell = row.cell(column);
        if (cell.kind() == Kind.VALUE || cell.kind() == Kind.FORMULA) {
            warn(
                    row,
                    "cell " + XlsxSheets.letters(column) + row.number() + " of sheet “" + found.sheet.name() + "” is "
                            + (cell.kind() == Kind.FORMULA ? "a formula" : "a number or a date and no text"),
                    "read as “" + cell.text() + "”");
        }
        return cell.text();
    }

    private void warn(Row row, String what, String madeOfIt) {
        problems.warn(new Position(row.number(), 1, 0), what, madeOfIt);
    }

    @Override
    public List<LanguageTag> languages() {
        return languages;
    }

    @Override
    public Optional<LanguageTag> sourceLanguage() {
        return source;
    }

    @Override
    public int size() {
        return items.size();
    }

    @Override
    public FileEntry entry(int index) {
        return items.get(index).entry;
    }

    @Override
    public EntryId id(int index) {
        return items.get(index).entry.id();
    }

    Item item(int index) {
        return items.get(index);
    }

    Archive archive() {
        return archive;
    }

    @Override
    public boolean has(Field field) {
        Role role =
                switch (field) {
                    case CONTEXT -> Role.CONTEXT;
                    case NOTE -> Role.NOTE;
                    case REFERENCE -> Role.REFERENCE;
                    case SECTION -> Role.SECTION;
                    case LIMIT -> Role.LIMIT;
                };
        return items.stream().anyMatch(item -> item.columns.has(role));
    }

    @Override
    public List<Problem> problems() {
        return problems.kept();
    }

    @Override
    public String charset() {
        return "UTF-8";
    }

    @Override
    public FilePatch patch() {
        return patching.apply(this);
    }
}
