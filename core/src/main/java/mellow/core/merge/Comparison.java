package mellow.core.merge;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.check.Checks;
import mellow.core.check.Finding;
import mellow.core.check.Measure;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Meeting.Pair;
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

    private final FileReading file;
    private final @Nullable FileReading base;
    private final Terms terms;
    private final Map<EntryId, Integer> fileIndex;
    private final Map<EntryId, Integer> baseIndex;
    private final Succession succession;
    private final Map<Integer, RecordEntry> succeeded = new TreeMap<>();
    private final CellComparison texts;
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
        this.texts = new CellComparison(file, base, terms);
        this.fileIndex = index(file);
        this.baseIndex = base == null ? Map.of() : index(base);
        this.met = new boolean[file.size()];
        this.sourceColumn = file.sourceColumn(terms.source());
        this.baseSourceColumn = base == null ? -1 : base.sourceColumn(terms.source());
        this.succession = base == null
                ? Succession.NONE
                : Succession.of(
                        base,
                        file,
                        this::lost,
                        i -> file.stands(i) && !baseIndex.containsKey(file.id(i)),
                        terms.source());
    }

    /** Whether an entry of the base, by its index, is not in the file any more. */
    private boolean lost(int baseAt) {
        if (base == null || !base.stands(baseAt)) {
            return false;
        }
        Integer at = fileIndex.get(base.id(baseAt));
        return at == null || !file.stands(at);
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
        // Another file of the table may have brought the new key already; then the base knows the entry by its former
        // one.
        both(entry, index, baseAt == null ? succession.formerOf(index) : baseAt, listener);
    }

    private void gone(RecordEntry entry, Listener listener) {
        Integer heir = succession.heirOf(entry.entryId());
        if (heir != null && !met[heir] && terms.may().coordinator()) {
            succeeded.put(heir, entry);
        } else {
            tellGone(entry, listener);
        }
    }

    private void tellGone(RecordEntry entry, Listener listener) {
        Choice usual = terms.removes() && terms.may().coordinator() ? Choice.REMOVE : Choice.KEEP;
        Choice choice = terms.may().coordinator()
                ? terms.choice(ChangeKind.GONE_FROM_FILE, entry.entryId(), null, usual)
                : Choice.KEEP;
        listener.change(new Change(
                ChangeKind.GONE_FROM_FILE,
                new Change.At(entry.entryId(), entry, null, -1, null),
                new Change.Words(entry.source(), entry.source(), FileText.NONE),
                new Change.Decided(choice, null, true),
                Description.NONE));
    }

    private void both(RecordEntry entry, int index, @Nullable Integer baseAt, Listener listener) {
        FileEntry now = file.entry(index);
        if (!fits(entry, now)) {
            otherShape(new Pair(entry, now, index, null), listener);
            return;
        }
        FileEntry then = baseAt == null || base == null ? null : base.entry(baseAt);
        Pair pair = new Pair(entry, now, index, then);
        compare(meeting(pair, compareSource(pair, listener), false), listener);
    }

    /** {@code rewritten}: whether the file's source comes in. */
    private Meeting meeting(Pair pair, boolean rewritten, boolean reworded) {
        RecordEntry entry = pair.entry();
        FileEntry then = pair.then();
        Description.Decided described = terms.may().coordinator()
                ? Description.decide(
                        then == null || base == null ? null : Description.of(base, then),
                        Description.of(entry),
                        Description.of(file, pair.now()))
                : new Description.Decided(Description.NONE, Description.NONE);
        FileText theirs = source(pair);
        return new Meeting(
                pair,
                rewritten ? theirs : entry.source(),
                theirs.isEmpty() || rewritten || theirs.says(entry.source()),
                reworded,
                limitAfter(entry, pair.now(), described),
                described);
    }

    private void compare(Meeting meeting, Listener listener) {
        for (int i = 0; i < file.languages().size(); i++) {
            if (i != sourceColumn
                    && terms.arrivals().containsKey(file.languages().get(i))) {
                texts.compare(meeting, i, listener);
            }
        }
        tellDescribed(ChangeKind.DESCRIPTIONS, meeting, meeting.described().taken(), listener);
        tellDescribed(
                ChangeKind.DESCRIPTION_CONFLICTS, meeting, meeting.described().conflicting(), listener);
    }

    private void tellDescribed(ChangeKind kind, Meeting at, Description theirs, Listener listener) {
        if (!theirs.isEmpty()) {
            FileText before =
                    FileText.plain(theirs.in(Description.of(at.entry())).shown());
            FileText after = FileText.plain(theirs.shown());
            listener.change(made(kind, at.pair(), before, after).describing(theirs));
        }
    }

    /** The limit that the entry has once what was decided about its description is done. */
    private int limitAfter(RecordEntry entry, FileEntry now, Description.Decided described) {
        int limit = entry.maxLength();
        if (terms.choice(ChangeKind.DESCRIPTIONS, now.id(), null, Choice.TAKE) == Choice.TAKE) {
            limit = described.taken().limitOr(limit);
        }
        return terms.choice(ChangeKind.DESCRIPTION_CONFLICTS, now.id(), null, Choice.KEEP) == Choice.TAKE
                ? described.conflicting().limitOr(limit)
                : limit;
    }

    /** A file of plain texts cannot tell the forms of others, nor the other way round; an entry without any text fits everything. */
    private static boolean fits(RecordEntry entry, FileEntry now) {
        return entry.shape() == now.shape();
    }

    private void otherShape(Pair pair, Listener listener) {
        for (int i = 0; i < file.languages().size(); i++) {
            FileText theirs = pair.now().texts().get(i);
            FileText mine = i == sourceColumn
                    ? pair.entry().source()
                    : pair.entry().cell(file.languages().get(i)).text();
            if (!theirs.isEmpty() && !theirs.main().equals(mine.main())) {
                listener.change(made(ChangeKind.OTHER_SHAPE, pair, mine, theirs));
                return;
            }
        }
    }

    /** Whether the file's source comes in. */
    private boolean compareSource(Pair pair, Listener listener) {
        RecordEntry entry = pair.entry();
        FileText theirs = source(pair);
        FileText before = baseSource(pair.then());
        before = before == null
                ? null
                : texts.completed(before, before, theirs, entry.source(), pair.index(), sourceColumn);
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
        if (!terms.may().coordinator() && decision != SourceDecision.EDITED_HERE) {
            kind = ChangeKind.NO_RIGHT;
        }
        Change change = made(kind, pair, entry.source(), theirs);
        listener.change(change);
        return change.rewrites() && terms.may().coordinator();
    }

    private FileText source(FileEntry entry) {
        return sourceColumn < 0 ? FileText.NONE : entry.texts().get(sourceColumn);
    }

    /** The file's source of an entry that the record has, with the forms of the record's that the file cannot hold. */
    private FileText source(Pair pair) {
        FileText theirs = source(pair.now());
        return texts.completed(
                theirs, baseSource(pair.then()), theirs, pair.entry().source(), pair.index(), sourceColumn);
    }

    private @Nullable FileText baseSource(@Nullable FileEntry then) {
        return then == null || baseSourceColumn < 0 ? null : then.texts().get(baseSourceColumn);
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
        // All of these first: where new entries go depends on where those stay that get another key.
        succeeded.forEach((index, former) -> {
            if (met[index]) {
                tellGone(former, listener);
            } else if (becomes(former, index)) {
                listener.met(index, former);
            }
        });
        for (int i = 0; i < file.size(); i++) {
            if (!met[i]) {
                onlyInFile(i, listener);
            }
        }
    }

    private ChangeKind kindOf(RecordEntry former, int index) {
        FileText was = then(former) == null ? former.source() : baseSource(then(former));
        return source(file.entry(index)).says(was == null ? former.source() : was)
                ? ChangeKind.RENAMED
                : ChangeKind.REWORDED;
    }

    private @Nullable FileEntry then(RecordEntry former) {
        Integer baseAt = baseIndex.get(former.entryId());
        return baseAt == null || base == null ? null : base.entry(baseAt);
    }

    /** Whether the entry lives on under the file's key, as was decided. */
    private boolean becomes(RecordEntry former, int index) {
        ChangeKind kind = kindOf(former, index);
        Choice choice = terms.choice(kind, file.id(index), null, kind.choices().get(0));
        return choice != Choice.BOTH && choice != Choice.REPLACE;
    }

    private void onlyInFile(int index, Listener listener) {
        FileEntry entry = file.entry(index);
        RecordEntry former = succeeded.get(index);
        if (former != null) {
            succeeded(former, entry, index, listener);
        } else if (baseIndex.containsKey(entry.id()) && terms.removed().contains(entry.id())) {
            tellNew(terms.may().coordinator() ? ChangeKind.REMOVED_HERE : ChangeKind.NO_RIGHT, entry, index, listener);
        } else if (terms.may().coordinator()) {
            boolean whole = file.stands(index) && !source(entry).isEmpty();
            Change change = tellNew(whole ? ChangeKind.NEW_ENTRIES : ChangeKind.WITHOUT_SOURCE, entry, index, listener);
            if (change.choice() != Choice.KEEP) {
                textsOfNew(entry, index, listener);
            }
        } else {
            tellNew(source(entry).isEmpty() ? ChangeKind.WITHOUT_SOURCE : ChangeKind.NO_RIGHT, entry, index, listener);
        }
    }

    private void succeeded(RecordEntry former, FileEntry entry, int index, Listener listener) {
        ChangeKind kind = kindOf(former, index);
        Pair pair = new Pair(former, entry, index, then(former));
        Change change = made(kind, pair, former.source(), source(pair));
        listener.change(change);
        if (change.choice() == Choice.RENAME) {
            both(former, index, baseIndex.get(former.entryId()), listener);
        } else if (change.rewrites()) {
            compare(meeting(pair, true, true), listener);
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
            List<Finding> against = Checks.blockers(
                    new Measure(entry.shape(), source(entry).forms(), entry.maxLength(), 0),
                    text.forms(),
                    terms.grounds().apply(tag));
            boolean whole = against.isEmpty();
            ChangeKind kind = whole ? ChangeKind.TEXTS_ADDED : ChangeKind.STOPPED;
            Arrival arrival = terms.arrival(tag, text.state());
            listener.change(new Change(
                    kind,
                    new Change.At(entry.id(), null, entry, index, tag),
                    new Change.Words(source(entry), FileText.NONE, text),
                    new Change.Decided(
                            terms.choice(kind, entry.id(), tag, kind.choices().get(0)),
                            whole || arrival == Arrival.OFFERED ? arrival : Arrival.PENCILLED,
                            !text.older(),
                            against),
                    Description.NONE));
        }
    }

    private Change tellNew(ChangeKind kind, FileEntry entry, int index, Listener listener) {
        Change change = new Change(
                kind,
                new Change.At(entry.id(), null, entry, index, null),
                new Change.Words(source(entry), FileText.NONE, sourceColumn < 0 ? firstText(entry) : source(entry)),
                new Change.Decided(
                        terms.choice(kind, entry.id(), null, kind.choices().get(0)), null, true),
                Description.NONE);
        listener.change(change);
        return change;
    }

    private static FileText firstText(FileEntry entry) {
        List<FileText> texts = new ArrayList<>(entry.texts());
        texts.removeIf(FileText::isEmpty);
        return texts.isEmpty() ? FileText.NONE : texts.get(0);
    }

    private Change made(ChangeKind kind, Pair pair, FileText before, FileText after) {
        Choice choice = terms.choice(kind, pair.now().id(), null, kind.choices().get(0));
        return new Change(
                kind,
                pair.at(),
                new Change.Words(pair.entry().source(), before, after),
                new Change.Decided(choice, null, true),
                Description.NONE);
    }
}
