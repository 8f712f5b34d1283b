package mellow.core.check;

import com.ibm.icu.text.PluralRules;
import com.ibm.icu.util.ULocale;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.IntStream;
import mellow.core.language.LanguageTag;

/**
 * What CLDR and grammar say about a language, as checks need it.
 *
 * @param language its primary subtag ({@code pt} of {@code pt-BR})
 * @param locale for upper and lower case
 * @param script ISO 15924 code of its usual script
 * @param categories all its plural categories, in CLDR order
 * @param required those without which a text is not whole
 * @param exact those that mean exactly one number, so that a text may leave the number out
 */
record Facts(
        String language,
        Locale locale,
        String script,
        List<String> categories,
        Set<String> required,
        Set<String> exact) {

    private static final List<String> CLDR_ORDER = List.of("zero", "one", "two", "few", "many", "other");
    /** In these, "many" is for a million and more, written out, and says the same as "other" nearly always. */
    private static final Set<String> MANY_IS_OTHER = Set.of("es", "fr", "it", "pt", "ca");

    /** Every rule of CLDR repeats itself before that. */
    private static final int MOST_COUNTED = 200;

    static Facts of(LanguageTag tag) {
        ULocale locale = ULocale.forLanguageTag(tag.value());
        PluralRules rules = PluralRules.forLocale(locale);
        List<String> categories = new ArrayList<>(rules.getKeywords());
        categories.sort(Comparator.comparingInt(CLDR_ORDER::indexOf));
        Set<String> required = new HashSet<>();
        for (String category : categories) {
            // What only fractions need ("other" in Polish, "many" in Czech) is in no catalogue, and nobody counts so.
            if (counts(rules, category)) {
                required.add(category);
            }
        }
        if (MANY_IS_OTHER.contains(locale.getLanguage())) {
            required.remove("many");
        }
        Set<String> exact = new HashSet<>();
        for (String category : categories) {
            if (rules.getUniqueKeywordValue(category) != PluralRules.NO_UNIQUE_VALUE) {
                exact.add(category);
            }
        }
        return new Facts(
                locale.getLanguage(),
                locale.toLocale(),
                ULocale.addLikelySubtags(locale).getScript(),
                List.copyOf(categories),
                Set.copyOf(required),
                Set.copyOf(exact));
    }

    /** Whether some whole number up to a million is of this category. */
    private static boolean counts(PluralRules rules, String category) {
        return IntStream.concat(IntStream.rangeClosed(0, MOST_COUNTED), IntStream.of(1_000_000))
                .anyMatch(n -> rules.select(n).equals(category));
    }

    boolean among(String... languages) {
        for (String one : languages) {
            if (one.equals(language)) {
                return true;
            }
        }
        return false;
    }

    /** Whether its script has capital letters. */
    boolean cased() {
        return switch (script) {
            case "Latn", "Cyrl", "Grek", "Armn" -> true;
            default -> false;
        };
    }

    /** Whether words stand apart in it. */
    boolean spaced() {
        return switch (script) {
            case "Jpan", "Hans", "Hant", "Hani", "Thai", "Laoo", "Khmr", "Mymr" -> false;
            default -> true;
        };
    }
}
