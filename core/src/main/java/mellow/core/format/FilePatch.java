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
     * @param text the new text, empty to leave the place empty
     * @throws UnwritableTextException when the file's character set cannot spell it
     */
    void set(int entry, int language, String text);

    /** Leaves the entry at {@code entry} out, with its line. */
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
