package mellow.core.check;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import mellow.core.wordbook.AgreedTerm;
import mellow.core.wordbook.TermFinder;
import mellow.core.wordbook.WordFinder;

/** Terms of the source for which the text does not say what was agreed, in no form of theirs; and words that the wordbook says to avoid. */
final class TermCheck implements Check {

    @Override
    public void lookAt(Inspected text, Found found) {
        TermFinder terms = text.ground().terms();
        if (terms.isEmpty()) {
            return;
        }
        Set<AgreedTerm> inSource = new LinkedHashSet<>();
        text.measure().source().values().forEach(source -> inSource.addAll(terms.in(source)));
        if (inSource.isEmpty()) {
            return;
        }
        Locale locale = text.ground().facts().locale();
        List<TermFinder.Said> said = text.text().values().stream()
                .map(words -> TermFinder.said(words, locale))
                .toList();
        for (AgreedTerm term : inSource) {
            // A plural text may leave the term out where it says the number alone; one form that has it is enough.
            if (!avoided(term, text.text(), found)
                    && !term.text().isEmpty()
                    && said.stream().noneMatch(words -> terms.says(words, term))) {
                found.add(
                        "term-not-used",
                        text.text().firstKey(),
                        "The wordbook says “{term}” for “{source}”.",
                        Map.of("term", term.text(), "source", term.term()));
            }
        }
    }

    /** Whether a word to avoid stands in the text, which says enough about the term. */
    private static boolean avoided(AgreedTerm term, SortedMap<String, String> text, Found found) {
        boolean[] any = {false};
        for (String avoid : term.avoid()) {
            text.forEach((form, words) -> WordFinder.in(words, avoid).stream()
                    .findFirst()
                    .ifPresent(place -> {
                        any[0] = true;
                        String said = words.substring(place.start(), place.end());
                        found.add(
                                "word-to-avoid",
                                form,
                                term.text().isEmpty()
                                        ? "“{word}” is to be avoided."
                                        : "“{word}” is to be avoided; say “{term}”.",
                                Map.of("word", said, "term", term.text()),
                                place.start(),
                                place.end());
                    }));
        }
        return any[0];
    }
}
