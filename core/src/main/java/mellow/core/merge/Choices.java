package mellow.core.merge;

import mellow.core.format.EntryId;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/** What people decided about single changes and whole kinds of them. */
@FunctionalInterface
public interface Choices {

    /** Nobody decided anything. */
    Choices NONE = (kind, id, language) -> null;

    /**
     * What was decided.
     *
     * @param id the entry as the file names it; as the record does when only the record has it
     * @param language the language of the text, null for changes of entries and sources
     * @return one of the kind's choices, null where the default holds
     */
    @Nullable
    Choice of(ChangeKind kind, EntryId id, @Nullable LanguageTag language);
}
