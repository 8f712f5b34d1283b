package mellow.core.format;

import java.util.List;

/**
 * An entry as a file gives it.
 *
 * @param line where it begins, 1-based
 * @param key its key, exactly as written
 * @param context tells equal keys apart, empty for none
 * @param note for translators, empty for none
 * @param reference where it is used, empty for none
 * @param section its section, empty for none
 * @param maxLength longest allowed text in characters, 0 for no limit
 * @param texts one text per language of the file, in the file's order; empty for none
 */
public record FileEntry(
        int line,
        String key,
        String context,
        String note,
        String reference,
        String section,
        int maxLength,
        List<String> texts) {

    /** What tells this entry from every other in its table. */
    public EntryId id() {
        return new EntryId(key, context);
    }
}
