package mellow.server.export;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
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
import org.jspecify.annotations.Nullable;

/**
 * Compares the record with a file that was taken in and collects the differences, entry by entry. Entries that the table does not have stay in the
 * file as they are. A file by itself gets entries that came later, behind their neighbour, unless it covers only a part of the table; a file of a set gets the
 * texts of its language that it lacks; a file after which a new one is made keeps only what the new one has.
 */
final class InPlace {

    /** What the file is to the record. */
    enum Part {
        /** A file by itself, or the one that holds a set's sources. */
        ALONE,
        /** A file of a set, which holds the texts that its language has. */
        TRANSLATION,
        /** A file of a set after which one in another language is made. */
        TEMPLATE
    }

    /**
     * The file's place in its set.
     *
     * @param newer the entries that came into the table after the file did
     * @param of the entries of the set; null for all of the table
     * @param empties whether a new file has the keys of texts that are missing
     */
    record Place(Part part, Set<Long> newer, @Nullable Set<EntryId> of, boolean empties) {}

    private final FileReading file;
    private final LanguageTag source;
    private final int sourceColumn;
    private final FilePatch patch;
    private final Map<EntryId, Integer> index = new HashMap<>();
    private final Place place;
    private final Set<Integer> met = new HashSet<>();
    private final List<Insertion> insertions = new ArrayList<>();
    private boolean covers = true;
    private int last = -1;

    /** An entry for the file, after the file's entry of that index. */
    private record Insertion(int after, FileEntry entry) {}

    InPlace(FileReading file, FilePatch patch, LanguageTag source, Place place) {
        this.file = file;
        this.source = source;
        this.sourceColumn = file.sourceColumn(source);
        this.place = place;
        this.patch = patch;
        for (int i = 0; i < file.size(); i++) {
            index.put(file.id(i), i);
        }
    }

    void entry(RecordEntry entry) {
        Integer found = index.get(entry.entryId());
        if (found == null) {
            missing(entry);
            return;
        }
        last = found;
        met.add(found);
        FileEntry then = file.entry(found);
        if (then.shape() != entry.shape()) {
            if (place.part() == Part.TEMPLATE) {
                patch.remove(found);
            }
            return;
        }
        for (int i = 0; i < then.texts().size(); i++) {
            FileText inFile = then.texts().get(i);
            if (i == sourceColumn) {
                if (!entry.source().says(inFile)) {
                    patch.set(found, i, entry.source());
                }
            } else if (place.part() == Part.TEMPLATE) {
                made(found, i, inFile, cell(entry, i));
            } else if (!file.languages().get(i).equals(source)) {
                text(found, i, inFile, cell(entry, i));
            }
        }
    }

    /** A file of translations lacks what nobody has translated, and gets what somebody has; catalogues get what is new as well. */
    private void missing(RecordEntry entry) {
        boolean newer = place.newer().contains(entry.id());
        boolean belongs = newer || place.of() == null || place.of().contains(entry.entryId());
        List<FileText> texts = new ArrayList<>();
        boolean any = false;
        for (int i = 0; i < file.languages().size(); i++) {
            FileText text = i == sourceColumn ? entry.source() : stated(cell(entry, i));
            texts.add(text);
            any |= i != sourceColumn && !text.isEmpty();
        }
        boolean catalogue = sourceColumn >= 0 && file.languages().size() > 1;
        boolean wanted =
                switch (place.part()) {
                    case ALONE -> newer;
                    case TRANSLATION, TEMPLATE -> belongs && (any || (newer && catalogue));
                };
        if (wanted) {
            insertions.add(new Insertion(
                    last, ExportService.described(entry).texts(texts).build()));
        } else if (!newer) {
            covers = false;
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

    /** The text in a new file: the template's is of another language, whatever it says. */
    private void made(int entry, int language, FileText inFile, RecordCell cell) {
        FileText text = stated(cell);
        if (text.isEmpty() && sourceColumn < 0 && !place.empties()) {
            patch.remove(entry);
        } else if (text.isEmpty()) {
            patch.set(entry, language, FileText.NONE.in(FileState.UNTRANSLATED));
        } else if (!text.says(inFile) || text.state().isPresent()) {
            patch.set(entry, language, text);
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
        if (place.part() == Part.TEMPLATE) {
            for (int i = 0; i < file.size(); i++) {
                if (!met.contains(i)) {
                    patch.remove(i);
                }
            }
        }
        if (covers || place.part() != Part.ALONE) {
            insertions.forEach(insertion -> patch.insert(insertion.after(), insertion.entry()));
        }
        return patch;
    }
}
