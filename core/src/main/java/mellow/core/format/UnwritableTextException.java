package mellow.core.format;

/** A text or an entry that a file cannot hold; nothing was written. */
public final class UnwritableTextException extends RuntimeException {

    /**
     * Names what does not fit.
     *
     * @param key the entry's key
     * @param character the first character that has no spelling
     * @param charset the file's character set
     */
    public UnwritableTextException(String key, String character, String charset) {
        super("The text of " + key + " has the character \u201c" + character + "\u201d, which " + charset
                + " cannot spell; export it fresh as UTF-8 instead, or change the text.");
    }

    /** Says in one sentence what does not fit and what to do. */
    public UnwritableTextException(String sentence) {
        super(sentence);
    }
}
