package mellow.server.rehearsal;

import java.util.List;
import mellow.server.product.StepReply;
import org.jspecify.annotations.Nullable;

/**
 * What stands at a place.
 *
 * @param entry null where the product has no such entry
 * @param lines as they are drawn, with values in their placeholders
 * @param from the language of the text, null for a key
 * @param version of its cell, 0 where there is none
 * @param asset the picture or sound that stands there, null for a text
 * @param form the form that is shown, empty where nothing is
 * @param by the name of the value that chose the form, empty where none did
 * @param steps how the text was found
 */
public record PlaceText(
        int place,
        @Nullable Long entry,
        @Nullable String table,
        String key,
        List<String> lines,
        @Nullable String from,
        boolean borrowed,
        int version,
        @Nullable AssetShown asset,
        String form,
        String by,
        List<StepReply> steps,
        List<SceneFinding> findings) {}
