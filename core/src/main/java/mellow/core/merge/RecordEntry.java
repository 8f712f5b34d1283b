package mellow.core.merge;

import java.util.Map;
import mellow.core.format.EntryId;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;

/**
 * An entry of the record with its cells.
 *
 * @param id its number
 * @param position its place in the table
 * @param source its source, without a state
 * @param maxLength longest allowed text in characters, 0 for no limit
 * @param maxLines most lines of a text, 0 for no limit
 * @param revision its source revision
 * @param meaningRevision the revision since which texts are current
 * @param words words of its source
 * @param cells its cells by language; untouched ones are absent
 */
public record RecordEntry(
        long id,
        double position,
        EntryId entryId,
        Shape shape,
        FileText source,
        String note,
        String reference,
        String section,
        int maxLength,
        int maxLines,
        boolean translatable,
        int revision,
        int meaningRevision,
        int words,
        Map<LanguageTag, RecordCell> cells) {

    /** The cell in a language. */
    public RecordCell cell(LanguageTag tag) {
        return cells.getOrDefault(tag, RecordCell.NONE);
    }
}
