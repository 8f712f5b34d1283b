package mellow.core.check;

import java.util.Collection;
import java.util.List;
import mellow.core.wordbook.AgreedTerm;

/**
 * What texts of a language are looked at by, whatever entry they are of.
 *
 * @param categories the plural categories of the language
 * @param terms what the wordbook agrees on between the source language and it
 */
public record Ground(Collection<String> categories, List<AgreedTerm> terms) {

    public Ground {
        terms = List.copyOf(terms);
    }

    /** A language of which only the plural categories are known. */
    public static Ground of(Collection<String> categories) {
        return new Ground(categories, List.of());
    }
}
