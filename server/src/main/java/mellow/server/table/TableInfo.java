package mellow.server.table;

import java.util.List;
import java.util.Optional;
import mellow.core.language.LanguageTag;

/**
 * A table as other features need it.
 *
 * @param id its number
 * @param slug its name in addresses
 * @param name its name
 * @param source its source language
 * @param languages the languages it is kept in, in order
 */
public record TableInfo(long id, String slug, String name, LanguageTag source, List<Kept> languages) {

    /**
     * A language that a table is kept in.
     *
     * @param tag the language
     * @param number its number in the database
     * @param settlesOwn whether reviewers may settle their own texts
     * @param settlesDrafts whether what machines drafted may be settled many at once, by who opened none
     */
    public record Kept(LanguageTag tag, int number, boolean settlesOwn, boolean settlesDrafts) {}

    /** The table's settings for a language, if it is kept in it. */
    public Optional<Kept> language(LanguageTag tag) {
        return languages.stream().filter(kept -> kept.tag().equals(tag)).findFirst();
    }
}
