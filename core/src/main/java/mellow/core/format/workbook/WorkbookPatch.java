package mellow.core.format.workbook;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.archive.Archive;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.Splice;
import mellow.core.format.workbook.Sheet.Cell;
import mellow.core.format.workbook.Sheet.Kind;
import mellow.core.format.workbook.WorkbookReading.Item;

/** Writes a workbook with some cells changed: every other part, and every other cell with its style, is copied. */
abstract class WorkbookPatch implements FilePatch {

    private final WorkbookReading file;
    private final Map<SourceText, Splice> splices = new LinkedHashMap<>();
    private final Map<SourceText, String> parts = new HashMap<>();
    private final BitSet removed = new BitSet();
    private final List<Insertion> insertions = new ArrayList<>();

    /** Changed cells by sheet and by the place of their element: one element may stand for many cells. */
    private final Map<SourceText, TreeMap<Integer, TreeMap<Integer, Change>>> changes = new LinkedHashMap<>();

    private record Insertion(int after, FileEntry entry) {}

    /** A new text for a cell. */
    record Change(Cell cell, String text, String key) {}

    WorkbookPatch(WorkbookReading file) {
        this.file = file;
    }

    /** The elements that take the place of one that stands for several cells. */
    abstract String cells(SourceText source, Cell physical, TreeMap<Integer, Change> changed);

    /** Puts a cell where a row has none. */
    abstract void addCell(Splice splice, Item item, int column, String text);

    /** Puts a row after the row of {@code item}. */
    abstract void addRow(Splice splice, Item item, List<String> cells, String key);

    /** The part that is stored unpacked, empty for none. */
    abstract String stored();

    @Override
    public void set(int entry, int language, FileText text) {
        Item item = file.item(entry);
        String key = item.entry().key();
        if (text.forms().size() > 1) {
            throw new UnwritableTextException(
                    "A cell has no place for the forms of " + key + "; export it in another format.");
        }
        int column = item.columns().languages().indexOf(file.languages().get(language));
        if (column < 0) {
            throw new UnwritableTextException("The sheet of " + key + " has no column for "
                    + file.languages().get(language) + "; export it fresh instead.");
        }
        Cell cell = item.row().cell(item.columns().textColumn(column));
        if (cell.text().equals(text.main())) {
            return;
        }
        if (cell.kind() == Kind.FORMULA) {
            throw new UnwritableTextException(
                    "The cell of " + key + " holds a formula, which stays; change what it refers to.");
        }
        if (cell.start() < 0) {
            addCell(splice(item), item, item.columns().textColumn(column), text.main());
            return;
        }
        changes.computeIfAbsent(item.sheet().source(), any -> new TreeMap<>())
                .computeIfAbsent(cell.start(), any -> new TreeMap<>())
                .put(cell.repeat(), new Change(cell, text.main(), key));
        splice(item);
    }

    private Splice splice(Item item) {
        parts.put(item.sheet().source(), item.sheet().part());
        return splices.computeIfAbsent(item.sheet().source(), SourceText::splice);
    }

    @Override
    public void remove(int entry) {
        removed.set(entry);
        Item item = file.item(entry);
        splice(item).remove(item.row().start(), item.row().end());
    }

    @Override
    public void insert(int after, FileEntry added) {
        if (file.size() == 0) {
            throw new UnwritableTextException("The workbook has no row of an entry that " + added.key()
                    + " could follow; export it fresh instead.");
        }
        insertions.add(new Insertion(after < 0 ? file.size() - 1 : after, added));
    }

    @Override
    public void writeTo(OutputStream out) throws IOException {
        changes.forEach((source, places) -> places.forEach((start, changed) -> {
            Cell physical = changed.firstEntry().getValue().cell();
            Objects.requireNonNull(splices.get(source))
                    .replace(
                            start,
                            physical.end(),
                            cells(source, physical, changed),
                            changed.firstEntry().getValue().key());
        }));
        for (Insertion insertion : insertions) {
            int after = insertion.after;
            while (after > 0 && removed.get(after)) {
                after--;
            }
            Item item = file.item(after);
            addRow(
                    splice(item),
                    item,
                    item.columns().cellsOf(insertion.entry.with(textsFor(item, insertion.entry))),
                    insertion.entry.key());
        }
        if (splices.isEmpty()) {
            out.write(file.archive().original());
            return;
        }
        Archive archive = file.archive().copy();
        for (Map.Entry<SourceText, Splice> splice : splices.entrySet()) {
            ByteArrayOutputStream part = new ByteArrayOutputStream();
            splice.getValue().writeTo(part);
            archive.put(Objects.requireNonNull(parts.get(splice.getKey())), part.toByteArray());
        }
        archive.writeTo(out, stored());
    }

    private List<FileText> textsFor(Item item, FileEntry entry) {
        return item.columns().languages().stream()
                .map(language -> entry.texts().get(file.languages().indexOf(language)))
                .toList();
    }
}
