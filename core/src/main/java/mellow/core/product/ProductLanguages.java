package mellow.core.product;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/**
 * The languages of a product.
 *
 * @param all in the product's order, at least one
 * @param start the one that it starts in
 * @param hosts the start languages of a site's hosts, by host in small letters
 */
public record ProductLanguages(List<ProductLanguage> all, LanguageTag start, Map<String, LanguageTag> hosts) {

    public ProductLanguages {
        all = List.copyOf(all);
        hosts = Map.copyOf(hosts);
        if (all.isEmpty()) {
            throw new IllegalArgumentException("a product without languages answers nothing");
        }
    }

    /**
     * The languages of a product whose start may be left open: then it starts in the source where that is one of its languages, else in the first.
     *
     * @param start the start that was chosen, null for none
     * @param source the language that its texts are written in
     */
    public static ProductLanguages of(
            List<ProductLanguage> all,
            @Nullable LanguageTag start,
            LanguageTag source,
            Map<String, LanguageTag> hosts) {
        LanguageTag first = all.stream()
                .map(ProductLanguage::tag)
                .filter(tag -> tag.equals(start == null ? source : start))
                .findFirst()
                .orElseGet(() -> all.get(0).tag());
        return new ProductLanguages(all, first, hosts);
    }

    /** The language of a tag. */
    public Optional<ProductLanguage> language(LanguageTag tag) {
        return all.stream().filter(one -> one.tag().equals(tag)).findFirst();
    }
}
