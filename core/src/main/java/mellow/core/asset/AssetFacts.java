package mellow.core.asset;

/**
 * What a picture or sound is.
 *
 * @param kind its kind, told by its content
 * @param bytes its size
 * @param width of a picture in pixels; 0 for a sound, and for a drawing that has no size of its own
 * @param height the same
 * @param milliseconds how long a sound takes; 0 for a picture, and for a sound that does not tell
 */
public record AssetFacts(AssetKind kind, long bytes, int width, int height, long milliseconds) {

    /** A picture. */
    public static AssetFacts picture(AssetKind kind, long bytes, int width, int height) {
        return new AssetFacts(kind, bytes, width, height, 0);
    }

    /** A sound. */
    public static AssetFacts sound(AssetKind kind, long bytes, long milliseconds) {
        return new AssetFacts(kind, bytes, 0, 0, milliseconds);
    }
}
