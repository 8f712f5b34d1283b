package mellow.core.wordbook;

import java.util.List;

/**
 * A term of a source language with what was agreed for another one.
 *
 * @param term the term
 * @param text what to say, empty when nothing was agreed
 * @param avoid what not to say
 */
public record AgreedTerm(String term, String text, List<String> avoid) {

    public AgreedTerm {
        avoid = List.copyOf(avoid);
    }
}
