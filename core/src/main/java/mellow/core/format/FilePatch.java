package mellow.core.format;

import java.io.IOException;
import java.io.OutputStream;

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

    /** Writes the file with all changes made so far. */
    void writeTo(OutputStream out) throws IOException;
}
