package mellow.core.wordbook;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Pattern;

/**
 * Finds which agreed terms stand in a source, among as many as there are: terms are kept by their first letters, so that a text costs its own length whatever
 * the size of the wordbook. Immutable to its users.
 */
public final class TermFinder {

    private static final int KEY = 3;
    /** Shorter words have no stem shorter than themselves. */
    private static final int SHORT = 4;

    private static final Pattern NO_WORD = Pattern.compile("[^\\p{L}\\p{N}]+");
    private static final Pattern MARKS = Pattern.compile("\\p{Mn}");

    /** The Arabic article is written with its word. */
    private static final String ARTICLE = "ال";

    private final Map<String, List<AgreedTerm>> byBeginning;
    private final Set<String> asIs;
    private final Map<String, List<String>> wordsOf = new ConcurrentHashMap<>();

    private TermFinder(Map<String, List<AgreedTerm>> byBeginning, Set<String> asIs) {
        this.byBeginning = byBeginning;
        this.asIs = asIs;
    }

    /** Finds these. */
    public static TermFinder of(Collection<AgreedTerm> terms) {
        Map<String, List<AgreedTerm>> byBeginning = new HashMap<>();
        Set<String> asIs = new HashSet<>();
        for (AgreedTerm term : terms) {
            String word = term.term().strip().toLowerCase(Locale.ROOT);
            if (!word.isEmpty()) {
                byBeginning
                        .computeIfAbsent(word.substring(0, Math.min(KEY, word.length())), key -> new ArrayList<>())
                        .add(term);
            }
            if (term.term().equals(term.text())) {
                asIs.add(term.text());
            }
        }
        return new TermFinder(byBeginning, asIs);
    }

    /** Whether there are no terms. */
    public boolean isEmpty() {
        return byBeginning.isEmpty();
    }

    /** Whether it was agreed that a text stays as it is: a name. */
    public boolean agreedAsIs(String text) {
        return asIs.contains(text.strip());
    }

    /** The terms that stand in {@code source}, each once, in the order in which they begin. */
    public List<AgreedTerm> in(String source) {
        if (byBeginning.isEmpty()) {
            return List.of();
        }
        String searched = source.toLowerCase(Locale.ROOT);
        Set<AgreedTerm> found = new LinkedHashSet<>();
        for (int at = 0; at < searched.length(); at++) {
            if (at > 0 && Character.isLetterOrDigit(searched.charAt(at - 1)) && !unspaced(searched.codePointAt(at))) {
                // Terms begin where words do.
                continue;
            }
            for (int length = 1; length <= KEY && at + length <= searched.length(); length++) {
                for (AgreedTerm term : byBeginning.getOrDefault(searched.substring(at, at + length), List.of())) {
                    if (!found.contains(term)
                            && !WordFinder.in(source, term.term()).isEmpty()) {
                        found.add(term);
                    }
                }
            }
        }
        return List.copyOf(found);
    }

    /** Whether {@code text} says {@code agreed}, in whatever form: every longer word of it is there by its stem, alone or in a compound. */
    public static boolean says(String text, String agreed, Locale locale) {
        return says(folded(text, locale), words(agreed, locale));
    }

    /**
     * The same for what a term's text says, which is taken apart once.
     *
     * @param folded the text by {@link #folded}, by the same locale for every call
     */
    public boolean says(String folded, AgreedTerm term, Locale locale) {
        return says(folded, wordsOf.computeIfAbsent(term.text(), text -> words(text, locale)));
    }

    private static boolean says(String folded, List<String> words) {
        for (String word : words) {
            if (!has(folded, word)) {
                return false;
            }
        }
        return true;
    }

    private static List<String> words(String agreed, Locale locale) {
        return Arrays.stream(NO_WORD.split(folded(agreed, locale)))
                .map(part -> part.startsWith(ARTICLE) && part.length() > ARTICLE.length() + 1
                        ? part.substring(ARTICLE.length())
                        : part)
                .filter(word -> !word.isEmpty())
                .toList();
    }

    private static boolean has(String searched, String word) {
        if (unspaced(word.codePointAt(0))) {
            return searched.contains(word);
        }
        String stem = word.length() <= SHORT
                ? word.substring(0, Math.min(3, word.length()))
                : word.substring(0, Math.max(3, (word.length() * 3 + 4) / 5));
        for (int at = searched.indexOf(stem); at >= 0; at = searched.indexOf(stem, at + 1)) {
            boolean begins = at == 0 || !Character.isLetterOrDigit(searched.charAt(at - 1));
            if (begins
                    || word.length() > SHORT
                    || searched.startsWith(word, at)
                    || searched.startsWith(ARTICLE, at - 2)) {
                return true;
            }
        }
        return false;
    }

    private static boolean unspaced(int letter) {
        return switch (Character.UnicodeScript.of(letter)) {
            case HAN, HIRAGANA, KATAKANA, THAI, LAO, KHMER, MYANMAR -> true;
            default -> false;
        };
    }

    /** In small letters without marks: an umlaut comes and goes with the ending. */
    public static String folded(String text, Locale locale) {
        String small = text.toLowerCase(locale);
        return small.chars().allMatch(c -> c < 0x80)
                ? small
                : MARKS.matcher(Normalizer.normalize(small, Normalizer.Form.NFD))
                        .replaceAll("");
    }
}
