package mellow.core.language;

import com.ibm.icu.text.PluralRules;
import com.ibm.icu.util.ULocale;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What CLDR says about a language.
 *
 * @param tag its tag
 * @param englishName its name in English ("Portuguese (Brazil)")
 * @param ownName its name in itself ("português (Brasil)")
 * @param rightToLeft whether its usual script runs right to left
 * @param script ISO 15924 code of its usual script ("Latn")
 * @param plurals the plural categories in CLDR order (zero, one, two, few, many, other), each with example numbers ("2~4, 22")
 */
public record Language(
        LanguageTag tag,
        String englishName,
        String ownName,
        boolean rightToLeft,
        String script,
        Map<String, String> plurals) {

    private static final List<String> CLDR_ORDER = List.of("zero", "one", "two", "few", "many", "other");
    private static final int EXAMPLES = 4;

    /** What CLDR knows about {@code tag}; an unknown combination gets the names of its parts. */
    public static Language of(LanguageTag tag) {
        ULocale locale = ULocale.forLanguageTag(tag.value());
        return new Language(
                tag,
                locale.getDisplayName(ULocale.ENGLISH),
                locale.getDisplayName(locale),
                locale.isRightToLeft(),
                ULocale.addLikelySubtags(locale).getScript(),
                plurals(locale));
    }

    private static Map<String, String> plurals(ULocale locale) {
        PluralRules rules = PluralRules.forLocale(locale);
        List<String> categories = new ArrayList<>(rules.getKeywords());
        categories.sort(Comparator.comparingInt(CLDR_ORDER::indexOf));
        Map<String, String> plurals = new LinkedHashMap<>();
        for (String category : categories) {
            List<String> examples = new ArrayList<>();
            for (int n = 0; n <= 1000 && examples.size() < EXAMPLES; n++) {
                if (rules.select(n).equals(category)) {
                    examples.add(Integer.toString(n));
                }
            }
            plurals.put(category, String.join(", ", examples));
        }
        return plurals;
    }
}
