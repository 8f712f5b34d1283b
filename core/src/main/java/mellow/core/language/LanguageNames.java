package mellow.core.language;

import com.ibm.icu.text.LocaleDisplayNames;
import com.ibm.icu.util.ULocale;
import java.text.Normalizer;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Recognises a language from what people write above a column: a tag in any spelling, an English or own name, or a name with the tag beside it. */
public final class LanguageNames {

    private static final Pattern IN_BRACKETS =
            Pattern.compile("[\\[(]\\s*([A-Za-z]{2,3}(?:[-_@.][-_A-Za-z0-9]+)?)\\s*[\\])]\\s*$");
    private static final Pattern BEFORE_DASH =
            Pattern.compile("^([A-Za-z]{2,3}(?:[-_][A-Za-z0-9]+)*)\\s+[-\u2013\u2014]\\s+.+$");
    private static final Pattern SOURCE_REMARK =
            Pattern.compile("(?i)\\s*[\\[(]?\\s*\\b(source|original|base|source text)\\b\\s*[\\])]?\\s*$");

    /** Three-letter codes of ISO 639-2, of both kinds, as far as languages are often told by them and they are seldom anything else. */
    private static final Map<String, String> CODES = codes(
            "ar ara bg bul cs ces cs cze de deu de ger el ell el gre en eng es spa fi fin fr fra fr fre he heb hi hin hr hrv hu hun it ita ja jpn ko kor lv lav"
                    + " nl nld nl dut no nor pl pol pt por ro ron ro rum ru rus sk slk sk slo sr srp sv swe th tha tr tur uk ukr vi vie zh zho zh chi");

    private LanguageNames() {}

    private static Map<String, String> codes(String list) {
        String[] pairs = list.split(" ");
        Map<String, String> codes = new HashMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            codes.put(pairs[i + 1], pairs[i]);
        }
        return Map.copyOf(codes);
    }

    /** The language of a common three-letter code (ISO 639-2), such as "deu" or "GER"; empty for any other. */
    public static Optional<LanguageTag> ofCode(String code) {
        return Optional.ofNullable(CODES.get(code.toLowerCase(Locale.ROOT))).map(LanguageTag::new);
    }

    /**
     * The language that {@code heading} names.
     *
     * @param heading such as "pt_BR", "Deutsch", "Brazilian Portuguese", "German (de)", "English (source)"
     * @return empty when it names none
     */
    public static Optional<LanguageTag> recognise(String heading) {
        String bare = heading.strip();
        Optional<LanguageTag> direct = tagOrName(bare);
        if (direct.isPresent()) {
            return direct;
        }
        String unmarked = SOURCE_REMARK.matcher(bare).replaceFirst("");
        if (!unmarked.isEmpty() && !unmarked.equals(bare)) {
            return recognise(unmarked);
        }
        Matcher brackets = IN_BRACKETS.matcher(bare);
        if (brackets.find()) {
            return LanguageTag.parse(brackets.group(1));
        }
        Matcher dash = BEFORE_DASH.matcher(bare);
        return dash.matches() ? LanguageTag.parse(dash.group(1)) : Optional.empty();
    }

    /**
     * Languages that {@code words} may mean, best first: what {@link #recognise} finds, then names that begin with the words, then names that contain them.
     *
     * @param most how many at most
     */
    public static List<LanguageTag> like(String words, int most) {
        String wanted = folded(words);
        if (wanted.isEmpty()) {
            return List.of();
        }
        Set<LanguageTag> found = new LinkedHashSet<>();
        recognise(words).ifPresent(found::add);
        ByName.TAGS.entrySet().stream()
                .filter(named -> named.getKey().contains(wanted))
                .sorted(Comparator.<Map.Entry<String, LanguageTag>, Boolean>comparing(
                                named -> !named.getKey().startsWith(wanted))
                        .thenComparing(named -> named.getKey().length())
                        .thenComparing(Map.Entry::getKey))
                .map(Map.Entry::getValue)
                .forEach(found::add);
        return found.stream().limit(most).toList();
    }

    private static Optional<LanguageTag> tagOrName(String heading) {
        Optional<LanguageTag> tag = LanguageTag.parse(heading);
        return tag.isPresent() ? tag : Optional.ofNullable(ByName.TAGS.get(folded(heading)));
    }

    private static String folded(String name) {
        return Normalizer.normalize(name, Normalizer.Form.NFC)
                .toLowerCase(Locale.ROOT)
                .replaceAll("[\\s\u00a0]+", " ")
                .strip();
    }

    /** Built at first need: it asks CLDR for some 1,700 names. */
    private static final class ByName {
        static final Map<String, LanguageTag> TAGS = build();

        private static Map<String, LanguageTag> build() {
            Map<String, LanguageTag> tags = new HashMap<>();
            LocaleDisplayNames dialects =
                    LocaleDisplayNames.getInstance(ULocale.ENGLISH, LocaleDisplayNames.DialectHandling.DIALECT_NAMES);
            // Bare languages first, so that "Deutsch" is de and not one of its regions.
            for (boolean bare : new boolean[] {true, false}) {
                for (ULocale locale : ULocale.getAvailableLocales()) {
                    if (bare
                            == (locale.getCountry().isEmpty()
                                    && locale.getScript().isEmpty())) {
                        LanguageTag.parse(locale.toLanguageTag()).ifPresent(tag -> {
                            tags.putIfAbsent(folded(locale.getDisplayName(ULocale.ENGLISH)), tag);
                            tags.putIfAbsent(folded(locale.getDisplayName(locale)), tag);
                            tags.putIfAbsent(folded(dialects.localeDisplayName(locale)), tag);
                        });
                    }
                }
            }
            return Map.copyOf(tags);
        }
    }
}
