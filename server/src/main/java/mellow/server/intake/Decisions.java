package mellow.server.intake;

import java.util.HashMap;
import java.util.Map;
import mellow.core.format.EntryId;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Change;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.merge.Choices;
import org.jspecify.annotations.Nullable;

/** What people decided about an intake: about whole kinds of changes, and about single ones. */
final class Decisions implements Choices {

    private final Map<ChangeKind, Choice> kinds;
    private final Map<Single, Choice> singles = new HashMap<>();
    private final boolean removes;

    private record Single(ChangeKind kind, EntryId id, @Nullable LanguageTag language) {}

    /** {@code removes}: whether entries that the file lost are removed unless somebody says otherwise. */
    Decisions(Map<ChangeKind, Choice> kinds, boolean removes) {
        this.kinds = kinds;
        this.removes = removes;
    }

    void decide(ChangeKind kind, EntryId id, @Nullable LanguageTag language, Choice choice) {
        singles.put(new Single(kind, id, language), choice);
    }

    @Override
    public @Nullable Choice of(ChangeKind kind, EntryId id, @Nullable LanguageTag language) {
        Choice own = own(kind, id, language);
        return own != null ? own : kinds.get(kind);
    }

    /** What was decided about this very change; null for nothing. */
    @Nullable
    Choice own(ChangeKind kind, EntryId id, @Nullable LanguageTag language) {
        return singles.isEmpty() ? null : singles.get(new Single(kind, id, language));
    }

    /** What would hold if nobody had decided about this very change. */
    Choice usual(Change change) {
        Choice ofKind = kinds.get(change.kind());
        if (ofKind != null) {
            return ofKind;
        }
        return change.kind() == ChangeKind.GONE_FROM_FILE && !removes
                ? Choice.KEEP
                : change.kind().choices().get(0);
    }
}
