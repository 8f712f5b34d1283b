package mellow.core.scene;

import java.nio.charset.StandardCharsets;
import java.util.Base64;

/** A picture of a screen as a drawing, on which places can be marked: the same thing as a drawing in every other way. */
public final class ScenePicture {

    private ScenePicture() {}

    /**
     * A drawing that is nothing but a picture.
     *
     * @param mediaType image/png, image/jpeg or image/webp
     * @param width in pixels
     * @param height in pixels
     * @return SVG, for {@link SceneReader}
     */
    public static byte[] drawing(byte[] picture, String mediaType, int width, int height) {
        return ("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 " + width + " " + height
                        + "\"><image data-picture=\"marked\" width=\"" + width + "\" height=\"" + height
                        + "\" href=\"data:" + mediaType + ";base64,"
                        + Base64.getEncoder().encodeToString(picture) + "\"/></svg>")
                .getBytes(StandardCharsets.US_ASCII);
    }
}
