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
 * @param said its source
 * @param about what is said about it
 * @param cells its cells by language; untouched ones are absent
 */
public record RecordEntry(
        long id, double position, EntryId entryId, Source said, About about, Map<LanguageTag, RecordCell> cells) {

    /**
     * A source.
     *
     * @param text what it says, without a state
     * @param at the revision it is at, and since which texts are current
     * @param words how many words it has
     */
    public record Source(Shape shape, FileText text, Revisions at, int words) {}

    /**
     * What is said about an entry.
     *
     * @param maxLength longest allowed text in characters, 0 for no limit
     * @param maxLines most lines of a text, 0 for no limit
     * @param maxWidth widest line in pixels, 0 for no limit
     * @param translatable whether it is for translation
     */
    public record About(
            String note,
            String reference,
            String section,
            int maxLength,
            int maxLines,
            int maxWidth,
            boolean translatable) {

        /** Without a width. */
        public About(String note, String reference, String section, int maxLength, int maxLines, boolean translatable) {
            this(note, reference, section, maxLength, maxLines, 0, translatable);
        }
    }

    /** The cell in a language. */
    public RecordCell cell(LanguageTag tag) {
        return cells.getOrDefault(tag, RecordCell.NONE);
    }

    /** See {@link Source}. */
    public Shape shape() {
        return said.shape;
    }

    /** What its source says, without a state. */
    public FileText source() {
        return said.text;
    }

    /** Its source's revision. */
    public int revision() {
        return said.at.revision();
    }

    /** See {@link Source}. */
    public int words() {
        return said.words;
    }

    /** See {@link About}. */
    public String note() {
        return about.note;
    }

    /** See {@link About}. */
    public String reference() {
        return about.reference;
    }

    /** See {@link About}. */
    public String section() {
        return about.section;
    }

    /** See {@link About}. */
    public int maxLength() {
        return about.maxLength;
    }

    /** See {@link About}. */
    public int maxLines() {
        return about.maxLines;
    }

    /** See {@link About}. */
    public int maxWidth() {
        return about.maxWidth;
    }

    /** See {@link About}. */
    public boolean translatable() {
        return about.translatable;
    }
}
