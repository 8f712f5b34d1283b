package mellow.core.format;

import java.io.IOException;
import java.io.OutputStream;
import java.util.List;
import mellow.core.language.LanguageTag;

/** Changes to a file that was read, written in place: every byte that belongs to no changed value is copied. Not thread-safe. */
public interface FilePatch {

    /**
     * Replaces a text.
     *
     * @param entry index of the entry in its {@link FileReading}
     * @param language index of the language in {@link FileReading#languages}
     * @param text the new text, {@link FileText#NONE} to leave the place empty; its state is written where the format has a place for it
     * @throws UnwritableTextException when the file's character set cannot spell it
     */
    void set(int entry, int language, FileText text);

    /** Replaces a plain text; empty to leave the place empty. */
    default void set(int entry, int language, String text) {
        set(entry, language, FileText.plain(text));
    }

    /** Leaves the entry at {@code entry} out, with its lines and comments. */
    void remove(int entry);

    /**
     * Adds an entry.
     *
     * @param after index of the entry it follows, -1 for the end of the file
     * @param added the entry; {@code texts} parallel to the file's languages
     */
    void insert(int after, FileEntry added);

    /**
     * Makes it a file of another language, where the file itself names one: at its root, in its header, in an attribute.
     *
     * @param spelled the language as paths beside the file spell theirs
     */
    default void rename(LanguageTag language, String spelled) {}

    /** Follows the habits of other files of its set where the file itself shows none. */
    default void like(List<FileReading> siblings) {}

    /** Writes the file with all changes made so far. */
    void writeTo(OutputStream out) throws IOException;
}
