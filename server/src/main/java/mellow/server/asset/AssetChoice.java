package mellow.server.asset;

import jakarta.validation.constraints.Size;
import org.jspecify.annotations.Nullable;

/**
 * What a person said about a picture or sound of a set; null is what its path says.
 *
 * @param position its number among them
 * @param key the entry's key
 * @param language its language's tag
 * @param leftOut whether it stays out
 */
record AssetChoice(
        int position,
        @Nullable @Size(max = 1000) String key,
        @Nullable @Size(max = 60) String language,
        @Nullable Boolean leftOut) {}
