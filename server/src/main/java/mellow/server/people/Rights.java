package mellow.server.people;

import java.util.Map;
import java.util.Optional;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;

/**
 * What a person may do now.
 *
 * @param person the person's number
 * @param coordinator may do everything
 * @param levels by language
 */
public record Rights(long person, boolean coordinator, Map<LanguageTag, Level> levels) {

    /** Whether the person may offer texts in {@code language}. */
    public boolean contributes(LanguageTag language) {
        return atLeast(language, Level.CONTRIBUTOR);
    }

    /** Whether the person may settle texts in {@code language}. */
    public boolean reviews(LanguageTag language) {
        return atLeast(language, Level.REVIEWER);
    }

    /** Refuses the request unless the person is a coordinator. */
    public void requireCoordinator(String what) {
        if (!coordinator) {
            throw Refusal.forbidden("coordinator-only", "Only a coordinator can " + what + ".");
        }
    }

    /** Refuses the request unless the person may offer texts in some language. */
    public void requireAny(String what) {
        boolean any =
                coordinator || levels.values().stream().anyMatch(level -> level.compareTo(Level.CONTRIBUTOR) >= 0);
        if (!any) {
            throw Refusal.forbidden("no-right", "Only somebody who may offer texts can " + what + ".");
        }
    }

    private boolean atLeast(LanguageTag language, Level level) {
        return coordinator
                || Optional.ofNullable(levels.get(language))
                        .filter(has -> has.compareTo(level) >= 0)
                        .isPresent();
    }
}
