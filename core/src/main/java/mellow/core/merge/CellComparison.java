package mellow.core.merge;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.cell.Standing;
import mellow.core.check.Checks;
import mellow.core.check.Finding;
import mellow.core.check.Measure;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/** Compares the text of one entry in one language: what the file says, said last time, and what the record has. */
final class CellComparison {

    private final FileReading file;
    private final @Nullable FileReading base;
    private final Terms terms;

    CellComparison(FileReading file, @Nullable FileReading base, Terms terms) {
        this.file = file;
        this.base = base;
        this.terms = terms;
    }

    /** Tells what the file would change in the language of its column {@code column}. */
    void compare(Meeting at, int column, Comparison.Listener listener) {
        LanguageTag tag = file.languages().get(column);
        RecordCell mine = at.entry().cell(tag);
        FileText now = at.now().texts().get(column);
        FileText then = baseText(at.then(), tag);
        FileText theirs = completed(now, then, now, mine.text(), at.index(), column);
        FileText before = then == null ? null : completed(then, then, now, mine.text(), at.index(), column);
        TextDecision decision = TextDecision.decide(before, mine.text(), theirs);
        boolean ownOffer =
                theirs.says(mine.ownOffer()) && terms.may().fourEyes().contains(tag);
        Arrival arrival = ownOffer ? Arrival.OFFERED : terms.arrival(tag, theirs.state());
        if (theirs.says(mine.text())
                && doubts(theirs, before)
                && mine.standing() == Standing.SETTLED
                && !mine.stale()) {
            Choice choice = terms.may().reviews().contains(tag)
                    ? terms.choice(ChangeKind.DOUBTED, at.now().id(), tag, Choice.KEEP)
                    : Choice.KEEP;
            boolean current = !mine.stale() && !theirs.older();
            listener.change(
                    text(ChangeKind.DOUBTED, at, tag, theirs, new Change.Decided(choice, Arrival.PENCILLED, current)));
            return;
        }
        switch (decision) {
            case NOTHING_NEW -> {}
            case EMPTIED -> {
                // A text that nobody has made for the new source yet is no text that was taken away.
                if (!mine.text().isEmpty() && !at.reworded()) {
                    Choice choice = terms.may().reviews().contains(tag)
                            ? terms.choice(ChangeKind.EMPTIED_IN_FILE, at.now().id(), tag, Choice.KEEP)
                            : Choice.KEEP;
                    listener.change(text(
                            ChangeKind.EMPTIED_IN_FILE, at, tag, theirs, new Change.Decided(choice, arrival, true)));
                }
            }
            case SAME -> {
                boolean own = mine.own() && terms.may().fourEyes().contains(tag);
                if (arrival == Arrival.SETTLED
                        && mine.standing() == Standing.PENCILLED
                        && !own
                        && against(at, theirs, tag).isEmpty()) {
                    Choice choice =
                            terms.choice(ChangeKind.HIGHER_STANDING, at.now().id(), tag, Choice.KEEP);
                    listener.change(text(
                            ChangeKind.HIGHER_STANDING,
                            at,
                            tag,
                            theirs,
                            new Change.Decided(choice, arrival, at.current())));
                }
            }
            default -> {
                List<Finding> against = against(at, theirs, tag);
                boolean whole = against.isEmpty();
                ChangeKind kind = whole ? kind(decision, mine) : ChangeKind.STOPPED;
                Arrival taken =
                        (whole || arrival == Arrival.OFFERED ? arrival : Arrival.PENCILLED).over(mine.standing());
                Choice choice =
                        terms.choice(kind, at.now().id(), tag, kind.choices().get(0));
                Change change = text(
                        kind,
                        at,
                        tag,
                        theirs,
                        new Change.Decided(choice, taken, at.current() && !theirs.older(), against));
                boolean offeredAlready = change.arrives() == Arrival.OFFERED && theirs.says(mine.ownOffer());
                if (!offeredAlready) {
                    listener.change(change);
                }
            }
        }
    }

    /** Whether the file has come to mark a text as unsure that it held before without a doubt, or never held. */
    private static boolean doubts(FileText theirs, @Nullable FileText before) {
        boolean asBefore =
                before != null && before.says(theirs) && before.state().equals(theirs.state());
        return theirs.state().equals(Optional.of(FileState.PENCILLED)) && !theirs.isEmpty() && !asBefore;
    }

    /**
     * A text with what the record has and the file says nothing about: forms that it cannot hold, or has neither now nor had before; line breaks that it
     * reads as another kind.
     *
     * @param text what is completed: what the file says or said
     * @param then what the file said, null when it was never taken in
     * @param now what it says
     * @param mine what the record says
     */
    FileText completed(FileText text, @Nullable FileText then, FileText now, FileText mine, int index, int column) {
        if (text.isEmpty() || now.isEmpty()) {
            return text;
        }
        boolean returns =
                !file.keepsReturns() && mine.forms().values().stream().anyMatch(one -> one.indexOf('\r') >= 0);
        if (!returns && now.forms().keySet().containsAll(mine.forms().keySet())) {
            return text;
        }
        Optional<Set<String>> held = file.forms(index, column);
        SortedMap<String, String> all = new TreeMap<>(text.forms());
        mine.forms().forEach((form, words) -> {
            boolean never = then != null && !then.isEmpty() && !then.forms().containsKey(form);
            boolean silent = !now.forms().containsKey(form)
                    && (never || held.filter(forms -> !forms.contains(form)).isPresent());
            boolean same = returns
                    && words.replace("\r\n", "\n")
                            .replace('\r', '\n')
                            .equals(text.forms().get(form));
            if (silent) {
                all.putIfAbsent(form, words);
            } else if (same) {
                all.put(form, words);
            }
        });
        return new FileText(all, text.state(), text.older());
    }

    /** What stands against settling the file's text, with the limit that the entry has afterwards. */
    private List<Finding> against(Meeting at, FileText theirs, LanguageTag tag) {
        RecordEntry entry = at.entry();
        Measure measure =
                new Measure(entry.shape(), at.source().forms(), at.limit(), entry.maxLines(), entry.maxWidth());
        return Checks.blockers(measure, theirs.forms(), terms.grounds().apply(tag));
    }

    private static ChangeKind kind(TextDecision decision, RecordCell mine) {
        return switch (decision) {
            case CONFLICT -> ChangeKind.CONFLICTS;
            case DIFFERS ->
                mine.standing() == Standing.SETTLED ? ChangeKind.DIFFER_FROM_SETTLED : ChangeKind.TEXTS_REPLACED;
            default -> mine.text().isEmpty() ? ChangeKind.TEXTS_ADDED : ChangeKind.TEXTS_REPLACED;
        };
    }

    private @Nullable FileText baseText(@Nullable FileEntry then, LanguageTag tag) {
        if (then == null || base == null) {
            return null;
        }
        int language = base.languages().indexOf(tag);
        return language < 0 ? null : then.texts().get(language);
    }

    private static Change text(ChangeKind kind, Meeting at, LanguageTag tag, FileText theirs, Change.Decided decided) {
        return new Change(
                kind,
                new Change.At(at.now().id(), at.entry(), at.now(), at.index(), tag),
                new Change.Words(at.source(), at.entry().cell(tag).text(), theirs),
                decided,
                Description.NONE);
    }
}
