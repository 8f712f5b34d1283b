package mellow.server.file;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Iterator;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import javax.imageio.IIOException;
import javax.imageio.ImageIO;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;
import mellow.core.asset.AssetKind;
import mellow.server.common.Refusal;

/** Recognises the pictures that people may be shown, by their content and never by their name. */
public final class Pictures {

    /** Enough for any screen; keeps the page of an entry quick. */
    public static final int LARGEST_BYTES = 5 * 1024 * 1024;

    /** A picture that unpacks to more than this would exhaust a browser. */
    static final long MOST_PIXELS = 40_000_000;

    private static final int WEBP_HEADER = 30;

    private Pictures() {}

    /**
     * A picture.
     *
     * @param kind PNG, JPEG or WebP
     * @param width in pixels
     * @param height in pixels
     */
    public record Picture(AssetKind kind, int width, int height) {

        /** image/png, image/jpeg or image/webp. */
        public String mediaType() {
            return kind.mediaType();
        }
    }

    /** Refuses a picture by its size alone. */
    public static void requireSize(long bytes) {
        if (bytes > LARGEST_BYTES) {
            throw Refusal.tooLarge("picture-too-large", "A picture may have at most 5 MB; make it smaller.");
        }
    }

    /**
     * What a picture is.
     *
     * @throws Refusal when it is none of PNG, JPEG and WebP, is broken, or too large
     */
    public static Picture of(byte[] content) {
        requireSize(content.length);
        return recognised(content)
                .orElseThrow(() -> Refusal.unacceptable(
                        "not-a-picture",
                        "A picture has to be a PNG, JPEG or WebP file, and this is none of them.",
                        Map.of()));
    }

    /**
     * What a picture of any size in bytes is; empty for what is none of PNG, JPEG and WebP.
     *
     * @throws Refusal when it is broken or has too many pixels
     */
    static Optional<Picture> recognised(byte[] content) {
        if (startsWith(content, 0, "RIFF") && startsWith(content, 8, "WEBP")) {
            return Optional.of(webp(content));
        }
        if (!startsWith(content, 0, "\u0089PNG") && !startsWith(content, 0, "\u00FF\u00D8\u00FF")) {
            return Optional.empty();
        }
        try (ImageInputStream in = ImageIO.createImageInputStream(new ByteArrayInputStream(content))) {
            Iterator<ImageReader> readers = ImageIO.getImageReaders(in);
            while (readers.hasNext()) {
                ImageReader reader = readers.next();
                String format = reader.getFormatName().toLowerCase(Locale.ROOT);
                if (format.equals("png") || format.equals("jpeg")) {
                    reader.setInput(in);
                    AssetKind kind = format.equals("png") ? AssetKind.PNG : AssetKind.JPEG;
                    Picture picture = new Picture(kind, reader.getWidth(0), reader.getHeight(0));
                    requirePixels((long) picture.width * picture.height);
                    decode(reader);
                    return Optional.of(picture);
                }
            }
        } catch (IOException | RuntimeException broken) {
            if (broken instanceof Refusal refusal) {
                throw refusal;
            }
            throw Refusal.unacceptable(
                    "broken-picture", "This picture is broken; save it again and take that file.", Map.of());
        }
        return Optional.empty();
    }

    /** Decoding it whole finds what a header does not tell. One at a time: each may unpack to 160 MB. */
    private static synchronized void decode(ImageReader reader) throws IOException {
        try {
            reader.read(0);
        } catch (IIOException failed) {
            // Inks instead of lights, as printers have them: browsers show it, and only this reader does not.
            if (!String.valueOf(failed.getMessage()).startsWith("Unsupported Image Type")) {
                throw failed;
            }
        } finally {
            reader.dispose();
        }
    }

    /** The first chunk of a WebP file tells its size (RFC 9649 §2.5 to §2.7). */
    private static Picture webp(byte[] content) {
        if (content.length < WEBP_HEADER) {
            throw Refusal.unacceptable(
                    "broken-picture", "This picture is broken; save it again and take that file.", Map.of());
        }
        long width;
        long height;
        if (startsWith(content, 12, "VP8X")) {
            width = 1 + little(content, 24, 3);
            height = 1 + little(content, 27, 3);
        } else if (startsWith(content, 12, "VP8L")) {
            long bits = little(content, 21, 4);
            width = 1 + (bits & 0x3FFF);
            height = 1 + (bits >> 14 & 0x3FFF);
        } else if (startsWith(content, 12, "VP8 ")) {
            width = little(content, 26, 2) & 0x3FFF;
            height = little(content, 28, 2) & 0x3FFF;
        } else {
            throw Refusal.unacceptable(
                    "broken-picture", "This picture is broken; save it again and take that file.", Map.of());
        }
        requirePixels(width * height);
        return new Picture(AssetKind.WEBP, (int) width, (int) height);
    }

    private static void requirePixels(long pixels) {
        if (pixels <= 0 || pixels > MOST_PIXELS) {
            throw Refusal.unacceptable(
                    "picture-too-large", "A picture may have at most 40 million pixels; make it smaller.", Map.of());
        }
    }

    private static boolean startsWith(byte[] content, int at, String letters) {
        byte[] wanted = letters.getBytes(StandardCharsets.ISO_8859_1);
        if (content.length < at + wanted.length) {
            return false;
        }
        for (int i = 0; i < wanted.length; i++) {
            if (content[at + i] != wanted[i]) {
                return false;
            }
        }
        return true;
    }

    private static long little(byte[] content, int at, int bytes) {
        long value = 0;
        for (int i = bytes - 1; i >= 0; i--) {
            value = value << 8 | (content[at + i] & 0xFF);
        }
        return value;
    }
}
