package mellow.core.merge;

/** What can be done about a change that a file would bring; each {@link ChangeKind} allows some of them. */
public enum Choice {
    /** What the file says comes in. */
    TAKE,
    /** It becomes an offer beside what is in force. */
    OFFER,
    /** What is here stays. */
    KEEP,
    /** The file's source comes in, and it means something else than before. */
    CHANGED,
    /** The file's source comes in as a small fix: texts stay current. */
    FIX,
    /** The entry gets the new key; its texts and story move along. */
    RENAME,
    /** The entry of the new key comes in, the other stays. */
    BOTH,
    /** The entry of the new key comes in, the other is removed. */
    REPLACE,
    /** The entry is removed; it can be put back. */
    REMOVE,
    /** The removed entry comes back. */
    PUT_BACK,
    /** The text is taken away; it stays in the story. */
    CLEAR,
    /** The text stays in force, and is a draft again. */
    PENCIL
}
