package mellow.core.merge;

import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import mellow.core.check.Ground;
import mellow.core.format.EntryId;
import mellow.core.format.FileState;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/**
 * Under which terms a file is compared.
 *
 * @param source the table's source language
 * @param arrivals how texts arrive, by language, within the person's rights; texts in other languages are not looked at
 * @param may what the person may
 * @param removes whether entries that the file lost are removed unless somebody says otherwise: only a file that covered the whole table removes
 * @param removed entries that were removed from the table
 * @param choices what people decided
 * @param grounds what texts of a language are looked at by
 */
public record Terms(
        LanguageTag source,
        Map<LanguageTag, Arrival> arrivals,
        May may,
        boolean removes,
        Set<EntryId> removed,
        Choices choices,
        Function<LanguageTag, Ground> grounds) {

    /**
     * What the person who brings the file may.
     *
     * @param fourEyes the languages in which their own texts do not settle; a file that says the same as their offer or draft does not make it another's
     * @param reviews the languages in which they may take texts away
     * @param coordinator whether they may change entries and sources
     */
    public record May(Set<LanguageTag> fourEyes, Set<LanguageTag> reviews, boolean coordinator) {}

    /** What was decided about a change; {@code usual} where nobody did, or where it cannot be. */
    Choice choice(ChangeKind kind, EntryId id, @Nullable LanguageTag tag, Choice usual) {
        Choice decided = choices.of(kind, id, tag);
        return decided != null && kind.choices().contains(decided) ? decided : usual;
    }

    /** How a text about which a file says something arrives in a language. */
    Arrival arrival(LanguageTag tag, Optional<FileState> stated) {
        return arrivals.getOrDefault(tag, Arrival.OFFERED).within(stated);
    }
}
