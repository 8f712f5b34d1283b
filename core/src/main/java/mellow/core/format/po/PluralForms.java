package mellow.core.format.po;

import com.ibm.icu.text.PluralRules;
import com.ibm.icu.util.ULocale;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntUnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.language.LanguageTag;
import mellow.core.text.Text;

/**
 * The plural forms of a catalogue and the CLDR categories they stand for (gettext manual, "Plural forms"). Form i stands for the category that
 * most of the numbers have for which the expression gives i; where two forms want one category, the one with more of its numbers gets it.
 *
 * @param count number of forms
 * @param expression what tells the form of a number
 * @param categories the category of each form, empty for a form without one of its own
 */
record PluralForms(int count, String expression, List<String> categories) {

    /** Every rule of CLDR shows itself among these; the large ones are for "many" of Romance languages. */
    private static final int[] SAMPLES = samples();

    private static final Pattern HEADER =
            Pattern.compile("nplurals\\s*=\\s*([0-9]+)\\s*;\\s*plural\\s*=\\s*([^;]+);?.*", Pattern.DOTALL);
    private static final int MOST = 16;

    PluralForms {
        categories = List.copyOf(categories);
    }

    private static int[] samples() {
        int[] samples = new int[1_003];
        for (int i = 0; i <= 1_000; i++) {
            samples[i] = i;
        }
        samples[1_001] = 1_000_000;
        samples[1_002] = 2_000_000;
        return samples;
    }

    /**
     * Reads a Plural-Forms header.
     *
     * @param language what the categories belong to; without one, by the number of forms
     * @throws IllegalArgumentException saying what is wrong with it
     */
    static PluralForms parse(String header, Optional<LanguageTag> language) {
        Matcher parts = HEADER.matcher(header.strip());
        if (!parts.matches()) {
            throw new IllegalArgumentException("Plural-Forms “" + header.strip() + "”");
        }
        int count = parts.group(1).length() > 3 ? Integer.MAX_VALUE : Integer.parseInt(parts.group(1));
        if (count < 1 || count > MOST) {
            throw new IllegalArgumentException("nplurals=" + parts.group(1));
        }
        String expression = parts.group(2).strip();
        return new PluralForms(count, expression, categories(count, PluralExpression.parse(expression), language));
    }

    private static List<String> categories(int count, IntUnaryOperator form, Optional<LanguageTag> language) {
        if (language.isEmpty()) {
            return withoutLanguage(count, form);
        }
        PluralRules rules =
                PluralRules.forLocale(ULocale.forLanguageTag(language.get().value()));
        int[] sizes = new int[count];
        List<Map<String, Integer>> seen = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            seen.add(new HashMap<>());
        }
        for (int n : SAMPLES) {
            int index = form.applyAsInt(n);
            if (index < 0 || index >= count) {
                throw new IllegalArgumentException(
                        "form " + index + " for the number " + n + " with nplurals=" + count);
            }
            sizes[index]++;
            seen.get(index).merge(rules.select(n), 1, Integer::sum);
        }
        String[] categories = new String[count];
        Arrays.fill(categories, "");
        // The surest claim first: a form all of whose numbers have a category, and more of them.
        List<Claim> claims = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            for (Map.Entry<String, Integer> entry : seen.get(i).entrySet()) {
                claims.add(new Claim(i, entry.getKey(), entry.getValue(), (double) entry.getValue() / sizes[i]));
            }
        }
        claims.sort((a, b) -> a.numbers != b.numbers ? b.numbers - a.numbers : Double.compare(b.share, a.share));
        for (Claim claim : claims) {
            if (categories[claim.form].isEmpty() && !Arrays.asList(categories).contains(claim.category)) {
                categories[claim.form] = claim.category;
            }
        }
        return Arrays.asList(categories);
    }

    private record Claim(int form, String category, int numbers, double share) {}

    private static List<String> withoutLanguage(int count, IntUnaryOperator form) {
        String[] categories = new String[count];
        Arrays.fill(categories, "");
        if (count == 1) {
            return List.of(Text.OTHER);
        }
        int one = form.applyAsInt(1);
        List<String> rest =
                new ArrayList<>(count == 2 ? List.of(Text.OTHER) : List.of("few", "many", Text.OTHER, "two", "zero"));
        for (int i = 0; i < count; i++) {
            categories[i] = i == one ? "one" : rest.isEmpty() ? "" : rest.remove(0);
        }
        return Arrays.asList(categories);
    }

    /** What a language needs when a file does not say: its CLDR categories for whole numbers, in CLDR's order. */
    static PluralForms of(Optional<LanguageTag> language) {
        if (language.isEmpty()) {
            return new PluralForms(2, "(n != 1)", List.of("one", Text.OTHER));
        }
        PluralRules rules =
                PluralRules.forLocale(ULocale.forLanguageTag(language.get().value()));
        Map<String, Boolean> found = new LinkedHashMap<>();
        for (String category : List.of("zero", "one", "two", "few", "many", Text.OTHER)) {
            found.put(category, false);
        }
        for (int n : SAMPLES) {
            found.put(rules.select(n), true);
        }
        List<String> categories = found.entrySet().stream()
                .filter(Map.Entry::getValue)
                .map(Map.Entry::getKey)
                .toList();
        return new PluralForms(categories.size(), CldrExpression.of(rules, categories), categories);
    }

    /** The header's value. */
    String header() {
        return "nplurals=" + count + "; plural=" + expression + ";";
    }

    /** The form that stands for a category, -1 for none. */
    int index(String category) {
        return categories.indexOf(category);
    }
}
