package mellow.core.language;

import com.ibm.icu.lang.UCharacter;
import com.ibm.icu.lang.UProperty;
import com.ibm.icu.lang.UScript;
import com.ibm.icu.util.Region;
import com.ibm.icu.util.ULocale;
import java.util.Arrays;
import java.util.HashSet;
import java.util.IllformedLocaleException;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * A language as a BCP 47 tag in canonical case (RFC 5646 §2.1.1): {@code de}, {@code pt-BR}, {@code zh-Hant-TW}.
 *
 * @param value the canonical tag, never empty; {@code und} only as {@link #UNDETERMINED}
 */
public record LanguageTag(String value) implements Comparable<LanguageTag> {

    private static final Pattern SHAPE = Pattern.compile(
            "(?i)[a-z]{2,3}([-_][a-z]{4})?([-_]([a-z]{2}|[0-9]{3}))?([-_]([a-z0-9]{5,8}|[0-9][a-z0-9]{3}))*([-_][a-z][-_][-_a-z0-9]+)?");

    /** RFC 5646 §4.4.1 asks for 35 at least; no tag in use is as long. */
    private static final int LONGEST = 60;

    private static final Set<String> VARIANTS = Set.of("valencia", "tarask", "pinyin", "ekavsk", "ijekavsk");
    private static final Set<String> KNOWN = known();
    private static final Set<String> SCRIPTS = scripts();
    private static final Set<String> REGIONS = regions();

    /** The tag {@code und}: a file does not say its language. Never in the record. */
    public static final LanguageTag UNDETERMINED = new LanguageTag("und");

    public LanguageTag {
        if (!value.equals("und") && !canonical(value).equals(Optional.of(value))) {
            throw new IllegalArgumentException("not a canonical language tag: " + value);
        }
    }

    /**
     * Reads a tag in any common spelling: {@code en_US}, {@code EN-us}, {@code de_DE.UTF-8}, {@code sr@latin}.
     *
     * @return empty when {@code spelling} is no well-formed tag or its language, script or region is not registered (ISO 639, 15924, 3166 and
     *     UN M.49)
     */
    public static Optional<LanguageTag> parse(String spelling) {
        String bare = spelling.strip();
        int encoding = bare.indexOf('.');
        if (encoding > 0) {
            bare = bare.substring(0, encoding);
        }
        int modifier = bare.indexOf('@');
        if (modifier > 0) {
            bare = modified(bare.substring(0, modifier), bare.substring(modifier + 1));
        }
        return canonical(bare).map(LanguageTag::new);
    }

    /**
     * A tag with what a modifier of a locale name means: a script, a registered variant, a currency, which is no matter of language; anything else becomes
     * private subtags (RFC 5646 §2.2.7), so that {@code en@quot} is {@code en-x-quot}.
     */
    private static String modified(String tag, String modifier) {
        String script = script(modifier);
        String lower = modifier.toLowerCase(Locale.ROOT);
        if (!script.isEmpty()) {
            String[] parts = tag.split("[-_]", 2);
            return parts[0] + "-" + script + (parts.length > 1 ? "-" + parts[1] : "");
        }
        if (lower.equals("euro")) {
            return tag;
        }
        if (VARIANTS.contains(lower)) {
            return tag + "-" + lower;
        }
        String bare = lower.replaceAll("[^a-z0-9]", "");
        return bare.isEmpty() ? tag + "@" : tag + "-x" + bare.replaceAll("(.{1,8})", "-$1");
    }

    private static String script(String modifier) {
        return switch (modifier.toLowerCase(Locale.ROOT)) {
            case "latin", "latn", "iqtelif" -> "Latn";
            case "cyrillic" -> "Cyrl";
            case "arabic" -> "Arab";
            case "devanagari" -> "Deva";
            case "shaw", "shavian" -> "Shaw";
            default -> "";
        };
    }

    /** Whether it is told by nothing that only its writer knows: of variants and extensions (RFC 5646 §2.2.5 to 2.2.7) it has none but variants in wide use. */
    public boolean plain() {
        Locale locale = Locale.forLanguageTag(value);
        return !locale.hasExtensions()
                && (locale.getVariant().isEmpty()
                        || VARIANTS.contains(locale.getVariant().toLowerCase(Locale.ROOT)));
    }

    private static Optional<String> canonical(String spelling) {
        if (spelling.length() > LONGEST || !SHAPE.matcher(spelling).matches()) {
            return Optional.empty();
        }
        try {
            Locale locale = new Locale.Builder()
                    .setLanguageTag(spelling.replace('_', '-'))
                    .build();
            boolean registered = KNOWN.contains(locale.getLanguage())
                    && (locale.getScript().isEmpty() || SCRIPTS.contains(locale.getScript()))
                    && (locale.getCountry().isEmpty() || REGIONS.contains(locale.getCountry()));
            if (!registered) {
                return Optional.empty();
            }
            return Optional.of(locale.toLanguageTag());
        } catch (IllformedLocaleException notATag) {
            return Optional.empty();
        }
    }

    private static Set<String> known() {
        Set<String> known = new HashSet<>();
        for (String language : ULocale.getISOLanguages()) {
            // Three-letter codes without a CLDR name are mostly ordinary words in a header ("key", "max").
            if (language.length() == 2
                    || !ULocale.getDisplayLanguage(language, ULocale.ENGLISH).equals(language)) {
                known.add(new Locale.Builder().setLanguage(language).build().getLanguage());
            }
        }
        return Set.copyOf(known);
    }

    private static Set<String> scripts() {
        Set<String> scripts = new HashSet<>();
        int last = UCharacter.getIntPropertyMaxValue(UProperty.SCRIPT);
        for (int code = 0; code <= last; code++) {
            scripts.add(UScript.getShortName(code));
        }
        // Not scripts of characters, but of ways to write: simplified Chinese, Japanese, Korean, and more.
        for (ULocale locale : ULocale.getAvailableLocales()) {
            scripts.add(locale.getScript());
        }
        scripts.addAll(List.of("Hans", "Hant", "Jpan", "Kore", "Hrkt", "Aran", "Latf", "Latg"));
        return Set.copyOf(scripts);
    }

    private static Set<String> regions() {
        Stream<String> real = Arrays.stream(Region.RegionType.values())
                .filter(type -> type != Region.RegionType.UNKNOWN)
                .flatMap(type -> Region.getAvailable(type).stream())
                .flatMap(region -> Stream.of(region.toString(), String.format("%03d", region.getNumericCode())));
        // Pretend regions of CLDR, whose languages are made from the source.
        return Stream.concat(real, Stream.of("XA", "XB")).collect(Collectors.toSet());
    }

    /** The primary language subtag (RFC 5646 §2.2.1): "pt" of "pt-BR". */
    public String language() {
        int dash = value.indexOf('-');
        return dash < 0 ? value : value.substring(0, dash);
    }

    @Override
    public int compareTo(LanguageTag other) {
        return value.compareTo(other.value);
    }

    @Override
    public String toString() {
        return value;
    }
}
