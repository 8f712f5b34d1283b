package mellow.core.format;

import java.util.List;
import mellow.core.language.LanguageTag;

/** A file as it was read: its entries in file order, decoded when asked for, so that a large file costs its bytes and a few numbers per value. */
public interface FileReading {

    /** The languages that have texts in the file, in file order; {@link FileEntry#texts} is parallel to it. */
    List<LanguageTag> languages();

    /** Number of entries; of keys typed twice only the last counts. */
    int size();

    /** The entry at {@code index}, 0-based in file order. */
    FileEntry entry(int index);

    /** What tells the entry at {@code index} from others; much cheaper than the entry. */
    EntryId id(int index);

    /** Which optional columns or fields the file has at all. */
    boolean has(Field field);

    /** What is wrong with the file. */
    List<Problem> problems();

    /** A way to write this file again with some values changed and every other byte as it was. */
    FilePatch patch();

    /** What a file may say about an entry beside its texts. */
    enum Field {
        CONTEXT,
        NOTE,
        REFERENCE,
        SECTION,
        LIMIT
    }
}
