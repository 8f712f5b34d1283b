package mellow.core.product;

import com.ibm.icu.impl.ICUData;
import com.ibm.icu.impl.ICUResourceBundle;
import com.ibm.icu.util.IllformedLocaleException;
import com.ibm.icu.util.ULocale;
import com.ibm.icu.util.UResourceBundle;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ConcurrentHashMap;
import mellow.core.language.LanguageTag;

/** Where languages come from: their canonical tags, scripts and parents by CLDR (UTS #35 §4.1.3 and §4.4). */
final class Lineage {

    /** The tag that stands for Moldavian, whose place CLDR's alias forgets. */
    private static final Map<String, String> WITH_PLACE = Map.of("mo", "ro-MD");

    private static final Map<String, String> PARENTS = parentLocales();
    private static final Map<String, String> SCRIPTS = new ConcurrentHashMap<>();
    private static final int MOST_REMEMBERED = 5_000;

    private Lineage() {}

    private static Map<String, String> parentLocales() {
        Map<String, String> parents = new HashMap<>();
        UResourceBundle all = UResourceBundle.getBundleInstance(
                        ICUData.ICU_BASE_NAME, "supplementalData", ICUResourceBundle.ICU_DATA_CLASS_LOADER)
                .get("parentLocales");
        for (int i = 0; i < all.getSize(); i++) {
            UResourceBundle of = all.get(i);
            List<String> children =
                    switch (of.getType()) {
                        case UResourceBundle.STRING -> List.of(of.getString());
                        case UResourceBundle.ARRAY -> List.of(of.getStringArray());
                        default -> List.of();
                    };
            children.forEach(
                    child -> parents.put(child.replace('_', '-'), of.getKey().replace('_', '-')));
        }
        return Map.copyOf(parents);
    }

    /** The tag that CLDR means by a spelling: deprecated, three-letter, extended and grandfathered ones included; empty for what is no tag. */
    static Optional<String> canonical(String spelling) {
        String bare = spelling.strip();
        String known = WITH_PLACE.get(bare.toLowerCase(Locale.ROOT));
        if (known != null) {
            return Optional.of(known);
        }
        // What only older standards know is made a tag of today first.
        return LanguageTag.parse(bare)
                .map(LanguageTag::value)
                .or(() -> wellFormed(bare.replace('_', '-')))
                .map(tag -> ULocale.createCanonical(ULocale.forLanguageTag(tag)).toLanguageTag())
                .flatMap(LanguageTag::parse)
                .map(LanguageTag::value);
    }

    private static Optional<String> wellFormed(String tag) {
        try {
            return Optional.of(new ULocale.Builder().setLanguageTag(tag).build().toLanguageTag());
        } catch (IllformedLocaleException illFormed) {
            return Optional.empty();
        }
    }

    /** The script that a language is usually written in, as an ISO 15924 code. */
    static String script(String tag) {
        if (SCRIPTS.size() > MOST_REMEMBERED) {
            SCRIPTS.clear();
        }
        return SCRIPTS.computeIfAbsent(tag, one -> ULocale.addLikelySubtags(ULocale.forLanguageTag(one))
                .getScript());
    }

    /** Whether two tags say the same: {@code zh-TW} and {@code zh-Hant-TW}. */
    static boolean same(String one, String other) {
        return one.equals(other) || full(one).equals(full(other));
    }

    private static ULocale full(String tag) {
        return ULocale.addLikelySubtags(ULocale.forLanguageTag(tag));
    }

    /** Where a language comes from, nearest first, itself not among them. A parent is written in the same script. */
    static List<String> parents(String tag) {
        List<String> parents = new ArrayList<>();
        for (Optional<String> next = parent(tag); next.isPresent(); next = parent(next.get())) {
            parents.add(next.get());
        }
        return parents;
    }

    private static Optional<String> parent(String tag) {
        String stated = PARENTS.get(tag);
        if (stated != null) {
            return Optional.of(stated);
        }
        int dash = tag.lastIndexOf('-');
        if (dash < 0) {
            return Optional.empty();
        }
        // A single letter begins an extension and means nothing by itself (RFC 4647 §3.4).
        String shorter = tag.substring(0, dash > 2 && tag.charAt(dash - 2) == '-' ? dash - 2 : dash);
        String script = script(tag);
        if (script.equals(script(shorter))) {
            return Optional.of(shorter);
        }
        ULocale locale = ULocale.forLanguageTag(tag);
        return locale.getScript().isEmpty() && !locale.getCountry().isEmpty()
                ? Optional.of(locale.getLanguage() + "-" + script + "-" + locale.getCountry())
                : Optional.empty();
    }
}
