package mellow.core.format;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import mellow.core.language.LanguageTag;

/** A format of files. Implementations are immutable; all state of a call is in what it returns. */
public interface FileFormat {

    /** What is known of it without looking into a file. */
    Traits traits();

    /** Its name in options and in what {@code inspect} prints, such as "po". */
    default String name() {
        return traits().name();
    }

    /**
     * How surely a file is of this format.
     *
     * @param sample what the file looks like
     * @return 0 for no to 100 for no doubt; over 50 for evidence in the content, up to 50 for the name alone
     */
    int likelihood(Sample sample);

    /**
     * Reads a file.
     *
     * @param file its name, for sentences and for what a name tells
     * @param bytes its content, kept by the result and not copied
     * @throws UnreadableFileException when it cannot be read; nothing is kept
     */
    FileReading read(String file, byte[] bytes, ReadOptions options);

    /**
     * Writes a new file.
     *
     * @param entries what to write
     * @throws UnwritableTextException when the format cannot hold a text or a shape
     */
    void write(EntryList entries, OutputStream out) throws IOException;

    /** What a fresh file has a place for; the rest of what the record says is not in it. */
    Set<Aspect> keeps();

    /**
     * The plural forms that a fresh file has places for; empty when it has them for all.
     *
     * @param source whether it is about the sources
     */
    default Optional<Set<String>> forms(LanguageTag language, boolean source) {
        return Optional.empty();
    }

    /**
     * Why a fresh file cannot hold an entry at all, as a sentence; empty when it can.
     *
     * @param all what the entry is one of
     */
    default Optional<String> against(FileEntry entry, EntryList all) {
        try {
            write(EntryList.of(all.sourceLanguage(), all.languages(), List.of(entry)), OutputStream.nullOutputStream());
            return Optional.empty();
        } catch (UnwritableTextException refused) {
            return Optional.of(String.valueOf(refused.getMessage()));
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
    }

    /** Whether a file holds texts in one language only, beside sources at most, so that each language has a file of its own. */
    default boolean apart() {
        return traits().languages() != Traits.Languages.MANY;
    }

    /** Whether a file holds sources and one translation of each, rather than texts in any number of languages. */
    default boolean bilingual() {
        return traits().languages() == Traits.Languages.PAIR;
    }

    /**
     * The beginning of a file, for detection.
     *
     * @param name its name without folders, in lower case
     * @param path its whole name as given
     * @param bytes its first bytes
     * @param text the same as characters, decoded leniently, without a byte-order mark
     */
    record Sample(String name, String path, byte[] bytes, String text) {

        /** Whether the name ends with one of {@code endings}. */
        public boolean named(String... endings) {
            for (String ending : endings) {
                if (name.endsWith(ending)) {
                    return true;
                }
            }
            return false;
        }
    }
}
