package mellow.core.merge;

import java.util.List;

/** What a file would change, in the order in which people want to see it; each with what can be done about it, the default first. */
public enum ChangeKind {
    /** Only the file has the entry. */
    NEW_ENTRIES(Choice.TAKE, Choice.KEEP),
    /** A key is gone and another is new with the same source and context. */
    RENAMED(Choice.RENAME, Choice.BOTH, Choice.REPLACE),
    /** A key is gone and another is new in its place with a rewritten source: where keys are sources, or are numbered anew. */
    REWORDED(Choice.CHANGED, Choice.FIX, Choice.BOTH, Choice.REPLACE),
    /** The file rewrote the source and nobody touched it here. */
    SOURCES_REWRITTEN(Choice.CHANGED, Choice.FIX, Choice.KEEP),
    /** The source was rewritten in the file and here, differently. */
    SOURCE_CONFLICTS(Choice.CHANGED, Choice.FIX, Choice.KEEP),
    /** A text where there was none. */
    TEXTS_ADDED(Choice.TAKE, Choice.OFFER, Choice.KEEP),
    /** Another text than the one here, which nobody settled or which only the file changed. */
    TEXTS_REPLACED(Choice.TAKE, Choice.OFFER, Choice.KEEP),
    /** The text was changed in the file and here, differently. */
    CONFLICTS(Choice.OFFER, Choice.TAKE, Choice.KEEP),
    /** Another text than the settled one, and nothing tells who moved. */
    DIFFER_FROM_SETTLED(Choice.OFFER, Choice.TAKE, Choice.KEEP),
    /** A text that lost a placeholder of its source or has one too many, is too long, or cannot be settled for another reason; it is pencilled instead. */
    STOPPED(Choice.TAKE, Choice.OFFER, Choice.KEEP),
    /** The same text, pencilled here and settled in the file. */
    HIGHER_STANDING(Choice.KEEP, Choice.TAKE),
    /** The same text, settled here, and the file has come to mark it as unsure. */
    DOUBTED(Choice.KEEP, Choice.PENCIL),
    /** Only the file changed note, limit, section or references, or only the file has them. */
    DESCRIPTIONS(Choice.TAKE, Choice.KEEP),
    /** Note, limit, section or references were changed in the file and here, differently, or nothing tells who moved. */
    DESCRIPTION_CONFLICTS(Choice.KEEP, Choice.TAKE),
    /** The file had the entry and has it no more. */
    GONE_FROM_FILE(Choice.REMOVE, Choice.KEEP),
    /** The file has the entry as before, and it was removed here. */
    REMOVED_HERE(Choice.KEEP, Choice.PUT_BACK),
    /** The file had a text and has none now. */
    EMPTIED_IN_FILE(Choice.KEEP, Choice.CLEAR),
    /** The source was rewritten here and not in the file. */
    EDITED_HERE(Choice.KEEP, Choice.CHANGED, Choice.FIX),
    /** The file says something else than an entry of another shape can take. */
    OTHER_SHAPE(Choice.KEEP),
    /** Only the file has the entry, and it has no source text, or only translations of a set have it; coordinators can take it in as a hole in the source. */
    WITHOUT_SOURCE(Choice.KEEP, Choice.TAKE),
    /** Entries and sources that only a coordinator may change. */
    NO_RIGHT(Choice.KEEP);

    private final List<Choice> choices;

    ChangeKind(Choice... choices) {
        this.choices = List.of(choices);
    }

    /** Whether the entry has another key in the record: it is told what it becomes, and the change names it as the file does. */
    public boolean succeeds() {
        return this == RENAMED || this == REWORDED;
    }

    /** Whether what is decided about it changes what else the file would do to the same entry: its key, its source, its limit, whether it comes in. */
    public boolean shapesOthers() {
        return switch (this) {
            case NEW_ENTRIES,
                    RENAMED,
                    REWORDED,
                    SOURCES_REWRITTEN,
                    SOURCE_CONFLICTS,
                    EDITED_HERE,
                    DESCRIPTIONS,
                    DESCRIPTION_CONFLICTS,
                    WITHOUT_SOURCE -> true;
            default -> false;
        };
    }

    /** What can be done about it, the default first. */
    public List<Choice> choices() {
        return choices;
    }
}
