package mellow.core.format;

import java.util.List;

/** A file as it was read: its entries in file order, decoded when asked for where that saves memory. */
public interface FileReading extends EntryList {

    /** What tells the entry at {@code index} from others; much cheaper than the entry. */
    EntryId id(int index);

    /** Which optional columns or fields the file has at all. */
    boolean has(Field field);

    /** What is wrong with the file. */
    List<Problem> problems();

    /** The name of its character set, such as "UTF-8". */
    String charset();

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
