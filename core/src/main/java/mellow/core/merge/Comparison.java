package mellow.core.merge;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import mellow.core.cell.Standing;
import mellow.core.check.Checks;
import mellow.core.check.Checks.Measure;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileReading.Field;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/**
 * Compares a file with the record, entry by entry, and tells a listener what the file would change. The file is indexed by key, the record streams
 * by; the base, what the file's path held when it was last taken in, is asked for by key. Cost: one pass over both. Used once.
 */
public final class Comparison {

    /** Where a comparison tells what it finds. */
    public interface Listener {

        /**
         * A change. Those of one entry come together: its source, then its texts, then its description. New entries and renamed ones come after the
         * whole record, each before its texts.
         */
        void change(Change change);

        /**
         * An entry both have, at {@code index} of the file. Told for every one of them, in the record's order, before its changes; those that are renamed
         * come after the whole record.
         */
        default void met(int index, RecordEntry entry) {}

        /** An entry only the record has. Told in the record's order. */
        default void alone(RecordEntry entry) {}
    }

    private record Said(String context, FileText source) {}

    private final FileReading file;
    private final @Nullable FileReading base;
    private final Terms terms;
    private final Map<EntryId, Integer> fileIndex;
    private final Map<EntryId, Integer> baseIndex;
    private final Map<Said, Integer> newInFile = new HashMap<>();
    private final Map<Integer, RecordEntry> renamed = new TreeMap<>();
    private final boolean[] met;
    private final int sourceColumn;
    private final int baseSourceColumn;

    /**
     * Prepares a comparison.
     *
     * @param base what the file held last time, null when it was never taken in
     */
    public Comparison(FileReading file, @Nullable FileReading base, Terms terms) {
        this.file = file;
        this.base = base;
        this.terms = terms;
        this.fileIndex = index(file);
        this.baseIndex = base == null ? Map.of() : index(base);
        this.met = new boolean[file.size()];
        this.sourceColumn = file.sourceColumn(terms.source());
        this.baseSourceColumn = base == null ? -1 : base.sourceColumn(terms.source());
        if (base != null && sourceColumn >= 0) {
            findNewInFile();
        }
    }

    private static Map<EntryId, Integer> index(FileReading reading) {
        Map<EntryId, Integer> index = new HashMap<>(reading.size() * 2);
        for (int i = 0; i < reading.size(); i++) {
            index.put(reading.id(i), i);
        }
        return index;
    }

    /**
     * Whether a file still holds more than half of what it held. One that lost more is a part of the whole, sent by itself, and what it does not hold
     * was not removed in it.
     */
    public static boolean holdsMost(FileReading file, FileReading base) {
        Map<EntryId, Integer> now = index(file);
        int stood = 0;
        int held = 0;
        for (int i = 0; i < base.size(); i++) {
            Integer at = base.stands(i) ? now.get(base.id(i)) : null;
            stood += base.stands(i) ? 1 : 0;
            held += at != null && file.stands(at) ? 1 : 0;
        }
        return 2 * held > stood;
    }

    /** Where two new entries say the same, neither can be told to be the one that was renamed. */
    private void findNewInFile() {
        for (int i = 0; i < file.size(); i++) {
            if (!baseIndex.containsKey(file.id(i)) && file.stands(i)) {
                FileEntry entry = file.entry(i);
                newInFile.merge(new Said(entry.context(), bare(source(entry))), i, (one, other) -> -1);
            }
        }
    }

    /** Compares the next entry of the record. */
    public void compare(RecordEntry entry, Listener listener) {
        Integer index = fileIndex.get(entry.entryId());
        Integer baseAt = baseIndex.get(entry.entryId());
        if (index == null) {
            listener.alone(entry);
            if (baseAt != null) {
                gone(entry, listener);
            }
            return;
        }
        met[index] = true;
        if (base != null && baseAt != null && !file.stands(index) && base.stands(baseAt)) {
            // Its translations still have it, and the file of the sources does not any more.
            listener.alone(entry);
            gone(entry, listener);
            return;
        }
        listener.met(index, entry);
        both(entry, index, baseAt, listener);
    }

    private void gone(RecordEntry entry, Listener listener) {
        Integer other = newInFile.get(new Said(entry.entryId().context(), entry.source()));
        if (other != null && other >= 0 && terms.coordinator() && !renamed.containsKey(other)) {
            renamed.put(other, entry);
        } else {
            tellGone(entry, listener);
        }
    }

    private void tellGone(RecordEntry entry, Listener listener) {
        Choice usual = terms.removes() && terms.coordinator() ? Choice.REMOVE : Choice.KEEP;
        Choice choice =
                terms.coordinator() ? choice(ChangeKind.GONE_FROM_FILE, entry.entryId(), null, usual) : Choice.KEEP;
        listener.change(new Change(
                ChangeKind.GONE_FROM_FILE,
                entry.entryId(),
                entry,
                null,
                -1,
                null,
                entry.source(),
                entry.source(),
                FileText.NONE,
                choice,
                null,
                true));
    }

    private void both(RecordEntry entry, int index, @Nullable Integer baseAt, Listener listener) {
        FileEntry now = file.entry(index);
        if (!fits(entry, now)) {
            otherShape(entry, now, index, listener);
            return;
        }
        FileEntry then = baseAt == null || base == null ? null : base.entry(baseAt);
        boolean rewritten = compareSource(entry, now, index, then, listener);
        boolean current = source(now).isEmpty() || rewritten || source(now).says(entry.source());
        for (int i = 0; i < file.languages().size(); i++) {
            LanguageTag tag = file.languages().get(i);
            Arrival arrival = terms.arrivals().get(tag);
            if (i != sourceColumn && arrival != null) {
                compareText(entry, now, index, i, then, current, rewritten, listener);
            }
        }
        if (terms.coordinator() && describedOtherwise(entry, now)) {
            tell(ChangeKind.DESCRIPTIONS, entry, now, index, entry.source(), entry.source(), listener);
        }
    }

    /** A file of plain texts cannot tell the forms of others, nor the other way round; an entry without any text fits everything. */
    private static boolean fits(RecordEntry entry, FileEntry now) {
        return entry.shape() == now.shape();
    }

    private void otherShape(RecordEntry entry, FileEntry now, int index, Listener listener) {
        for (int i = 0; i < file.languages().size(); i++) {
            FileText theirs = now.texts().get(i);
            FileText mine = i == sourceColumn
                    ? entry.source()
                    : entry.cell(file.languages().get(i)).text();
            if (!theirs.isEmpty() && !theirs.main().equals(mine.main())) {
                tell(ChangeKind.OTHER_SHAPE, entry, now, index, mine, theirs, listener);
                return;
            }
        }
    }

    /** Whether the file's source comes in. */
    private boolean compareSource(
            RecordEntry entry, FileEntry now, int index, @Nullable FileEntry then, Listener listener) {
        FileText theirs = source(now);
        FileText before =
                then == null || baseSourceColumn < 0 ? null : then.texts().get(baseSourceColumn);
        SourceDecision decision = SourceDecision.decide(before, entry.source(), theirs);
        if (decision == SourceDecision.KEEP) {
            return false;
        }
        ChangeKind kind =
                switch (decision) {
                    case CONFLICT -> ChangeKind.SOURCE_CONFLICTS;
                    case EDITED_HERE -> ChangeKind.EDITED_HERE;
                    default -> ChangeKind.SOURCES_REWRITTEN;
                };
        if (!terms.coordinator() && decision != SourceDecision.EDITED_HERE) {
            kind = ChangeKind.NO_RIGHT;
        }
        Change change = made(kind, entry, now, index, entry.source(), theirs);
        listener.change(change);
        return change.rewrites() && terms.coordinator();
    }

    private void compareText(
            RecordEntry entry,
            FileEntry now,
            int index,
            int column,
            @Nullable FileEntry then,
            boolean current,
            boolean rewritten,
            Listener listener) {
        LanguageTag tag = file.languages().get(column);
        RecordCell mine = entry.cell(tag);
        FileText theirs = now.texts().get(column);
        TextDecision decision = TextDecision.decide(baseText(then, tag), mine.text(), theirs);
        boolean ownOffer = theirs.says(mine.ownOffer()) && terms.fourEyes().contains(tag);
        Arrival arrival = ownOffer ? Arrival.OFFERED : arrival(tag, theirs.state());
        FileText source = rewritten ? source(now) : entry.source();
        switch (decision) {
            case NOTHING_NEW -> {}
            case EMPTIED -> {
                if (!mine.text().isEmpty()) {
                    Choice choice = terms.reviews().contains(tag)
                            ? choice(ChangeKind.EMPTIED_IN_FILE, now.id(), tag, Choice.KEEP)
                            : Choice.KEEP;
                    listener.change(text(
                            ChangeKind.EMPTIED_IN_FILE,
                            entry,
                            now,
                            index,
                            tag,
                            source,
                            mine,
                            theirs,
                            choice,
                            arrival,
                            true));
                }
            }
            case SAME -> {
                boolean own = mine.own() && terms.fourEyes().contains(tag);
                if (arrival == Arrival.SETTLED
                        && mine.standing() == Standing.PENCILLED
                        && !own
                        && passes(entry, now, source, theirs)) {
                    Choice choice = choice(ChangeKind.HIGHER_STANDING, now.id(), tag, Choice.KEEP);
                    listener.change(text(
                            ChangeKind.HIGHER_STANDING,
                            entry,
                            now,
                            index,
                            tag,
                            source,
                            mine,
                            theirs,
                            choice,
                            arrival,
                            current));
                }
            }
            default -> {
                boolean whole = passes(entry, now, source, theirs);
                ChangeKind kind = whole ? kind(decision, mine) : ChangeKind.PLACEHOLDERS;
                Arrival taken =
                        (whole || arrival == Arrival.OFFERED ? arrival : Arrival.PENCILLED).over(mine.standing());
                Choice choice = choice(kind, now.id(), tag, kind.choices().get(0));
                boolean fresh = current && !theirs.older();
                Change change = text(kind, entry, now, index, tag, source, mine, theirs, choice, taken, fresh);
                boolean offeredAlready = change.arrives() == Arrival.OFFERED && theirs.says(mine.ownOffer());
                if (!offeredAlready) {
                    listener.change(change);
                }
            }
        }
    }

    /** Whether nothing stands against settling the file's text, with the limit that the entry has afterwards. */
    private boolean passes(RecordEntry entry, FileEntry now, FileText source, FileText theirs) {
        boolean described = terms.coordinator()
                && file.has(Field.LIMIT)
                && choice(ChangeKind.DESCRIPTIONS, now.id(), null, Choice.TAKE) == Choice.TAKE;
        int limit = described ? now.maxLength() : entry.maxLength();
        return Checks.blockers(new Measure(entry.shape(), source.forms(), limit, entry.maxLines()), theirs.forms())
                .isEmpty();
    }

    private Arrival arrival(LanguageTag tag, Optional<FileState> stated) {
        return terms.arrivals().getOrDefault(tag, Arrival.OFFERED).within(stated);
    }

    private static ChangeKind kind(TextDecision decision, RecordCell mine) {
        return switch (decision) {
            case CONFLICT -> ChangeKind.CONFLICTS;
            case DIFFERS ->
                mine.standing() == Standing.SETTLED ? ChangeKind.DIFFER_FROM_SETTLED : ChangeKind.TEXTS_REPLACED;
            default -> mine.text().isEmpty() ? ChangeKind.TEXTS_ADDED : ChangeKind.TEXTS_REPLACED;
        };
    }

    private FileText source(FileEntry entry) {
        return sourceColumn < 0 ? FileText.NONE : entry.texts().get(sourceColumn);
    }

    private static FileText bare(FileText text) {
        return text.state().isEmpty() ? text : FileText.of(text.forms());
    }

    private @Nullable FileText baseText(@Nullable FileEntry then, LanguageTag tag) {
        if (then == null || base == null) {
            return null;
        }
        int language = base.languages().indexOf(tag);
        return language < 0 ? null : then.texts().get(language);
    }

    private boolean describedOtherwise(RecordEntry entry, FileEntry now) {
        return (file.has(Field.NOTE) && !now.note().equals(entry.note()))
                || (file.has(Field.REFERENCE) && !now.reference().equals(entry.reference()))
                || (file.has(Field.SECTION) && !now.section().equals(entry.section()))
                || (file.has(Field.LIMIT) && now.maxLength() != entry.maxLength());
    }

    /** How many of the file's entries the record does not have, once all of it has been compared. */
    public int unmet() {
        int unmet = 0;
        for (boolean one : met) {
            unmet += one ? 0 : 1;
        }
        return unmet;
    }

    /** After the whole record has been compared: the entries that only the file has, in the file's order. */
    public void rest(Listener listener) {
        // All of these first: where new entries go depends on where the renamed ones stay.
        renamed.forEach((index, former) -> {
            if (choice(ChangeKind.RENAMED, file.id(index), null, Choice.BOTH) == Choice.RENAME) {
                listener.met(index, former);
            }
        });
        for (int i = 0; i < file.size(); i++) {
            if (!met[i]) {
                onlyInFile(i, listener);
            }
        }
    }

    private void onlyInFile(int index, Listener listener) {
        FileEntry entry = file.entry(index);
        RecordEntry former = renamed.get(index);
        if (former != null) {
            renamed(former, entry, index, listener);
        } else if (baseIndex.containsKey(entry.id()) && terms.removed().contains(entry.id())) {
            tellNew(terms.coordinator() ? ChangeKind.REMOVED_HERE : ChangeKind.NO_RIGHT, entry, index, listener);
        } else if (terms.coordinator()) {
            boolean whole = file.stands(index) && !source(entry).isEmpty();
            Change change = tellNew(whole ? ChangeKind.NEW_ENTRIES : ChangeKind.WITHOUT_SOURCE, entry, index, listener);
            if (change.choice() != Choice.KEEP) {
                textsOfNew(entry, index, listener);
            }
        } else {
            tellNew(source(entry).isEmpty() ? ChangeKind.WITHOUT_SOURCE : ChangeKind.NO_RIGHT, entry, index, listener);
        }
    }

    private void renamed(RecordEntry former, FileEntry entry, int index, Listener listener) {
        Change change = made(ChangeKind.RENAMED, former, entry, index, former.source(), source(entry));
        listener.change(change);
        if (change.choice() == Choice.RENAME) {
            both(former, index, baseIndex.get(former.entryId()), listener);
        } else {
            textsOfNew(entry, index, listener);
        }
    }

    private void textsOfNew(FileEntry entry, int index, Listener listener) {
        for (int i = 0; i < file.languages().size(); i++) {
            LanguageTag tag = file.languages().get(i);
            FileText text = entry.texts().get(i);
            if (i == sourceColumn || !terms.arrivals().containsKey(tag) || text.isEmpty()) {
                continue;
            }
            boolean whole = Checks.blockers(
                            new Measure(entry.shape(), source(entry).forms(), entry.maxLength(), 0), text.forms())
                    .isEmpty();
            ChangeKind kind = whole ? ChangeKind.TEXTS_ADDED : ChangeKind.PLACEHOLDERS;
            Arrival arrival = arrival(tag, text.state());
            listener.change(new Change(
                    kind,
                    entry.id(),
                    null,
                    entry,
                    index,
                    tag,
                    source(entry),
                    FileText.NONE,
                    text,
                    choice(kind, entry.id(), tag, kind.choices().get(0)),
                    whole || arrival == Arrival.OFFERED ? arrival : Arrival.PENCILLED,
                    !text.older()));
        }
    }

    private Change tellNew(ChangeKind kind, FileEntry entry, int index, Listener listener) {
        Change change = new Change(
                kind,
                entry.id(),
                null,
                entry,
                index,
                null,
                source(entry),
                FileText.NONE,
                sourceColumn < 0 ? firstText(entry) : source(entry),
                choice(kind, entry.id(), null, kind.choices().get(0)),
                null,
                true);
        listener.change(change);
        return change;
    }

    private static FileText firstText(FileEntry entry) {
        List<FileText> texts = new ArrayList<>(entry.texts());
        texts.removeIf(FileText::isEmpty);
        return texts.isEmpty() ? FileText.NONE : texts.get(0);
    }

    private void tell(
            ChangeKind kind,
            RecordEntry entry,
            FileEntry now,
            int index,
            FileText before,
            FileText after,
            Listener listener) {
        listener.change(made(kind, entry, now, index, before, after));
    }

    private Change made(ChangeKind kind, RecordEntry entry, FileEntry now, int index, FileText before, FileText after) {
        Choice choice = choice(kind, now.id(), null, kind.choices().get(0));
        return new Change(kind, now.id(), entry, now, index, null, entry.source(), before, after, choice, null, true);
    }

    private static Change text(
            ChangeKind kind,
            RecordEntry entry,
            FileEntry now,
            int index,
            LanguageTag tag,
            FileText source,
            RecordCell mine,
            FileText theirs,
            Choice choice,
            Arrival taken,
            boolean current) {
        return new Change(kind, now.id(), entry, now, index, tag, source, mine.text(), theirs, choice, taken, current);
    }

    private Choice choice(ChangeKind kind, EntryId id, @Nullable LanguageTag tag, Choice usual) {
        Choice decided = terms.choices().of(kind, id, tag);
        return decided != null && kind.choices().contains(decided) ? decided : usual;
    }
}
