package mellow.server.file;

import mellow.core.asset.AssetFacts;
import org.jspecify.annotations.Nullable;

/**
 * What a picture or sound is.
 *
 * @param kind png, jpeg, webp, svg, ogg, mp3 or wav
 * @param bytes its size
 * @param width of a picture in pixels, 0 when it has none
 * @param height the same
 * @param milliseconds how long a sound takes, 0 when it does not tell
 */
public record FactsReply(String kind, long bytes, int width, int height, long milliseconds) {

    /** As it is told; null for nothing known. */
    public static @Nullable FactsReply of(@Nullable AssetFacts facts) {
        return facts == null
                ? null
                : new FactsReply(
                        facts.kind().word(), facts.bytes(), facts.width(), facts.height(), facts.milliseconds());
    }
}
