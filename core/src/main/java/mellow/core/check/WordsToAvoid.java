package mellow.core.check;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import mellow.core.wordbook.AgreedTerm;
import mellow.core.wordbook.WordFinder;
import mellow.core.wordbook.WordFinder.Place;

/** Finds words that the wordbook says to avoid, for terms that stand in the source. */
public final class WordsToAvoid {

    private WordsToAvoid() {}

    /**
     * A warning for the first place of each such word in each form.
     *
     * @param terms the wordbook's terms between the two languages
     * @param source the source by form
     * @param text the text by form
     */
    public static List<Finding> in(
            List<AgreedTerm> terms, SortedMap<String, String> source, SortedMap<String, String> text) {
        List<Finding> found = new ArrayList<>();
        for (AgreedTerm term : terms) {
            // Few texts hold a word to avoid, and most sources hold no term, so the text is looked at first.
            List<Finding> ofTerm = term.avoid().stream()
                    .flatMap(avoid -> text.entrySet().stream().flatMap(form -> first(term, avoid, form).stream()))
                    .toList();
            if (!ofTerm.isEmpty()
                    && source.values().stream().anyMatch(words -> !WordFinder.in(words, term.term())
                            .isEmpty())) {
                found.addAll(ofTerm);
            }
        }
        return List.copyOf(found);
    }

    private static List<Finding> first(AgreedTerm term, String avoid, Map.Entry<String, String> form) {
        List<Place> places = WordFinder.in(form.getValue(), avoid);
        if (places.isEmpty()) {
            return List.of();
        }
        Place place = places.get(0);
        String said = form.getValue().substring(place.start(), place.end());
        String instead = term.text().isEmpty() ? "." : "; say \u201c" + term.text() + "\u201d.";
        return List.of(
                Finding.warning("word-to-avoid", form.getKey(), "\u201c" + said + "\u201d is to be avoided" + instead)
                        .at(place.start(), place.end()));
    }
}
