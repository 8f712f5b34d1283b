package mellow.server.intake;

import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mellow.core.cell.CellState;
import mellow.core.cell.Standing;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.merge.Change;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.merge.Comparison;
import mellow.core.merge.RecordCell;
import mellow.core.merge.RecordEntry;
import mellow.core.merge.Revisions;
import mellow.server.file.AssetFactReader;
import mellow.server.record.BulkCells.Arriving;
import mellow.server.record.BulkWriter;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;

/** Turns what a comparison finds, as decided, into what is written. */
final class Applier implements Comparison.Listener {

    private final BulkWriter writer;
    private final Map<LanguageTag, Integer> numbers = new HashMap<>();
    private final Map<EntryId, Long> removedBefore;
    private final Positions positions;

    private final Set<Long> assets = new HashSet<>();
    private long added;
    private @Nullable Change rewriting;

    /**
     * Writes into a table.
     *
     * @param removedBefore numbers of the entries that were removed from it
     * @param fileEntries how many entries the file has
     */
    Applier(BulkWriter writer, TableInfo table, Map<EntryId, Long> removedBefore, int fileEntries) {
        this.writer = writer;
        this.removedBefore = removedBefore;
        this.positions = new Positions(fileEntries);
        table.languages().forEach(kept -> numbers.put(kept.tag(), kept.number()));
    }

    @Override
    public void met(int index, RecordEntry entry) {
        positions.taken(entry.position());
        positions.met(index, entry.position());
    }

    @Override
    public void alone(RecordEntry entry) {
        positions.taken(entry.position());
    }

    @Override
    public void change(Change change) {
        RecordEntry entry = change.entry();
        if (change.language() != null) {
            text(change);
        } else if (entry == null) {
            onlyInFile(change);
        } else {
            ofEntry(change, entry);
        }
    }

    private void onlyInFile(Change change) {
        boolean isNew = change.kind() == ChangeKind.NEW_ENTRIES || change.kind() == ChangeKind.WITHOUT_SOURCE;
        if (isNew && change.choice() == Choice.TAKE) {
            add(change);
        } else if (change.choice() == Choice.PUT_BACK) {
            writer.putBack(Objects.requireNonNull(removedBefore.get(change.id())), change.id(), change.after());
        }
    }

    private void ofEntry(Change change, RecordEntry entry) {
        switch (change.choice()) {
            case CHANGED, FIX -> {
                if (change.kind() == ChangeKind.REWORDED) {
                    writer.rename(entry, change.id());
                }
                rewriting = change;
                note(change.after());
                writer.rewrite(entry, change.after(), change.choice() == Choice.CHANGED);
            }
            case TAKE -> writer.describe(entry, change.described().fields(), change.before(), change.after());
            case RENAME -> writer.rename(entry, change.id());
            case BOTH -> add(change);
            case REPLACE -> {
                writer.remove(entry);
                add(change);
            }
            case REMOVE -> writer.remove(entry);
            default -> {
                // Kept: nothing to do, and the report lists the difference.
            }
        }
    }

    /** The files that texts name which were written. */
    Set<Long> assets() {
        return assets;
    }

    private void note(FileText text) {
        AssetFactReader.file(text.forms()).ifPresent(assets::add);
    }

    private void add(Change change) {
        note(change.after());
        FileEntry file = Objects.requireNonNull(change.file());
        added = writer.add(file, change.after(), positions.place(change.index()));
    }

    private void text(Change change) {
        Arrival arrives = change.arrives();
        boolean clears = change.choice() == Choice.CLEAR;
        if (arrives == null && !clears) {
            return;
        }
        LanguageTag tag = Objects.requireNonNull(change.language());
        int language = Objects.requireNonNull(numbers.get(tag), "language without a number");
        RecordEntry entry = change.entry();
        RecordCell mine = entry == null ? RecordCell.NONE : entry.cell(tag);
        boolean offers = arrives == Arrival.OFFERED || mine.openOffers() > 0;
        if (arrives == null) {
            CellState cleared = CellState.of(offers, false, Standing.NONE, 0, 0);
            writer.clear(Objects.requireNonNull(entry), language, mine, cleared);
            return;
        }
        note(change.after());
        Revisions at = at(entry);
        int basedOn = at.basedOn(change);
        CellState state = CellState.of(offers, false, arrives.standing(), basedOn, at.meaning());
        Arriving arriving = new Arriving(change.after(), arrives, basedOn, state);
        if (entry == null) {
            writer.text(added, language, arriving);
        } else {
            writer.text(entry, language, mine, arriving);
        }
    }

    /** Where the source beside a text stands once the file is in. */
    private Revisions at(@Nullable RecordEntry entry) {
        if (entry == null) {
            return Revisions.NEW;
        }
        Revisions now = Revisions.of(entry);
        Change source = rewriting;
        return source != null && source.entry() == entry ? now.rewritten(source.choice() == Choice.CHANGED) : now;
    }
}
