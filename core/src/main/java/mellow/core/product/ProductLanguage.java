package mellow.core.product;

import java.util.List;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/**
 * A language of a product.
 *
 * @param tag its tag
 * @param selector the number that a panel writes to its register for it, null for none
 * @param hidden whether it is delivered and not offered to people: it answers to its number, its tag and its prefix, and is never chosen as the nearest
 * @param fallbacks the languages that its missing texts are taken from first, in order
 * @param prefix the first part of its addresses on a site, empty for none
 */
public record ProductLanguage(
        LanguageTag tag, @Nullable Integer selector, boolean hidden, List<LanguageTag> fallbacks, String prefix) {

    public ProductLanguage {
        fallbacks = List.copyOf(fallbacks);
    }
}
