package mellow.core.format;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import mellow.core.language.LanguageTag;

/** A file as it was read: its entries in file order, decoded when asked for where that saves memory. */
public interface FileReading extends EntryList {

    /** What tells the entry at {@code index} from others; much cheaper than the entry. */
    EntryId id(int index);

    /** Whether the file that says which entries there are has this one; always, but for entries of a set that only its translations have. */
    default boolean stands(int index) {
        return true;
    }

    /**
     * The column of its sources, -1 for none. A file that names its source language as the table does not, but within the same language, means the
     * table's: {@code en} for {@code en-GB}.
     */
    default int sourceColumn(LanguageTag source) {
        int exact = languages().indexOf(source);
        return exact >= 0
                ? exact
                : sourceLanguage()
                        .filter(tag -> tag.equals(LanguageTag.UNDETERMINED)
                                || tag.language().equals(source.language()))
                        .map(tag -> languages().indexOf(tag))
                        .orElse(-1);
    }

    /** How it was understood where it does not say so itself. */
    default Habits habits() {
        return Habits.NONE;
    }

    /** Whether it holds sources and one translation of each, and its keys may be the sources themselves or be made of them. */
    default boolean bilingual() {
        return false;
    }

    /**
     * The forms that the file can hold of an entry in a language; empty when it can hold any. Others are no part of what it says.
     *
     * @param language index of the language
     */
    default Optional<Set<String>> forms(int index, int language) {
        return Optional.empty();
    }

    /** Whether a carriage return within a text is read as it stands; where it is not, any line break is read as LF. */
    default boolean keepsReturns() {
        return true;
    }

    /** Which optional columns or fields the file has at all. */
    boolean has(Field field);

    /** What is wrong with the file. */
    List<Problem> problems();

    /** The name of its character set, such as "UTF-8". */
    String charset();

    /** A way to write this file again with some values changed and every other byte as it was. */
    FilePatch patch();

    /** What a file may say about an entry beside its texts. */
    enum Field {
        CONTEXT,
        NOTE,
        REFERENCE,
        SECTION,
        LIMIT;

        /** The name in sentences and in the HTTP interface. */
        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }
}
