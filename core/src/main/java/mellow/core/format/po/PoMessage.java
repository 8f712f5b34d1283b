package mellow.core.format.po;

import java.util.List;

/**
 * A message of a catalogue with the places of its parts, in UTF-16 units.
 *
 * @param start where its first comment or keyword begins
 * @param end after its last line's line end
 * @param keyword where its first keyword begins
 * @param context msgctxt
 * @param id msgid
 * @param plural msgid_plural
 * @param texts msgstr, or msgstr[i] by index
 * @param translator lines of comments of translators
 * @param extracted lines of comments taken from the program
 * @param references where it is used
 * @param flags in the order of the file
 * @param flagLines where its lines of flags are
 * @param renewed whether it names the msgid that its text was made for, which was another
 * @param previous that msgid, empty when there is none or it cannot be read
 */
record PoMessage(
        int start,
        int end,
        int keyword,
        Value context,
        Value id,
        Value plural,
        List<Value> texts,
        List<String> translator,
        List<String> extracted,
        List<String> references,
        List<String> flags,
        List<Span> flagLines,
        boolean renewed,
        String previous) {

    /** A part that is not there. */
    static final Value ABSENT = new Value("", -1, -1);

    /**
     * A string.
     *
     * @param text without quotes and escapes
     * @param start at the first quote, -1 when the part is not there
     * @param end after the last quote
     */
    record Value(String text, int start, int end) {

        boolean present() {
            return start >= 0;
        }
    }

    /** A line without its end. */
    record Span(int start, int end) {}

    boolean header() {
        return id.text.isEmpty() && !context.present();
    }

    boolean fuzzy() {
        return flags.contains("fuzzy");
    }
}
