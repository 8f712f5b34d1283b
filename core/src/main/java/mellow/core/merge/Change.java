package mellow.core.merge;

import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/**
 * One change that a file would bring, and what was decided about it.
 *
 * @param kind what it is
 * @param id the entry as the file names it; as the record does when only the record has it
 * @param entry the record's entry, null when only the file has it
 * @param file the file's entry, null when only the record has it
 * @param index its index in the file, -1 when only the record has it
 * @param language the language of the text, null for changes of entries and sources
 * @param source the source that the text is for: the file's where it comes in, else the record's
 * @param before what the record says
 * @param after what the file says
 * @param choice what was decided: one of the kind's
 * @param taken how the text arrives when it is taken; null for changes of entries and sources
 * @param current whether the text was made for the source as it is or will be, not for an older one
 * @param described what the file says beside its texts, where that is what changes
 */
public record Change(
        ChangeKind kind,
        EntryId id,
        @Nullable RecordEntry entry,
        @Nullable FileEntry file,
        int index,
        @Nullable LanguageTag language,
        FileText source,
        FileText before,
        FileText after,
        Choice choice,
        @Nullable Arrival taken,
        boolean current,
        Description described) {

    /** How the text arrives as decided; null when it does not arrive. */
    public @Nullable Arrival arrives() {
        return switch (choice) {
            case TAKE -> taken;
            case OFFER -> Arrival.OFFERED;
            case PENCIL -> Arrival.PENCILLED;
            default -> null;
        };
    }

    /** The same that says something beside texts. */
    Change describing(Description theirs) {
        return new Change(
                kind, id, entry, file, index, language, source, before, after, choice, taken, current, theirs);
    }

    /** The key that the entry has in the record, where the file names it otherwise; null where it does not. */
    public @Nullable String formerKey() {
        return kind.succeeds() && entry != null ? entry.entryId().key() : null;
    }

    /** Whether the file's source comes in. */
    public boolean rewrites() {
        return choice == Choice.CHANGED || choice == Choice.FIX;
    }
}
