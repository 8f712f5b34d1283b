package mellow.server.intake;

import java.util.Arrays;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.merge.Change;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.merge.Comparison;
import mellow.core.merge.RecordEntry;
import mellow.core.merge.Untouched;
import mellow.server.common.TextColumns;
import mellow.server.record.CopyFile;
import org.jspecify.annotations.Nullable;

/** Writes what a file would do as rows that people look at and decide about. Texts that come along with a new entry are counted in its row. */
final class Lines implements Comparison.Listener, AutoCloseable {

    private static final int[] NO_TEXTS = new int[Arrival.values().length];

    private final CopyFile rows = new CopyFile(
            "intake_line",
            "intake_id int8, kind int2, n int4, entry_id int8, key text, context text, former text, language text, source text, "
                    + "before text, before_forms text, after text, after_forms text, taken int2, usual int2, choice int2, stale text, "
                    + "spares bool, texts_settled int4, texts_offered int4, texts_pencilled int4, against text");
    private final long intake;
    private final Decisions decisions;
    private final int[] counts = new int[ChangeKind.values().length];
    private final Untouched untouched = new Untouched();
    private @Nullable Change waiting;
    private final int[] texts = new int[Arrival.values().length];

    Lines(long intake, Decisions decisions) {
        this.intake = intake;
        this.decisions = decisions;
    }

    @Override
    public void met(int index, RecordEntry entry) {
        untouched.met(index);
    }

    @Override
    public void change(Change change) {
        RecordEntry entry = change.entry();
        untouched.touched(change.index());
        boolean ofWaiting =
                waiting != null && change.language() != null && waiting.id().equals(change.id());
        if (!ofWaiting) {
            release();
        }
        if (change.language() == null) {
            waiting = change;
            return;
        }
        if (entry == null && change.kind() == ChangeKind.TEXTS_ADDED) {
            Arrival arrives = change.arrives();
            if (arrives != null) {
                texts[arrives.ordinal()]++;
            }
            return;
        }
        add(change, ofWaiting && spares(change), NO_TEXTS);
    }

    /** Whether taking the text keeps its language from going stale. */
    private static boolean spares(Change change) {
        return change.current()
                && change.decided().taken() != Arrival.OFFERED
                && !change.before().isEmpty()
                && !stale(change);
    }

    private static boolean stale(Change change) {
        RecordEntry entry = change.entry();
        LanguageTag tag = change.language();
        return entry != null && tag != null && entry.cell(tag).stale();
    }

    /** A new entry is written when the texts that come with it are known. */
    private void release() {
        if (waiting != null) {
            add(waiting, false, texts);
            waiting = null;
        }
        Arrays.fill(texts, 0);
    }

    private void add(Change change, boolean spares, int[] along) {
        int kind = change.kind().ordinal();
        Choice own = decisions.own(change.kind(), change.id(), change.language());
        Choice usual = own == null ? change.choice() : decisions.usual(change);
        rows.add(
                intake,
                kind,
                counts[kind]++,
                change.entry() == null ? null : change.entry().id(),
                change.id().key(),
                change.id().context(),
                change.formerKey(),
                change.language() == null ? null : change.language().value(),
                change.language() == null ? null : PreviewReply.shown(change.source()),
                PreviewReply.shown(change.before()),
                TextColumns.formsOrNull(change.before().forms()),
                PreviewReply.shown(change.after()),
                TextColumns.formsOrNull(change.after().forms()),
                change.decided().taken() == null
                        ? null
                        : change.decided().taken().ordinal(),
                usual.ordinal(),
                own == null ? null : own.ordinal(),
                "",
                spares,
                along[0],
                along[1],
                along[2],
                change.kind() == ChangeKind.STOPPED ? PreviewReply.against(change) : null);
    }

    /** All rows, complete. */
    CopyFile finish() {
        release();
        return rows;
    }

    /** Entries that both have and that the file leaves as they are. */
    int unchanged() {
        return untouched.count();
    }

    @Override
    public void close() {
        rows.close();
    }
}
