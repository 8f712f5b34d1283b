package mellow.core.language;

import com.ibm.icu.util.ULocale;
import java.util.HashSet;
import java.util.IllformedLocaleException;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * A language as a BCP 47 tag in canonical case (RFC 5646 §2.1.1): {@code de}, {@code pt-BR}, {@code zh-Hant-TW}.
 *
 * @param value the canonical tag, never empty; {@code und} only as {@link #UNDETERMINED}
 */
public record LanguageTag(String value) implements Comparable<LanguageTag> {

    private static final Pattern SHAPE = Pattern.compile(
            "(?i)[a-z]{2,3}([-_][a-z]{4})?([-_]([a-z]{2}|[0-9]{3}))?([-_]([a-z0-9]{5,8}|[0-9][a-z0-9]{3}))*([-_][a-z][-_][-_a-z0-9]+)?");

    private static final Set<String> KNOWN = known();

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
     * @return empty when {@code spelling} is no well-formed tag or its language subtag is not registered in ISO 639
     */
    public static Optional<LanguageTag> parse(String spelling) {
        String bare = spelling.strip();
        int encoding = bare.indexOf('.');
        if (encoding > 0) {
            bare = bare.substring(0, encoding);
        }
        int modifier = bare.indexOf('@');
        if (modifier > 0) {
            if (bare.substring(modifier + 1).equalsIgnoreCase("valencia")) {
                return canonical(bare.substring(0, modifier) + "-valencia").map(LanguageTag::new);
            }
            String script = script(bare.substring(modifier + 1));
            if (script.isEmpty()) {
                return Optional.empty();
            }
            String[] parts = bare.substring(0, modifier).split("[-_]", 2);
            bare = parts[0] + "-" + script + (parts.length > 1 ? "-" + parts[1] : "");
        }
        return canonical(bare).map(LanguageTag::new);
    }

    private static String script(String modifier) {
        return switch (modifier.toLowerCase(Locale.ROOT)) {
            case "latin", "iqtelif" -> "Latn";
            case "cyrillic" -> "Cyrl";
            case "arabic" -> "Arab";
            case "devanagari" -> "Deva";
            case "shaw", "shavian" -> "Shaw";
            default -> "";
        };
    }

    private static Optional<String> canonical(String spelling) {
        if (!SHAPE.matcher(spelling).matches()) {
            return Optional.empty();
        }
        try {
            Locale locale = new Locale.Builder()
                    .setLanguageTag(spelling.replace('_', '-'))
                    .build();
            if (!KNOWN.contains(locale.getLanguage())) {
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
