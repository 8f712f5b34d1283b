package mellow.core.asset;

/** A file that begins like a picture or sound and is none; its message says in a sentence what is wrong. */
public final class BrokenAssetException extends RuntimeException {

    private static final long serialVersionUID = 1L;

    BrokenAssetException(String sentence) {
        super(sentence);
    }
}
