package mellow.server.intake;

import java.util.List;
import mellow.core.format.FileEntry;
import mellow.core.language.LanguageTag;
import mellow.core.merge.SourceDecision;
import mellow.server.intake.Comparison.Arriving;
import mellow.server.record.RecordCell;
import mellow.server.record.RecordEntry;
import mellow.server.run.RunService.Progress;

/** Counts what is carried out, so that the report says exactly what was done, and tells the progress in entries now and then. */
final class CountedListeners implements Comparison.Listener {

    private static final int TOLD_EVERY = 1000;

    private final Comparison.Listener counted;
    private final Comparison.Listener done;
    private final Progress progress;
    private final long total;
    private long entries;

    CountedListeners(Comparison.Listener counted, Comparison.Listener done, Progress progress, long total) {
        this.counted = counted;
        this.done = done;
        this.progress = progress;
        this.total = total;
    }

    private void one() {
        if (++entries % TOLD_EVERY == 0) {
            progress.at(Math.min(entries, total), total);
        }
    }

    @Override
    public void added(int index, FileEntry entry, String source, List<Arriving> texts) {
        counted.added(index, entry, source, texts);
        done.added(index, entry, source, texts);
        one();
    }

    @Override
    public void met(int index, RecordEntry entry) {
        counted.met(index, entry);
        done.met(index, entry);
        one();
    }

    @Override
    public void rewritten(RecordEntry entry, String source, boolean conflict) {
        counted.rewritten(entry, source, conflict);
        done.rewritten(entry, source, conflict);
    }

    @Override
    public void sourceKept(RecordEntry entry, String source, SourceDecision decision) {
        counted.sourceKept(entry, source, decision);
        done.sourceKept(entry, source, decision);
    }

    @Override
    public void described(RecordEntry entry, FileEntry now) {
        counted.described(entry, now);
        done.described(entry, now);
    }

    @Override
    public void text(RecordEntry entry, Arriving text, RecordCell mine) {
        counted.text(entry, text, mine);
        done.text(entry, text, mine);
    }

    @Override
    public void shaped(RecordEntry entry, String theirs) {
        counted.shaped(entry, theirs);
        done.shaped(entry, theirs);
    }

    @Override
    public void emptied(RecordEntry entry, LanguageTag language, RecordCell mine) {
        counted.emptied(entry, language, mine);
        done.emptied(entry, language, mine);
    }

    @Override
    public void gone(RecordEntry entry, boolean known) {
        counted.gone(entry, known);
        done.gone(entry, known);
    }

    @Override
    public void sourceless(FileEntry entry) {
        counted.sourceless(entry);
        done.sourceless(entry);
    }
}
