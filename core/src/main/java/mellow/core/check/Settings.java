package mellow.core.check;

import com.google.re2j.Pattern;
import com.google.re2j.PatternSyntaxException;
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import mellow.core.placeholder.Placeholders;
import org.jspecify.annotations.Nullable;

/**
 * What counts as wrong in a table. Patterns are RE2's, which take time linear in the text whatever the pattern.
 *
 * @param weights how much each kind counts; every kind is there
 * @param placeholders how placeholders are found
 * @param forbidden characters that no text may have
 * @param lengthFactor how many times as long as its source a text may be; 0 for any
 * @param keys what every key must match as a whole, null for any
 */
public record Settings(
        Map<Kind, Weight> weights,
        Placeholders placeholders,
        String forbidden,
        double lengthFactor,
        @Nullable Pattern keys) {

    /** Where nobody said otherwise. */
    public static final Settings USUAL = new Settings(Map.of(), Placeholders.COMMON, "", 0, null);

    public Settings {
        EnumMap<Kind, Weight> all = new EnumMap<>(Kind.class);
        for (Kind kind : Kind.values()) {
            all.put(kind, weights.getOrDefault(kind, kind.usual()));
        }
        weights = Collections.unmodifiableMap(all);
    }

    /**
     * Settings as people write them.
     *
     * @param placeholders patterns of the table's own placeholders
     * @param keys pattern of keys, empty for any
     * @throws PatternSyntaxException for a pattern that is none
     */
    public static Settings of(
            Map<Kind, Weight> weights, List<String> placeholders, String forbidden, double lengthFactor, String keys) {
        return new Settings(
                weights,
                placeholders.isEmpty() ? Placeholders.COMMON : Placeholders.with(placeholders),
                forbidden,
                lengthFactor,
                keys.isEmpty() ? null : Pattern.compile(keys));
    }

    /** How much a kind counts. */
    public Weight weight(Kind kind) {
        return weights.getOrDefault(kind, kind.usual());
    }
}
