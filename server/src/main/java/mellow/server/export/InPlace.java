package mellow.server.export;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mellow.core.cell.Standing;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;

/**
 * Compares the record with a file that was taken in and collects the differences, entry by entry. Entries that the table does not have stay in the
 * file as they are; entries that came later follow their neighbour, unless the file covers only a part of the table.
 */
final class InPlace {

    private final FileReading file;
    private final int sourceColumn;
    private final FilePatch patch;
    private final Map<EntryId, Integer> index = new HashMap<>();
    private final Set<Long> newer;
    private final List<Insertion> insertions = new ArrayList<>();
    private boolean covers = true;
    private int last = -1;

    /** An entry for the file, after the file's entry of that index. */
    private record Insertion(int after, FileEntry entry) {}

    /** {@code newer}: the entries that came into the table after the file did. */
    InPlace(FileReading file, LanguageTag source, Set<Long> newer) {
        this.file = file;
        this.sourceColumn = file.sourceColumn(source);
        this.newer = newer;
        this.patch = file.patch();
        for (int i = 0; i < file.size(); i++) {
            index.put(file.id(i), i);
        }
    }

    void entry(RecordEntry entry) {
        Integer found = index.get(entry.entryId());
        if (found == null) {
            if (newer.contains(entry.id())) {
                List<FileText> texts = new ArrayList<>();
                for (int i = 0; i < file.languages().size(); i++) {
                    texts.add(i == sourceColumn ? entry.source() : stated(cell(entry, i)));
                }
                insertions.add(new Insertion(
                        last, ExportService.described(entry).texts(texts).build()));
            } else {
                covers = false;
            }
            return;
        }
        last = found;
        FileEntry then = file.entry(found);
        if (then.shape() != entry.shape()) {
            return;
        }
        for (int i = 0; i < then.texts().size(); i++) {
            FileText inFile = then.texts().get(i);
            if (i == sourceColumn) {
                if (!entry.source().says(inFile)) {
                    patch.set(found, i, entry.source());
                }
            } else {
                text(found, i, inFile, cell(entry, i));
            }
        }
    }

    /** A cell that holds only offers says nothing about what the file should hold: the file's text stays. */
    private void text(int entry, int language, FileText inFile, RecordCell cell) {
        if (cell.text().isEmpty() && cell.openOffers() > 0) {
            return;
        }
        boolean settledNow = cell.standing() == Standing.SETTLED && !cell.stale();
        Optional<FileState> said = inFile.state();
        boolean moved = said.isPresent()
                && !cell.text().isEmpty()
                && (said.get() == FileState.SETTLED ? cell.stale() : settledNow);
        if (!cell.text().says(inFile) || moved) {
            patch.set(entry, language, stated(cell));
        }
    }

    private RecordCell cell(RecordEntry entry, int language) {
        return entry.cell(file.languages().get(language));
    }

    private static FileText stated(RecordCell cell) {
        if (cell.text().isEmpty()) {
            return FileText.NONE;
        }
        boolean settled = cell.standing() == Standing.SETTLED && !cell.stale();
        return cell.text().in(settled ? FileState.SETTLED : FileState.PENCILLED);
    }

    /** A file that left out entries of the table when it came covers a part of it by intention, and gets no others. */
    FilePatch finish() {
        if (covers) {
            insertions.forEach(insertion -> patch.insert(insertion.after(), insertion.entry()));
        }
        return patch;
    }
}
