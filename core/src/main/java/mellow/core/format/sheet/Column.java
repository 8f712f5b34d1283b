package mellow.core.format.sheet;

import java.util.Optional;
import mellow.core.language.LanguageTag;

/**
 * What one column of a sheet holds.
 *
 * @param heading the words above it, as written
 * @param role what it holds
 * @param language the language of its texts, present if and only if the role is TEXT
 */
public record Column(String heading, Role role, Optional<LanguageTag> language) {

    /** What a column can hold. */
    public enum Role {
        KEY("Key"),
        CONTEXT("Context"),
        SECTION("Section"),
        NOTE("Note"),
        LIMIT("Limit"),
        REFERENCE("Reference"),
        TEXT(""),
        IGNORED("");

        private final String heading;

        Role(String heading) {
            this.heading = heading;
        }

        /** The heading that fresh files give it. */
        public String heading() {
            return heading;
        }
    }

    public Column {
        if ((role == Role.TEXT) != language.isPresent()) {
            throw new IllegalArgumentException("a column of texts has a language, and no other column has");
        }
    }

    /** A column of texts in {@code language}. */
    public static Column text(String heading, LanguageTag language) {
        return new Column(heading, Role.TEXT, Optional.of(language));
    }

    /** A column that holds something else than texts. */
    public static Column of(String heading, Role role) {
        return new Column(heading, role, Optional.empty());
    }
}
