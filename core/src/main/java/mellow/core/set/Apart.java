package mellow.core.set;

import org.jspecify.annotations.Nullable;

/**
 * A file that is part of no set.
 *
 * @param path its path
 * @param why what keeps it apart
 * @param of what the reason is about: a pattern or another file; null for none
 */
public record Apart(String path, Why why, @Nullable String of) {

    /** What keeps a file apart. */
    public enum Why {
        /** It cannot be read, and its name fits no set. */
        UNREADABLE,
        /** It has no texts, and its name fits no set. */
        NO_TEXTS,
        /** Nothing tells its language, and no other language of it is there. */
        ALONE,
        /** The others of its name pattern are of another format. */
        OTHER_FORMAT,
        /** It has its name pattern in common with others, and hardly a key. */
        OTHER_KEYS,
        /** There is another file of that language in the set. */
        SAME_LANGUAGE
    }
}
