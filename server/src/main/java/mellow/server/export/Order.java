package mellow.server.export;

import java.util.List;
import java.util.Set;
import mellow.core.format.FileFormat;
import mellow.core.language.LanguageTag;

/**
 * What fresh files hold.
 *
 * @param format their format
 * @param languages the languages to write, in order; all of the table when empty
 * @param untranslated what stands where there is no text
 * @param onlySettled leave texts out that nobody settled
 * @param only states of which an entry has to have one in any of the languages; empty for all entries
 * @param delimiter between the cells of separated text
 * @param guard keep spreadsheet programs from running texts as formulas
 * @param leaveOut go on without the entries that the format cannot hold
 * @param pattern how files are named: {@code {table}}, {@code {language}}, {@code {ext}}
 */
record Order(
        FileFormat format,
        List<LanguageTag> languages,
        Untranslated untranslated,
        boolean onlySettled,
        Set<String> only,
        char delimiter,
        boolean guard,
        boolean leaveOut,
        String pattern) {

    /** What stands where there is no text. */
    enum Untranslated {
        /** Nothing. */
        EMPTY,
        /** The source. */
        SOURCE,
        /** What users would see: the same language elsewhere ("pt" for "pt-BR"), else the source. */
        FALLBACK
    }

    /** Whether a file of this format holds texts in one language only, so that each language gets a file of its own. */
    boolean apart() {
        return format.apart();
    }

    String ending() {
        boolean tabs = delimiter == '\t' && format.name().equals("csv");
        return tabs ? "tsv" : format.traits().ending();
    }
}
