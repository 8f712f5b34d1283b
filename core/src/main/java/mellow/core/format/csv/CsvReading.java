package mellow.core.format.csv;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.Position;
import mellow.core.format.Problem;
import mellow.core.format.Problems;
import mellow.core.format.charset.TextEncoding;
import mellow.core.format.sheet.Column.Role;
import mellow.core.format.sheet.RowEntries;
import mellow.core.format.sheet.SheetLayout;
import mellow.core.language.LanguageTag;

/** A file of separated text as it was read. */
public final class CsvReading implements FileReading {

    private final CsvRecords records;
    private final int firstRecord;
    private final SheetLayout layout;
    private final Problems problems;
    private final boolean blocked;
    private final RowEntries columns;
    /** Columns whose cells come from people: texts, keys, what is said about entries. */
    private final int[] guardable;

    private boolean guarded;
    private Optional<LanguageTag> source = Optional.empty();

    /** The record of each entry, in file order. */
    private int[] rows = new int[0];

    CsvReading(CsvRecords records, int firstRecord, SheetLayout layout, Problems problems) {
        this.records = records;
        this.firstRecord = firstRecord;
        this.layout = layout;
        this.problems = problems;
        this.columns = new RowEntries(layout);
        this.guardable = IntStream.range(0, layout.columns().size())
                .filter(column -> layout.columns().get(column).role() != Role.IGNORED)
                .toArray();
        List<SheetLayout.Flaw> flaws = layout.flaws();
        this.blocked = !flaws.isEmpty();
        int header = headerRecord();
        for (SheetLayout.Flaw flaw : flaws) {
            problems.error(new Position(records.line(header), 1, records.start(header)), flaw.found(), flaw.expected());
        }
        if (!blocked) {
            findEntries(header);
        }
    }

    private int headerRecord() {
        return Math.min(records.size() - 1, firstRecord + Math.max(0, layout.headerRow()));
    }

    private void findEntries(int header) {
        int[] found = new int[Math.max(16, records.size())];
        int count = 0;
        Map<EntryId, Integer> seen = new HashMap<>(2 * records.size());
        int width = layout.columns().size();
        int longest = lastUsedColumn();
        for (int record = header + 1; record < records.size(); record++) {
            String keyValue = records.value(record, columns.keyColumn());
            if (keyValue.isBlank()) {
                if (!records.isBlank(record)) {
                    warn(record, "a row without a key", "left out");
                }
                continue;
            }
            checkShape(record, width, longest);
            checkLimit(record);
            // As they stand: whether the file has guards is not known before its last row.
            EntryId id = rawId(record);
            Integer earlier = seen.put(id, count);
            if (earlier != null) {
                warn(
                        record,
                        "the key \u201c" + keyValue + "\u201d was typed before, in line "
                                + records.line(found[earlier]),
                        "this one, the last, counts");
                found[earlier] = -1;
            }
            if (!guarded) {
                guarded = anyGuarded(record);
            }
            found[count++] = record;
        }
        rows = Arrays.stream(found, 0, count).filter(record -> record >= 0).toArray();
        if (count == 0) {
            problems.error(
                    new Position(records.line(header), 1, records.start(header)),
                    "there are no rows with keys below the header",
                    "at least one");
        }
    }

    private void checkShape(int record, int width, int longest) {
        int cells = records.width(record);
        if (cells > width) {
            for (int cell = width; cell < cells; cell++) {
                if (!records.value(record, cell).isBlank()) {
                    warn(
                            record,
                            "the row has " + cells + " cells under " + width + " headings",
                            "what is over is not taken in");
                    return;
                }
            }
        } else if (cells <= longest) {
            warn(record, "the row ends after " + cells + " of " + width + " cells", "the missing ones count as empty");
        }
    }

    private void checkLimit(int record) {
        String value = records.value(record, columns.limitColumn());
        if (!value.isBlank() && RowEntries.limit(value) == 0) {
            warn(
                    record,
                    "the limit \u201c" + value.strip() + "\u201d is no number of characters",
                    "taken in without a limit");
        }
    }

    private int lastUsedColumn() {
        int last = 0;
        for (int i = 0; i < layout.columns().size(); i++) {
            if (layout.columns().get(i).role() != Role.IGNORED) {
                last = i;
            }
        }
        return last;
    }

    private boolean anyGuarded(int record) {
        for (int column : guardable) {
            if (records.startsWith(record, column, '\'') && FormulaGuard.guarded(records.value(record, column))) {
                return true;
            }
        }
        return false;
    }

    private void warn(int record, String found, String madeOfIt) {
        problems.warn(new Position(records.line(record), 1, records.start(record)), found, madeOfIt);
    }

    @Override
    public List<LanguageTag> languages() {
        return columns.languages();
    }

    /** What somebody said; else the first column of texts, where sources usually stand. */
    @Override
    public Optional<LanguageTag> sourceLanguage() {
        return source.filter(languages()::contains)
                .or(() -> languages().size() > 1 ? Optional.of(languages().get(0)) : Optional.empty());
    }

    /** The same with a known source language. */
    CsvReading from(Optional<LanguageTag> known) {
        source = known;
        return this;
    }

    @Override
    public String charset() {
        return records.encoding.charset().name();
    }

    @Override
    public int size() {
        return rows.length;
    }

    @Override
    public FileEntry entry(int index) {
        int record = rows[index];
        return columns.entry(records.line(record), column -> text(record, column), column -> text(record, column));
    }

    private String text(int record, int column) {
        String value = records.value(record, column);
        return guarded ? FormulaGuard.unguard(value) : value;
    }

    @Override
    public EntryId id(int index) {
        return idOf(rows[index]);
    }

    private EntryId rawId(int record) {
        return columns.id(column -> records.value(record, column));
    }

    private EntryId idOf(int record) {
        return columns.id(column -> text(record, column));
    }

    @Override
    public boolean has(Field field) {
        return columns.has(
                switch (field) {
                    case CONTEXT -> Role.CONTEXT;
                    case NOTE -> Role.NOTE;
                    case REFERENCE -> Role.REFERENCE;
                    case SECTION -> Role.SECTION;
                    case LIMIT -> Role.LIMIT;
                });
    }

    @Override
    public List<Problem> problems() {
        return problems.kept();
    }

    /** How many problems there are, those not kept included. */
    public int problemCount() {
        return problems.count();
    }

    /** Whether the layout must be corrected before the file can be taken in; the problems say why. */
    public boolean blocked() {
        return blocked || rows.length == 0;
    }

    /** The encoding it was read with. */
    public TextEncoding encoding() {
        return records.encoding;
    }

    /** The dialect it was read with. */
    public CsvDialect dialect() {
        return records.dialect;
    }

    /** What each column holds. */
    public SheetLayout layout() {
        return layout;
    }

    /** Whether cells carry the guard against formulas, which reading removes. */
    public boolean guarded() {
        return guarded;
    }

    /** The first rows as they stand in the file, header and titles included. */
    public List<List<String>> firstRows(int count) {
        List<List<String>> first = new ArrayList<>();
        for (int record = firstRecord; record < records.size() && first.size() < count; record++) {
            first.add(records.values(record));
        }
        return first;
    }

    @Override
    public boolean keepsReturns() {
        return false;
    }

    @Override
    public FilePatch patch() {
        return new CsvPatch(this);
    }

    CsvRecords records() {
        return records;
    }

    int row(int index) {
        return rows[index];
    }

    int textColumn(int language) {
        return columns.textColumn(language);
    }

    /** What a new row holds under each heading. */
    List<String> cellsOf(FileEntry entry) {
        return columns.cellsOf(entry);
    }
}
