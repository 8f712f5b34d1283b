package mellow.core.merge;

import java.util.List;
import mellow.core.check.Finding;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/**
 * One change that a file would bring, and what was decided about it.
 *
 * @param kind what it is
 * @param at what it changes
 * @param words what is said now and what the file says
 * @param decided what was decided
 * @param described what the file says beside its texts, where that is what changes
 */
public record Change(ChangeKind kind, At at, Words words, Decided decided, Description described) {

    /**
     * What a change changes.
     *
     * @param id the entry as the file names it; as the record does when only the record has it
     * @param entry the record's entry, null when only the file has it
     * @param file the file's entry, null when only the record has it
     * @param index its index in the file, -1 when only the record has it
     * @param language the language of the text, null for changes of entries and sources
     */
    public record At(
            EntryId id,
            @Nullable RecordEntry entry,
            @Nullable FileEntry file,
            int index,
            @Nullable LanguageTag language) {}

    /**
     * What is said.
     *
     * @param source the source that the text is for: the file's where it comes in, else the record's
     * @param before what the record says
     * @param after what the file says
     */
    public record Words(FileText source, FileText before, FileText after) {}

    /**
     * What was decided.
     *
     * @param choice one of the kind's
     * @param taken how the text arrives when it is taken; null for changes of entries and sources
     * @param current whether the text was made for the source as it is or will be, not for an older one
     * @param against what stands against settling the text; empty where it is not to be taken
     */
    public record Decided(Choice choice, @Nullable Arrival taken, boolean current, List<Finding> against) {

        public Decided(Choice choice, @Nullable Arrival taken, boolean current) {
            this(choice, taken, current, List.of());
        }
    }

    /** See {@link At}. */
    public EntryId id() {
        return at.id;
    }

    /** See {@link At}. */
    public @Nullable RecordEntry entry() {
        return at.entry;
    }

    /** See {@link At}. */
    public @Nullable FileEntry file() {
        return at.file;
    }

    /** See {@link At}. */
    public int index() {
        return at.index;
    }

    /** See {@link At}. */
    public @Nullable LanguageTag language() {
        return at.language;
    }

    /** See {@link Words}. */
    public FileText source() {
        return words.source;
    }

    /** See {@link Words}. */
    public FileText before() {
        return words.before;
    }

    /** See {@link Words}. */
    public FileText after() {
        return words.after;
    }

    /** See {@link Decided}. */
    public Choice choice() {
        return decided.choice;
    }

    /** See {@link Decided}. */
    public boolean current() {
        return decided.current;
    }

    /** How the text arrives as decided; null when it does not arrive. */
    public @Nullable Arrival arrives() {
        return switch (decided.choice) {
            case TAKE -> decided.taken;
            case OFFER -> Arrival.OFFERED;
            case PENCIL -> Arrival.PENCILLED;
            default -> null;
        };
    }

    /** The same that says something beside texts. */
    Change describing(Description theirs) {
        return new Change(kind, at, words, decided, theirs);
    }

    /** The key that the entry has in the record, where the file names it otherwise; null where it does not. */
    public @Nullable String formerKey() {
        return kind.succeeds() && at.entry != null ? at.entry.entryId().key() : null;
    }

    /** Whether the file's source comes in. */
    public boolean rewrites() {
        return decided.choice == Choice.CHANGED || decided.choice == Choice.FIX;
    }
}
