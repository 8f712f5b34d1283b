package mellow.server.wordbook;

import java.util.Set;

/**
 * What was agreed on terms has changed; told in the transaction that changes it.
 *
 * @param person who changed it
 * @param source number of the language of the terms
 * @param words what sources with the terms have in them, as they were and as they are; an empty one for any source
 * @param languages numbers of the languages in which something else is agreed now
 */
public record WordsChanged(long person, int source, Set<String> words, Set<Integer> languages) {}
