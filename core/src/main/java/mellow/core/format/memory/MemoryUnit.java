package mellow.core.format.memory;

import mellow.core.language.LanguageTag;

/**
 * A text with its source, as memories are passed on.
 *
 * @param from the source's language
 * @param to the text's language
 * @param source with inline codes as they stand in the file
 * @param text the same
 * @param context where it was said, a key mostly; empty when not known
 * @param note what was said of it, empty for nothing
 * @param madeBy who wrote or changed it last, empty when not known
 * @param madeAt when, as TMX spells it (ISO 8601 basic, as in {@code 20260131T120000Z}); empty when not known
 */
public record MemoryUnit(
        LanguageTag from,
        LanguageTag to,
        String source,
        String text,
        String context,
        String note,
        String madeBy,
        String madeAt) {}
