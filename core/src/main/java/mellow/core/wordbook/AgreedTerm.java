package mellow.core.wordbook;

import java.util.List;

/**
 * A term of a source language with what was agreed for another one.
 *
 * @param term the term
 * @param text what to say, empty when nothing was agreed
 * @param avoid what not to say
 * @param forms what may be said as well, and forms of the text that no rule reaches
 * @param termForms how the term reads in sources as well
 */
public record AgreedTerm(String term, String text, List<String> avoid, List<String> forms, List<String> termForms) {

    public AgreedTerm {
        avoid = List.copyOf(avoid);
        forms = List.copyOf(forms);
        termForms = List.copyOf(termForms);
    }

    /** One without further forms. */
    public AgreedTerm(String term, String text, List<String> avoid) {
        this(term, text, avoid, List.of(), List.of());
    }
}
