package mellow.server.sheet;

import java.time.Instant;
import java.util.List;
import java.util.Set;
import mellow.core.cell.CellState;
import mellow.core.check.Kind;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/**
 * What one is looking at: the one object behind the sentence on screen, the query string and the SQL. Conditions hold together.
 *
 * @param tables names of tables in addresses, in order; all tables when empty and no product is named
 * @param product the product whose tables are meant, null for none
 * @param languages the languages shown
 * @param only show an entry when its cell in one of these languages is in one of these states; all entries when empty
 * @param order how entries are ordered
 * @param words show only entries with these words in key, source, note or a shown text; null for all
 * @param section show only this section; null for all
 * @param tag show only entries with this tag; null for all
 * @param person show only entries whose cell this person changed last or has an open offer in; null for all
 * @param since show only entries that changed, themselves or in a shown language, at or after this; null for all
 * @param intake show only entries that this intake touched; null for all
 * @param asked show only entries with an open question
 * @param check show only entries where something of this is found in a shown text; null for all
 * @param code show only entries that code uses so; null for all
 */
record Scope(
        List<String> tables,
        @Nullable String product,
        List<LanguageTag> languages,
        Set<CellState> only,
        Order order,
        @Nullable String words,
        @Nullable String section,
        @Nullable String tag,
        @Nullable Long person,
        @Nullable Instant since,
        @Nullable Long intake,
        boolean asked,
        @Nullable Check check,
        @Nullable Code code) {

    /** How the code of products uses an entry. */
    enum Code {
        /** The code of some product was looked through, and that of none uses it. */
        UNUSED,
        USED
    }

    /**
     * What is found in texts.
     *
     * @param stops bits of the kinds that count where they stop a text
     * @param minds and where they are to mind
     */
    record Check(long stops, long minds) {

        static final Check BLOCKER = new Check(-1, 0);
        static final Check ANY = new Check(-1, -1);
        /** Something to mend where it is shown; scenes keep that themselves. */
        static final Check UNFIT = new Check(0, 0);

        static Check of(Kind kind) {
            return new Check(kind.bit(), kind.bit());
        }
    }

    /** The same whatever is found in texts. */
    Scope unchecked() {
        return new Scope(
                tables, product, languages, only, order, words, section, tag, person, since, intake, asked, null, code);
    }

    /** Whether it leaves out entries of its tables. */
    boolean narrowed() {
        return !only.isEmpty()
                || words != null
                || section != null
                || tag != null
                || person != null
                || since != null
                || intake != null
                || asked
                || check != null
                || code != null;
    }

    enum Order {
        SECTION,
        KEY,
        /** What changed last, itself or in a shown language, comes first. */
        CHANGED,
        /** The longest source comes first. */
        LENGTH,
        /** The shortest source comes first. */
        SHORT,
        /** By the state of the first shown language, in the order in which states are told. */
        STATE
    }
}
