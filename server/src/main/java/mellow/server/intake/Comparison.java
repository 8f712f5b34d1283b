package mellow.server.intake;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.core.cell.Standing;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileReading.Field;
import mellow.core.language.LanguageTag;
import mellow.core.merge.SourceDecision;
import mellow.core.merge.TextDecision;
import mellow.core.merge.TextEffect;
import mellow.core.merge.TextEffect.Arrival;
import mellow.server.record.RecordCell;
import mellow.server.record.RecordEntry;
import org.jspecify.annotations.Nullable;

/**
 * Compares a file with the record, entry by entry, and tells a listener what the file would do. The file is indexed by key, the record streams
 * by; the base, what the file's path held when it was last taken in, is asked for by key. Cost: one pass over both.
 */
final class Comparison {

    /** What a comparison finds. */
    interface Listener {

        /** An entry that only the file has, with a source text. */
        void added(int index, FileEntry entry, String source, List<Arriving> texts);

        /** An entry both have. Called for every one of them, in the record's order. */
        void met(int index, RecordEntry entry);

        /** The file rewrote the source. */
        void rewritten(RecordEntry entry, String source, boolean conflict);

        /** The source is kept although the file says something else. */
        void sourceKept(RecordEntry entry, String source, SourceDecision decision);

        /** Note, limit, section or reference are not as in the file. */
        void described(RecordEntry entry, FileEntry now);

        /** The file brings a text for a cell. */
        void text(RecordEntry entry, Arriving text, RecordCell mine);

        /** The file had a text and has none now; the record's stays. */
        void emptied(RecordEntry entry, LanguageTag language, RecordCell mine);

        /** An entry only the record has. {@code known} when the file had it last time. */
        void gone(RecordEntry entry, boolean known);

        /** An entry that is not plain, and the file says otherwise; a plain file cannot tell its forms, so it stays. */
        void shaped(RecordEntry entry, String theirs);

        /** An entry that cannot be added: only the file has it, and it has no source text. */
        void sourceless(FileEntry entry);
    }

    /**
     * A text that a file brings.
     *
     * @param language index among the file's languages
     * @param tag the language
     * @param text the text, not empty
     * @param decision what it means
     * @param effect what it does; never KEEP
     * @param forNewSource made for the source as the file has it, so for the newest revision
     */
    record Arriving(
            int language,
            LanguageTag tag,
            String text,
            TextDecision decision,
            TextEffect effect,
            boolean forNewSource) {}

    private final FileReading file;
    private final @Nullable FileReading base;
    private final LanguageTag sourceLanguage;
    private final Map<LanguageTag, Arrival> arrivals;
    private final Map<EntryId, Integer> fileIndex;
    private final Map<EntryId, Integer> baseIndex;
    private final boolean[] met;
    private final int sourceColumn;

    /**
     * Prepares a comparison.
     *
     * @param arrivals how texts arrive, by language; texts in other languages are not looked at
     */
    Comparison(
            FileReading file,
            @Nullable FileReading base,
            LanguageTag sourceLanguage,
            Map<LanguageTag, Arrival> arrivals) {
        this.file = file;
        this.base = base;
        this.sourceLanguage = sourceLanguage;
        this.arrivals = arrivals;
        this.fileIndex = index(file);
        this.baseIndex = base == null ? Map.of() : index(base);
        this.met = new boolean[file.size()];
        this.sourceColumn = file.languages().indexOf(sourceLanguage);
    }

    static Map<EntryId, Integer> index(FileReading reading) {
        Map<EntryId, Integer> index = new HashMap<>(reading.size() * 2);
        for (int i = 0; i < reading.size(); i++) {
            index.put(reading.id(i), i);
        }
        return index;
    }

    /** Compares the next entry of the record. */
    void compare(RecordEntry entry, Listener listener) {
        Integer index = fileIndex.get(entry.entryId());
        Integer baseAt = baseIndex.get(entry.entryId());
        if (index == null) {
            listener.gone(entry, baseAt != null);
            return;
        }
        met[index] = true;
        listener.met(index, entry);
        FileEntry now = file.entry(index);
        if (!entry.plain()) {
            otherShape(entry, now, listener);
            return;
        }
        FileEntry then = baseAt == null || base == null ? null : base.entry(baseAt);
        boolean rewritten = compareSource(entry, now, then, listener);
        if (describedOtherwise(entry, now)) {
            listener.described(entry, now);
        }
        boolean madeForOurs =
                sourceColumn < 0 || rewritten || now.text(sourceColumn).equals(entry.source());
        for (int i = 0; i < file.languages().size(); i++) {
            LanguageTag tag = file.languages().get(i);
            Arrival arrival = arrivals.get(tag);
            if (i == sourceColumn || arrival == null) {
                continue;
            }
            RecordCell mine = entry.cells().getOrDefault(tag, RecordCell.NONE);
            TextDecision decision = TextDecision.decide(baseText(then, tag), mine.text(), now.text(i));
            if (decision == TextDecision.EMPTIED) {
                listener.emptied(entry, tag, mine);
                continue;
            }
            TextEffect effect = TextEffect.of(decision, mine.standing(), arrival);
            boolean offeredAlready = effect == TextEffect.OFFER && now.text(i).equals(mine.ownOffer());
            if (effect != TextEffect.KEEP && !offeredAlready) {
                listener.text(entry, new Arriving(i, tag, now.text(i), decision, effect, madeForOurs), mine);
            }
        }
    }

    /** A file with one text per cell knows nothing of plural forms or states; taking it would drop them. */
    private void otherShape(RecordEntry entry, FileEntry now, Listener listener) {
        for (int i = 0; i < file.languages().size(); i++) {
            String theirs = now.text(i);
            RecordCell mine = entry.cells().getOrDefault(file.languages().get(i), RecordCell.NONE);
            if (!theirs.isEmpty() && !theirs.equals(i == sourceColumn ? entry.source() : mine.text())) {
                listener.shaped(entry, theirs);
                return;
            }
        }
    }

    private boolean compareSource(RecordEntry entry, FileEntry now, @Nullable FileEntry then, Listener listener) {
        if (sourceColumn < 0) {
            return false;
        }
        String theirs = now.text(sourceColumn);
        if (theirs.isEmpty()) {
            return false;
        }
        SourceDecision decision = SourceDecision.decide(baseText(then, sourceLanguage), entry.source(), theirs);
        switch (decision) {
            case REWRITTEN, CONFLICT -> listener.rewritten(entry, theirs, decision == SourceDecision.CONFLICT);
            case EDITED_HERE -> listener.sourceKept(entry, theirs, decision);
            case KEEP -> {
                return false;
            }
        }
        return decision != SourceDecision.EDITED_HERE;
    }

    private @Nullable String baseText(@Nullable FileEntry then, LanguageTag tag) {
        if (then == null || base == null) {
            return null;
        }
        int language = base.languages().indexOf(tag);
        return language < 0 ? null : then.text(language);
    }

    private boolean describedOtherwise(RecordEntry entry, FileEntry now) {
        return (file.has(Field.NOTE) && !now.note().equals(entry.note()))
                || (file.has(Field.REFERENCE) && !now.reference().equals(entry.reference()))
                || (file.has(Field.SECTION) && !now.section().equals(entry.section()))
                || (file.has(Field.LIMIT) && now.maxLength() != entry.maxLength());
    }

    /** How many of the file's entries the record does not have, once all of it has been compared. */
    int unmet() {
        int unmet = 0;
        for (boolean one : met) {
            unmet += one ? 0 : 1;
        }
        return unmet;
    }

    /** After the whole record has been compared: the entries that only the file has. */
    void rest(Listener listener) {
        for (int i = 0; i < file.size(); i++) {
            if (met[i]) {
                continue;
            }
            FileEntry entry = file.entry(i);
            String source = sourceColumn < 0 ? "" : entry.text(sourceColumn);
            if (source.isEmpty()) {
                listener.sourceless(entry);
            } else {
                listener.added(i, entry, source, textsOf(entry));
            }
        }
    }

    private List<Arriving> textsOf(FileEntry entry) {
        List<Arriving> texts = new ArrayList<>();
        for (int i = 0; i < file.languages().size(); i++) {
            LanguageTag tag = file.languages().get(i);
            Arrival arrival = arrivals.get(tag);
            String text = entry.text(i);
            if (i != sourceColumn && arrival != null && !text.isEmpty()) {
                texts.add(new Arriving(
                        i, tag, text, TextDecision.ADD, TextEffect.of(TextDecision.ADD, Standing.NONE, arrival), true));
            }
        }
        return texts;
    }
}
