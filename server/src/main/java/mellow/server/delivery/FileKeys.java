package mellow.server.delivery;

import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import mellow.core.delivery.UndeliverableException;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.merge.RecordEntry;

/**
 * What entries are called in one file: their keys, without the beginning that the recipe leaves out. Two tables may have an entry of one key, and of two of
 * one name in a file its reader would see one.
 */
final class FileKeys {

    /** In files of these, texts are found by their sources. */
    private static final Set<String> BY_SOURCE = Set.of("tmx", "mo");

    private final Recipe recipe;
    private final boolean mayMeet;
    private final Set<EntryId> taken = new HashSet<>();

    /** Of a file of so many tables. */
    FileKeys(Recipe recipe, int tables) {
        this.recipe = recipe;
        this.mayMeet = (tables > 1 || !recipe.settings().prefix().isEmpty())
                && !BY_SOURCE.contains(recipe.settings().format());
    }

    /** An entry as it is in the file, to be given its texts. */
    FileEntry.Builder entry(RecordEntry entry) {
        return FileEntry.of(of(entry.entryId()))
                .context(entry.entryId().context())
                .shape(entry.shape())
                .note(entry.note())
                .reference(entry.reference())
                .section(entry.section())
                .maxLength(entry.maxLength())
                .translatable(entry.translatable());
    }

    /**
     * What an entry is called there.
     *
     * @throws UndeliverableException when another one is called so already
     */
    private String of(EntryId entry) {
        String left = recipe.settings().prefix();
        String key = entry.key().length() > left.length() && entry.key().startsWith(left)
                ? entry.key().substring(left.length())
                : entry.key();
        if (mayMeet && !taken.add(new EntryId(key, entry.context()))) {
            throw new UndeliverableException(
                    "same-key-in-file",
                    "In a file of {recipe} two entries would be called “{key}”; make a file per table, or of fewer tables.",
                    Map.of("recipe", recipe.name(), "key", key));
        }
        return key;
    }
}
