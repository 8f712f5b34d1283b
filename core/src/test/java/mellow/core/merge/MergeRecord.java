package mellow.core.merge;

import static mellow.core.merge.MergeFiles.ENGLISH;
import static mellow.core.merge.MergeFiles.GERMAN;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import mellow.core.cell.Standing;
import mellow.core.check.Ground;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.jspecify.annotations.Nullable;

/** A record in memory, for tests of what an intake makes of it. */
final class MergeRecord {

    private final Map<EntryId, RecordEntry> entries = new LinkedHashMap<>();

    /** From lines of "key | source | German"; "~" before a text pencils it, "?" after it begins one's own open offer. */
    static MergeRecord of(List<String> lines) {
        MergeRecord record = new MergeRecord();
        for (String line : lines) {
            String[] parts = line.split("\\|", -1);
            String[] german = parts[2].split("\\?", -1);
            String text = german[0].strip();
            FileText offer = german.length > 1 ? FileText.plain(german[1].strip()) : FileText.NONE;
            boolean pencilled = text.startsWith("~");
            Map<LanguageTag, RecordCell> cells = new LinkedHashMap<>();
            if (!text.isEmpty() || !offer.isEmpty()) {
                Standing standing = text.isEmpty() ? Standing.NONE : pencilled ? Standing.PENCILLED : Standing.SETTLED;
                cells.put(
                        GERMAN,
                        new RecordCell(
                                FileText.plain(pencilled ? text.substring(1) : text),
                                standing,
                                1,
                                false,
                                false,
                                new RecordCell.Waiting(offer.isEmpty() ? 0 : 1, offer)));
            }
            record.put(new EntryId(parts[0].strip(), ""), FileText.plain(parts[1].strip()), cells);
        }
        return record;
    }

    private void put(EntryId id, FileText source, Map<LanguageTag, RecordCell> cells) {
        int number = entries.size() + 1;
        entries.put(
                id,
                new RecordEntry(
                        number,
                        number,
                        id,
                        new RecordEntry.Source(Shape.PLAIN, source, new Revisions(1, 1), 1),
                        new RecordEntry.About("", "", "", 0, 0, true),
                        cells));
    }

    List<RecordEntry> entries() {
        return List.copyOf(entries.values());
    }

    void compare(
            FileReading now,
            @Nullable FileReading before,
            Set<EntryId> removed,
            Choices choices,
            Consumer<Change> listener) {
        Comparison comparison = new Comparison(
                now,
                before,
                new Terms(
                        ENGLISH,
                        Map.of(GERMAN, Arrival.SETTLED),
                        new Terms.May(Set.of(), Set.of(GERMAN), true),
                        before != null && Comparison.holdsMost(now, before),
                        removed,
                        choices,
                        tag -> Ground.of(ENGLISH, tag)));
        entries().forEach(entry -> comparison.compare(entry, listener::accept));
        comparison.rest(listener::accept);
    }

    /** Takes a file in; what it changed, without what was kept. */
    List<Change> take(FileReading now, @Nullable FileReading before, Choices choices) {
        List<Change> changes = new ArrayList<>();
        compare(now, before, Set.of(), choices, changes::add);
        changes.removeIf(change -> change.choice() == Choice.KEEP);
        changes.forEach(this::apply);
        return changes;
    }

    private void apply(Change change) {
        EntryId former = change.entry() == null ? change.id() : change.entry().entryId();
        switch (change.choice()) {
            case REMOVE -> entries.remove(former);
            case CHANGED, FIX -> {
                RecordEntry entry = Objects.requireNonNull(entries.remove(former));
                entries.put(change.id(), with(entry, change.id(), change.after(), entry.cells()));
            }
            case RENAME -> {
                RecordEntry entry = Objects.requireNonNull(entries.remove(former));
                entries.put(change.id(), with(entry, change.id(), entry.source(), entry.cells()));
            }
            case REPLACE -> {
                entries.remove(former);
                put(change.id(), change.after(), Map.of());
            }
            case BOTH -> put(change.id(), change.after(), Map.of());
            case CLEAR -> cell(change, RecordCell.NONE);
            default -> {
                if (change.language() == null) {
                    put(change.id(), change.after(), Map.of());
                } else {
                    text(change);
                }
            }
        }
    }

    private void text(Change change) {
        RecordCell mine = Objects.requireNonNull(entries.get(change.id())).cell(GERMAN);
        FileText text = FileText.of(change.after().forms());
        if (change.arrives() == Arrival.OFFERED) {
            cell(
                    change,
                    new RecordCell(
                            mine.text(),
                            mine.standing(),
                            mine.version() + 1,
                            false,
                            false,
                            new RecordCell.Waiting(1, text)));
        } else {
            Standing standing = change.arrives() == Arrival.SETTLED ? Standing.SETTLED : Standing.PENCILLED;
            cell(
                    change,
                    new RecordCell(
                            text,
                            standing,
                            mine.version() + 1,
                            false,
                            false,
                            new RecordCell.Waiting(mine.openOffers(), mine.ownOffer())));
        }
    }

    private void cell(Change change, RecordCell cell) {
        entries.computeIfPresent(
                change.id(), (id, entry) -> with(entry, id, entry.source(), new TreeMap<>(Map.of(GERMAN, cell))));
    }

    private static RecordEntry with(
            RecordEntry entry, EntryId id, FileText source, Map<LanguageTag, RecordCell> cells) {
        return new RecordEntry(
                entry.id(),
                entry.position(),
                id,
                new RecordEntry.Source(Shape.PLAIN, source, new Revisions(1, 1), 1),
                new RecordEntry.About("", "", "", 0, 0, true),
                cells);
    }

    /** Everything it says, to be held against another. */
    Map<String, String> said() {
        Map<String, String> said = new TreeMap<>();
        entries.values().forEach(entry -> {
            RecordCell cell = entry.cell(GERMAN);
            said.put(
                    entry.entryId().key(),
                    entry.source().main() + " / " + cell.text().main() + " " + cell.standing() + " / "
                            + cell.ownOffer().main());
        });
        return said;
    }
}
