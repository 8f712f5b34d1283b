package mellow.server.wordbook;

import java.util.Collection;
import java.util.Locale;
import java.util.Set;
import mellow.core.wordbook.WordForms;
import mellow.server.language.LanguageService;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;

/** Tells which sources a change of terms concerns. */
@Component
class TermNews {

    /** Looking for more words than that takes longer than looking at every source. */
    private static final int MOST_WORDS = 100;

    private final LanguageService languages;
    private final ApplicationEventPublisher events;

    TermNews(LanguageService languages, ApplicationEventPublisher events) {
        this.languages = languages;
        this.events = events;
    }

    /** What sources with some words have in them. */
    String[] beginnings(int source, Collection<String> words) {
        Locale locale = Locale.forLanguageTag(languages.tag(source).value());
        WordForms forms = WordForms.in(locale);
        return words.stream()
                .map(word -> forms.beginning(word, locale))
                .distinct()
                .toArray(String[]::new);
    }

    /** Tells that terms of a language are agreed otherwise in some others, in the transaction that changes them. */
    void tell(long person, int source, Collection<String> words, Collection<Integer> in) {
        if (source == LanguageService.NONE || in.isEmpty()) {
            return;
        }
        Set<String> beginnings = Set.of(beginnings(source, words));
        events.publishEvent(new WordsChanged(
                person, source, beginnings.size() > MOST_WORDS ? Set.of("") : beginnings, Set.copyOf(in)));
    }
}
