package mellow.server.language;

import java.util.List;
import mellow.core.language.Language;

/**
 * A language as screens name it.
 *
 * @param tag its tag
 * @param englishName its name in English
 * @param ownName its name in itself
 * @param rightToLeft whether its usual script runs right to left
 * @param script ISO 15924 code of its usual script
 * @param plurals its plural categories in CLDR order
 */
public record LanguageName(
        String tag, String englishName, String ownName, boolean rightToLeft, String script, List<PluralForm> plurals) {

    /**
     * A plural category.
     *
     * @param category zero, one, two, few, many or other
     * @param examples numbers that take it
     */
    public record PluralForm(String category, String examples) {}

    /** What CLDR says, for a screen. */
    public static LanguageName of(Language language) {
        return new LanguageName(
                language.tag().value(),
                language.englishName(),
                language.ownName(),
                language.rightToLeft(),
                language.script(),
                language.plurals().entrySet().stream()
                        .map(plural -> new PluralForm(plural.getKey(), plural.getValue()))
                        .toList());
    }
}
