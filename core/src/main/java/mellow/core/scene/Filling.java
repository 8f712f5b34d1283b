package mellow.core.scene;

import com.ibm.icu.text.MessageFormat;
import com.ibm.icu.text.NumberFormat;
import com.ibm.icu.text.NumberingSystem;
import com.ibm.icu.text.PluralRules;
import com.ibm.icu.util.ULocale;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.IcuMessage;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholders;
import mellow.core.text.Text;
import org.jspecify.annotations.Nullable;

/**
 * A text with values in its placeholders, as a product would show it. Numbers are written as the language does (CLDR), unless a place keeps its digits. ICU
 * messages choose their branches by the values; plural texts their form by the first number among the values (UTS #35, part 3).
 *
 * @param text with its values
 * @param form the form that was chosen
 * @param lacking placeholders without a value, which stand in the text as they are spelled
 */
public record Filling(String text, String form, List<String> lacking) {

    private static final Pattern NAME = Pattern.compile("[\\p{L}\\p{N}_.]+");
    private static final Pattern NUMBER = Pattern.compile("-?\\d{1,15}(?:\\.\\d{1,9})?");

    /**
     * Fills a text.
     *
     * @param forms the text by form, not empty
     * @param form the form to show, empty for the one that the values choose
     * @param values by the names of placeholders, numbers for those that only have a place; printf's second is {@code 2}
     */
    public static Filling of(
            SortedMap<String, String> forms,
            String form,
            Map<String, String> values,
            LanguageTag language,
            boolean latinDigits,
            Placeholders syntax) {
        ULocale locale = ULocale.forLanguageTag(language.value());
        String chosen = forms.containsKey(form) ? form : chosen(forms, values, locale);
        String text = forms.getOrDefault(chosen, "");
        if (IcuMessage.maybeTyped(text) && IcuMessage.parse(text).typed()) {
            return message(text, chosen, values, locale, latinDigits);
        }
        StringBuilder filled = new StringBuilder(text.length());
        List<String> lacking = new ArrayList<>();
        int at = 0;
        int place = 0;
        for (Placeholder one : syntax.in(text)) {
            if (one.kind() == Placeholder.Kind.TAG) {
                continue;
            }
            place++;
            String value = value(one, place, values);
            if (value == null) {
                lacking.add(one.spelled());
                continue;
            }
            filled.append(text, at, one.start()).append(written(value, locale, latinDigits));
            at = one.end();
        }
        return new Filling(filled.append(text, at, text.length()).toString(), chosen, List.copyOf(lacking));
    }

    private static @Nullable String value(Placeholder one, int place, Map<String, String> values) {
        Matcher name = NAME.matcher(one.identity());
        String named = name.find() ? name.group() : "";
        return values.containsKey(named) ? values.get(named) : values.get(Integer.toString(place));
    }

    private static String chosen(SortedMap<String, String> forms, Map<String, String> values, ULocale locale) {
        if (forms.size() > 1) {
            for (String value : values.values()) {
                if (forms.containsKey(value)) {
                    return value;
                }
                if (NUMBER.matcher(value).matches()) {
                    String category = PluralRules.forLocale(locale).select(Double.parseDouble(value));
                    return forms.containsKey(category) ? category : main(forms);
                }
            }
        }
        return main(forms);
    }

    private static String main(SortedMap<String, String> forms) {
        return forms.containsKey(Text.OTHER) ? Text.OTHER : forms.isEmpty() ? Text.OTHER : forms.firstKey();
    }

    private static Filling message(
            String text, String form, Map<String, String> values, ULocale locale, boolean latinDigits) {
        Map<String, Object> arguments = new HashMap<>();
        List<String> lacking = new ArrayList<>();
        for (IcuMessage.Argument argument : IcuMessage.parse(text).arguments()) {
            String value = values.get(argument.name());
            if (value == null) {
                if (!lacking.contains("{" + argument.name() + "}")) {
                    lacking.add("{" + argument.name() + "}");
                }
            } else {
                arguments.put(
                        argument.name(), NUMBER.matcher(value).matches() ? (Object) Double.valueOf(value) : value);
            }
        }
        if (!lacking.isEmpty()) {
            return new Filling(text, form, List.copyOf(lacking));
        }
        try {
            return new Filling(
                    new MessageFormat(text, latinDigits ? locale.setKeywordValue("numbers", "latn") : locale)
                            .format(arguments),
                    form,
                    List.of());
        } catch (IllegalArgumentException unfit) {
            // A word where the message counts, or a date: it is shown as it is written, and the check of messages says
            // why.
            return new Filling(text, form, List.of());
        }
    }

    private static String written(String value, ULocale locale, boolean latinDigits) {
        if (!NUMBER.matcher(value).matches()) {
            return value;
        }
        NumberFormat format = NumberFormat.getInstance(
                latinDigits ? locale.setKeywordValue("numbers", NumberingSystem.LATIN.getName()) : locale);
        format.setGroupingUsed(value.length() > 4);
        format.setMaximumFractionDigits(9);
        return format.format(Double.parseDouble(value));
    }
}
