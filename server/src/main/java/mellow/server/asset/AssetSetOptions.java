package mellow.server.asset;

import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;
import mellow.core.asset.AssetPattern;
import mellow.core.merge.Arrival;
import mellow.server.common.Refusal;
import org.jspecify.annotations.Nullable;

/**
 * What a person said about pictures and sounds that came together.
 *
 * @param patterns how their paths are made, tried in this order
 * @param table the table they go into, by its name in addresses
 * @param newTable or the name of a table to be made
 * @param source the language of a table to be made whose files the others follow; of another table it is known
 * @param arrival what arrives as: SETTLED, OFFERED or PENCILLED
 */
record AssetSetOptions(
        @NotNull @Size(max = 10) List<@NotBlank @Size(max = 300) String> patterns,
        @Nullable @Size(max = 200) String table,
        @Nullable @Size(max = 200) String newTable,
        @NotBlank @Size(max = 60) String source,
        @NotNull Arrival arrival) {

    AssetSetOptions {
        patterns = patterns == null ? List.of() : List.copyOf(patterns);
    }

    AssetSetOptions with(List<String> others) {
        return new AssetSetOptions(others, table, newTable, source, arrival);
    }

    /** The same into a table to be made. */
    AssetSetOptions into(String made, String from) {
        return new AssetSetOptions(patterns, null, made, from, arrival);
    }

    /**
     * How paths are made, ready to be met with some.
     *
     * @throws Refusal when a pattern is none
     */
    List<AssetPattern> read() {
        return patterns.stream().map(AssetSetOptions::pattern).toList();
    }

    private static AssetPattern pattern(String text) {
        try {
            return AssetPattern.of(text.strip());
        } catch (IllegalArgumentException wrong) {
            throw Refusal.unacceptable("bad-pattern", String.valueOf(wrong.getMessage()), Map.of("field", "patterns"));
        }
    }
}
