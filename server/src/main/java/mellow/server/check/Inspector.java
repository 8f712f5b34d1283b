package mellow.server.check;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import mellow.core.check.Checks;
import mellow.core.check.Finding;
import mellow.core.check.Ground;
import mellow.core.check.Measure;
import mellow.core.language.LanguageTag;
import mellow.server.language.LanguageService;
import mellow.server.wordbook.WordbookService;
import org.springframework.stereotype.Component;

/** Gives the checks what they look at texts by: the language's plural forms, and the wordbook. Whoever checks a text of the record asks here. */
@Component
public class Inspector {

    private final LanguageService languages;
    private final WordbookService wordbook;

    Inspector(LanguageService languages, WordbookService wordbook) {
        this.languages = languages;
        this.wordbook = wordbook;
    }

    /** Looks at many texts: what holds for a pair of languages is found out once. Needs a transaction around it. */
    public Look look() {
        return new Look();
    }

    /** A look at texts, of any languages. */
    public final class Look {

        private final Map<Pair, Ground> grounds = new HashMap<>();

        private record Pair(LanguageTag source, LanguageTag language) {}

        private Look() {}

        /**
         * Everything that is found in a text.
         *
         * @param source the source language
         * @param language the text's
         * @param text the text by form, without empty forms
         */
        public List<Finding> at(
                Measure measure, LanguageTag source, LanguageTag language, SortedMap<String, String> text) {
            return Checks.of(measure, text, grounds.computeIfAbsent(new Pair(source, language), this::ground));
        }

        private Ground ground(Pair pair) {
            return new Ground(
                    languages.describe(pair.language()).plurals().keySet(),
                    wordbook.agreed(pair.source(), pair.language()));
        }
    }
}
