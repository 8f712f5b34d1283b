package mellow.server.rehearsal;

/** What scenes are played with. */
public enum Play {
    /** What is written, settled or not. */
    WRITTEN,
    /** What is written, and the newest offer in place of it where one waits. */
    OFFERED,
    /** What is settled, as it would be delivered. */
    SETTLED,
    /** What the last delivery has. */
    DELIVERED,
    /** Keys instead of texts. */
    KEYS
}
