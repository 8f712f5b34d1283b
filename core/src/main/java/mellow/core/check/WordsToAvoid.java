package mellow.core.check;

import java.util.List;
import java.util.Optional;
import mellow.core.wordbook.AgreedTerm;
import mellow.core.wordbook.WordFinder;

/** Words that the wordbook says to avoid, for terms that stand in the source; the first place of each. */
final class WordsToAvoid implements Check {

    @Override
    public void lookAt(Inspected.Form form, List<Finding> found) {
        for (AgreedTerm term : form.of().ground().terms()) {
            // Few texts hold a word to avoid, and most sources hold no term, so the text is looked at first.
            List<Finding> ofTerm = term.avoid().stream()
                    .flatMap(avoid -> first(term, avoid, form).stream())
                    .toList();
            if (!ofTerm.isEmpty()
                    && form.measure().source().values().stream().anyMatch(words -> !WordFinder.in(words, term.term())
                            .isEmpty())) {
                found.addAll(ofTerm);
            }
        }
    }

    private static Optional<Finding> first(AgreedTerm term, String avoid, Inspected.Form form) {
        return WordFinder.in(form.text(), avoid).stream().findFirst().map(place -> {
            String said = form.text().substring(place.start(), place.end());
            String instead = term.text().isEmpty() ? "." : "; say \u201c" + term.text() + "\u201d.";
            return Finding.warning("word-to-avoid", form.name(), "\u201c" + said + "\u201d is to be avoided" + instead)
                    .at(place.start(), place.end());
        });
    }
}
