package mellow.core.check;

import java.util.Map;
import mellow.core.asset.AssetFacts;
import mellow.core.asset.AssetKind;
import mellow.core.text.Text;
import org.jspecify.annotations.Nullable;

/** A picture or sound of another kind, size or length than that of the source, or whose name promises another kind than it is. Looked at by itself: it has no words. */
final class AssetCheck implements Check {

    /** Languages take longer or shorter to say the same; beyond this a place in the product does not fit. */
    private static final double LONGER = 1.5;

    /** Short sounds differ by this much without anybody noticing. */
    private static final long UNNOTICED_MILLIS = 500;

    private static final double SECOND = 1000;

    static void lookAt(@Nullable AssetFacts source, String name, AssetFacts file, Found found) {
        AssetKind named = AssetKind.named(name).orElse(file.kind());
        if (named != file.kind()) {
            found.add(
                    "asset-named-otherwise",
                    Text.OTHER,
                    "The name promises {named}, and the file is {is}.",
                    Map.of("named", named.title(), "is", file.kind().title()));
        }
        if (source == null) {
            return;
        }
        if (source.kind() != file.kind()) {
            found.add(
                    "asset-other-kind",
                    Text.OTHER,
                    "{is}, and the source is {source}.",
                    Map.of("is", file.kind().title(), "source", source.kind().title()));
        }
        boolean sized = source.width() > 0 && file.width() > 0;
        if (sized && (source.width() != file.width() || source.height() != file.height())) {
            found.add(
                    "asset-other-size",
                    Text.OTHER,
                    "{width} × {height} pixels, and the source has {sourceWidth} × {sourceHeight}.",
                    Map.of(
                            "width", file.width(),
                            "height", file.height(),
                            "sourceWidth", source.width(),
                            "sourceHeight", source.height()));
        }
        boolean timed = source.milliseconds() > 0 && file.milliseconds() > 0;
        if (timed && otherLength(source.milliseconds(), file.milliseconds())) {
            found.add(
                    "asset-other-length",
                    Text.OTHER,
                    "{seconds} s, and the source takes {source} s.",
                    Map.of("seconds", seconds(file), "source", seconds(source)));
        }
    }

    private static boolean otherLength(long source, long file) {
        return Math.abs(source - file) > UNNOTICED_MILLIS && (file > LONGER * source || source > LONGER * file);
    }

    private static double seconds(AssetFacts sound) {
        return Math.round(sound.milliseconds() / SECOND * 10) / 10.0;
    }
}
