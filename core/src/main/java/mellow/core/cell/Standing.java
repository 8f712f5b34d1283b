package mellow.core.cell;

/** How far the text in force has come. */
public enum Standing {
    /** There is no text in force. */
    NONE,
    /** A text that nobody put forward: a machine's, the memory's, a saved draft. */
    PENCILLED,
    /** A text that a reviewer put in force. */
    SETTLED
}
