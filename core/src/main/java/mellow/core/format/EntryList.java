package mellow.core.format;

import java.util.List;
import java.util.Optional;
import mellow.core.language.LanguageTag;

/** Entries in an order, in some languages: what a file was read as, and what a fresh file is written from. */
public interface EntryList {

    /** The languages that have texts, in order; {@link FileEntry#texts} is parallel to it. */
    List<LanguageTag> languages();

    /** The language that texts are translated from, when it is known; one of {@link #languages}. */
    Optional<LanguageTag> sourceLanguage();

    /** Number of entries. */
    int size();

    /** The entry at {@code index}, 0-based. */
    FileEntry entry(int index);

    /** A list held in memory. */
    static EntryList of(Optional<LanguageTag> source, List<LanguageTag> languages, List<FileEntry> entries) {
        return new Held(List.copyOf(languages), source, List.copyOf(entries));
    }

    /**
     * A list held in memory.
     *
     * @param languages its languages
     * @param sourceLanguage which of them is the source
     * @param entries its entries
     */
    record Held(List<LanguageTag> languages, Optional<LanguageTag> sourceLanguage, List<FileEntry> entries)
            implements EntryList {

        @Override
        public int size() {
            return entries.size();
        }

        @Override
        public FileEntry entry(int index) {
            return entries.get(index);
        }
    }
}
