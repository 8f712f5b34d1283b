package mellow.server.memory;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.language.LanguageTag;
import mellow.core.memory.Adaptation;
import mellow.core.memory.Adaptation.Adapted;
import mellow.core.memory.Adaptation.Substitution;
import org.jspecify.annotations.Nullable;

/**
 * A settled text of another entry, or a unit of a shelf.
 *
 * @param percent how alike the sources are, less what is deducted for its shelf; 100 for equal ones
 * @param entry the entry, 0 for a unit of a shelf
 * @param unit the unit of a shelf, 0 for an entry
 * @param key of the entry, or the context of the unit
 * @param table the name of its table or shelf
 * @param sameContext the same source, and the same key or context, or the same texts before and after it
 * @param text as it was settled but for what was adapted
 * @param forms all its forms, null for a plain text
 * @param adapted the placeholders and numbers that were put in its text in the place of others, as its source has them
 */
public record MemoryHit(
        int percent,
        long entry,
        long unit,
        String key,
        String table,
        boolean sameContext,
        String source,
        String text,
        @Nullable Map<String, String> forms,
        List<Substitution> adapted) {

    MemoryHit measured(int now) {
        return new MemoryHit(now, entry, unit, key, table, sameContext, source, text, forms, adapted);
    }

    MemoryHit inSameContext() {
        return new MemoryHit(percent, entry, unit, key, table, true, source, text, forms, adapted);
    }

    /** Whether one of both tells nothing that the other does not: the same text of the same source, or the same that was made of several. */
    boolean saysLike(MemoryHit other) {
        return text.equals(other.text)
                && (source.equals(other.source) || !adapted.isEmpty() && !other.adapted.isEmpty());
    }

    MemoryHit adaptedTo(String wanted, LanguageTag language) {
        Optional<Adapted> sure = forms == null && !source.equals(wanted)
                ? Adaptation.of(source, wanted, text, language)
                : Optional.empty();
        return sure.map(one -> new MemoryHit(
                        percent, entry, unit, key, table, sameContext, source, one.text(), null, one.changes()))
                .orElse(this);
    }
}
