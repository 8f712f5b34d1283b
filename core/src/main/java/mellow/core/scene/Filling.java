package mellow.core.scene;

import com.ibm.icu.text.MessageFormat;
import com.ibm.icu.text.NumberFormat;
import com.ibm.icu.text.NumberingSystem;
import com.ibm.icu.text.PluralRules;
import com.ibm.icu.util.ULocale;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
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
 * @param form the form that was chosen, of a message that counts the branch that was
 * @param by the name of the value that chose it, empty where none did
 * @param lacking placeholders without a value, which stand in the text as they are spelled
 */
public record Filling(String text, String form, String by, List<String> lacking) {

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
        Chosen chosen = forms.containsKey(form) ? new Chosen(form, "") : chosen(forms, values, locale, syntax);
        String text = forms.getOrDefault(chosen.form, "");
        if (IcuMessage.maybeTyped(text) && IcuMessage.parse(text).typed()) {
            return message(text, chosen, values, locale, latinDigits);
        }
        StringBuilder filled = new StringBuilder(text.length());
        List<String> lacking = new ArrayList<>();
        int at = 0;
        int place = 0;
        List<Placeholder> all = syntax.in(text);
        // Where printf fills a text in, "%%" is how it spells the sign itself.
        boolean printf = all.stream().anyMatch(one -> one.kind() == Placeholder.Kind.PRINTF);
        for (Placeholder one : all) {
            if (one.kind() == Placeholder.Kind.TAG) {
                continue;
            }
            place++;
            String value = value(one, place, values);
            if (value == null) {
                lacking.add(one.spelled());
                continue;
            }
            filled.append(between(text, at, one.start(), printf)).append(written(value, locale, latinDigits));
            at = one.end();
        }
        filled.append(between(text, at, text.length(), printf));
        return new Filling(filled.toString(), chosen.form, chosen.by, List.copyOf(lacking));
    }

    private static String between(String text, int from, int to, boolean printf) {
        String words = text.substring(from, to);
        return printf ? words.replace("%%", "%") : words;
    }

    private record Chosen(String form, String by) {}

    private static @Nullable String value(Placeholder one, int place, Map<String, String> values) {
        return values.get(name(one, place, values));
    }

    /** What the value of a placeholder is called: its name, else where it stands. */
    private static String name(Placeholder one, int place, Map<String, String> values) {
        Matcher name = NAME.matcher(one.identity());
        String named = name.find() ? name.group() : "";
        return values.containsKey(named) ? named : Integer.toString(place);
    }

    /** By the first value of the text's own that counts or is a state, else by the first of all: a form may leave its number out. */
    private static Chosen chosen(
            SortedMap<String, String> forms, Map<String, String> values, ULocale locale, Placeholders syntax) {
        if (forms.size() > 1) {
            Set<String> names = new LinkedHashSet<>();
            int place = 0;
            for (Placeholder one : syntax.in(forms.getOrDefault(main(forms), ""))) {
                if (one.kind() != Placeholder.Kind.TAG) {
                    place++;
                    names.add(name(one, place, values));
                }
            }
            names.addAll(values.keySet());
            for (String name : names) {
                String value = values.getOrDefault(name, "");
                if (forms.containsKey(value)) {
                    return new Chosen(value, name);
                }
                if (NUMBER.matcher(value).matches()) {
                    String category = category(value, locale);
                    return new Chosen(forms.containsKey(category) ? category : main(forms), name);
                }
            }
        }
        return new Chosen(main(forms), "");
    }

    private static String category(String number, ULocale locale) {
        return PluralRules.forLocale(locale).select(Double.parseDouble(number));
    }

    private static String main(SortedMap<String, String> forms) {
        return forms.containsKey(Text.OTHER) ? Text.OTHER : forms.isEmpty() ? Text.OTHER : forms.firstKey();
    }

    private static Filling message(
            String text, Chosen form, Map<String, String> values, ULocale locale, boolean latinDigits) {
        Map<String, Object> arguments = new HashMap<>();
        List<String> lacking = new ArrayList<>();
        Chosen chosen = form;
        for (IcuMessage.Argument argument : IcuMessage.parse(text).arguments()) {
            String value = values.get(argument.name());
            if (value == null) {
                if (!lacking.contains("{" + argument.name() + "}")) {
                    lacking.add("{" + argument.name() + "}");
                }
            } else {
                boolean number = NUMBER.matcher(value).matches();
                arguments.put(argument.name(), number ? (Object) Double.valueOf(value) : value);
                if (number && argument.type().equals("plural") && chosen.by.isEmpty()) {
                    chosen = new Chosen(category(value, locale), argument.name());
                }
            }
        }
        if (!lacking.isEmpty()) {
            return new Filling(text, chosen.form, chosen.by, List.copyOf(lacking));
        }
        try {
            String filled = new MessageFormat(text, latinDigits ? locale.setKeywordValue("numbers", "latn") : locale)
                    .format(arguments);
            return new Filling(filled, chosen.form, chosen.by, List.of());
        } catch (IllegalArgumentException unfit) {
            // A word where the message counts, or a date: it is shown as it is written, and the check of messages says
            // why.
            return new Filling(text, chosen.form, chosen.by, List.of());
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
