package mellow.core.wordbook;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Stream;
import mellow.core.wordbook.WordForms.Word;

/**
 * Finds which agreed terms stand in a source, among as many as there are, and whether a text says what was agreed, in whatever form. Terms are kept by what is left
 * of their first words without endings, so that a text costs its own length whatever the size of the wordbook. Immutable to its users.
 */
public final class TermFinder {

    private final WordForms forms;
    private final Locale language;
    private final Map<String, List<Known>> byStem = new HashMap<>();
    private final Map<Character, List<Known>> unspaced = new HashMap<>();
    private final Set<String> asIs = new HashSet<>();
    private final Map<String, List<Word>> wordsOf = new ConcurrentHashMap<>();

    private TermFinder(Locale language) {
        this.language = language;
        this.forms = WordForms.in(language);
    }

    /** A way in which a term reads in sources; without words in a script that has no spaces. */
    private record Known(AgreedTerm term, String spelled, List<Word> words) {}

    /** A term at a place in a source: by its words, or its letters where these have no spaces. */
    private record Place(AgreedTerm term, int from, int to) {}

    /**
     * Finds these.
     *
     * @param language of the sources
     */
    public static TermFinder of(Collection<AgreedTerm> terms, Locale language) {
        TermFinder finder = new TermFinder(language);
        terms.forEach(finder::add);
        return finder;
    }

    private void add(AgreedTerm term) {
        if (term.term().equals(term.text())) {
            asIs.add(term.text());
        }
        Stream.concat(Stream.of(term.term()), term.termForms().stream()).forEach(spelled -> {
            String small = spelled.strip().toLowerCase(language);
            if (small.isEmpty()) {
                return;
            }
            if (Unspaced.is(small.codePointAt(0))) {
                unspaced.computeIfAbsent(small.charAt(0), first -> new ArrayList<>())
                        .add(new Known(term, small, List.of()));
                return;
            }
            List<Word> words = forms.words(spelled, language);
            if (!words.isEmpty()) {
                Known known = new Known(term, small, words);
                forms.termKeys(words.get(0)).forEach(stem -> byStem.computeIfAbsent(stem, any -> new ArrayList<>())
                        .add(known));
            }
        });
    }

    /** Whether there are no terms. */
    public boolean isEmpty() {
        return byStem.isEmpty() && unspaced.isEmpty();
    }

    /** Whether it was agreed that a text stays as it is: a name. */
    public boolean agreedAsIs(String text) {
        return asIs.contains(text.strip());
    }

    /** The terms that stand in {@code source}, each once, in the order in which they begin; not those that stand only within longer ones. */
    public List<AgreedTerm> in(String source) {
        if (isEmpty()) {
            return List.of();
        }
        List<Place> spaced = new ArrayList<>();
        List<Word> words = byStem.isEmpty() ? List.of() : forms.words(source, language);
        for (int at = 0; at < words.size(); at++) {
            Set<Known> seen = new HashSet<>();
            for (String stem : forms.saidKeys(words.get(at))) {
                for (Known known : byStem.getOrDefault(stem, List.of())) {
                    if (seen.add(known) && standsAt(words, at, known)) {
                        spaced.add(new Place(known.term, at, at + known.words.size()));
                    }
                }
            }
        }
        List<Place> letters = new ArrayList<>();
        if (!unspaced.isEmpty()) {
            String searched = source.toLowerCase(language);
            for (int at = 0; at < searched.length(); at++) {
                for (Known known : unspaced.getOrDefault(searched.charAt(at), List.of())) {
                    if (searched.startsWith(known.spelled, at) && Unspaced.next(searched, known.spelled, at) == at) {
                        letters.add(new Place(known.term, at, at + known.spelled.length()));
                    }
                }
            }
        }
        Set<AgreedTerm> found = new LinkedHashSet<>();
        longest(spaced).forEach(place -> found.add(place.term));
        longest(letters).forEach(place -> found.add(place.term));
        return List.copyOf(found);
    }

    private boolean standsAt(List<Word> words, int at, Known known) {
        if (at + known.words.size() > words.size()) {
            return false;
        }
        for (int i = 0; i < known.words.size(); i++) {
            if (!forms.isForm(words.get(at + i), known.words.get(i))) {
                return false;
            }
        }
        return true;
    }

    /** Those that no longer one covers, in their order. */
    private static List<Place> longest(List<Place> places) {
        places.sort(Comparator.comparingInt(Place::from)
                .thenComparing(Comparator.comparingInt(Place::to).reversed()));
        List<Place> left = new ArrayList<>();
        int from = -1;
        int to = -1;
        for (Place place : places) {
            if (place.to > to) {
                from = place.from;
                to = place.to;
                left.add(place);
            } else if (place.from == from && place.to == to) {
                left.add(place);
            }
        }
        return left;
    }

    /** A text that is asked for many terms: its words, taken apart once. */
    public static final class Said {
        private final WordForms forms;
        private final Locale language;
        private final String small;
        private final List<Word> words;

        private Said(String text, Locale language) {
            this.language = language;
            this.forms = WordForms.in(language);
            this.small = text.toLowerCase(language);
            this.words = forms.words(text, language);
        }

        private boolean has(List<Word> wanted, String spelled) {
            if (!spelled.isEmpty() && Unspaced.is(spelled.codePointAt(0))) {
                return Unspaced.has(small, spelled);
            }
            for (Word word : wanted) {
                if (words.stream().noneMatch(said -> forms.says(said, word))) {
                    return false;
                }
            }
            return true;
        }
    }

    /** A text in a language, to be asked what it says. */
    public static Said said(String text, Locale language) {
        return new Said(text, language);
    }

    /** Whether a text says {@code agreed}, in whatever form: every word of it is there, alone or in a compound. */
    public static boolean says(String text, String agreed, Locale language) {
        Said said = said(text, language);
        return said.has(said.forms.words(agreed, language), agreed.strip().toLowerCase(language));
    }

    /** Whether a text says what was agreed for a term, or anything that may be said as well; by the same language for every call. */
    public boolean says(Said said, AgreedTerm term) {
        return Stream.concat(Stream.of(term.text()), term.forms().stream())
                .filter(text -> !text.isBlank())
                .anyMatch(text -> said.has(
                        wordsOf.computeIfAbsent(text, any -> said.forms.words(any, said.language)),
                        text.strip().toLowerCase(said.language)));
    }
}
