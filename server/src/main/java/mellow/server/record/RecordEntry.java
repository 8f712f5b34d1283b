package mellow.server.record;

import java.util.Map;
import mellow.core.format.EntryId;
import mellow.core.language.LanguageTag;

/**
 * An entry of the record with its cells.
 *
 * @param id its number
 * @param position its place in the table
 * @param maxLength longest allowed text in characters, 0 for no limit
 * @param words words of its source
 * @param cells its cells by language; untouched ones are absent
 * @param plain whether it has one text per language; others have forms that are not here
 */
public record RecordEntry(
        long id,
        double position,
        EntryId entryId,
        String source,
        String note,
        String reference,
        String section,
        int maxLength,
        int revision,
        int meaningRevision,
        int words,
        Map<LanguageTag, RecordCell> cells,
        boolean plain) {}
