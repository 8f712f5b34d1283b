package mellow.server.support;

import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import javax.imageio.ImageIO;

/** Small pictures and sounds, each of another content than those of other seeds. */
public final class AssetsMade {

    private static final int RATE = 8000;
    private static final int HEADER = 44;

    private AssetsMade() {}

    /** A picture of one colour. */
    public static byte[] png(int width, int height, int colour) {
        BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
        for (int x = 0; x < width; x++) {
            for (int y = 0; y < height; y++) {
                image.setRGB(x, y, colour);
            }
        }
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try {
            ImageIO.write(image, "png", out);
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        return out.toByteArray();
    }

    /** A tone of 8,000 samples a second, 16 bits each. */
    public static byte[] wav(int milliseconds, int pitch) {
        int samples = RATE / 1000 * milliseconds;
        ByteBuffer wave = ByteBuffer.allocate(HEADER + 2 * samples).order(ByteOrder.LITTLE_ENDIAN);
        wave.put("RIFF".getBytes(StandardCharsets.US_ASCII)).putInt(HEADER - 8 + 2 * samples);
        wave.put("WAVEfmt ".getBytes(StandardCharsets.US_ASCII))
                .putInt(16)
                .putShort((short) 1)
                .putShort((short) 1);
        wave.putInt(RATE).putInt(2 * RATE).putShort((short) 2).putShort((short) 16);
        wave.put("data".getBytes(StandardCharsets.US_ASCII)).putInt(2 * samples);
        for (int i = 0; i < samples; i++) {
            wave.putShort((short) (8000 * Math.sin(2 * Math.PI * pitch * i / RATE)));
        }
        return wave.array();
    }

    /** A drawing with something in it. */
    public static byte[] svg(int width, int height, String inside) {
        return ("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" + width + "\" height=\"" + height + "\">" + inside
                        + "</svg>")
                .getBytes(StandardCharsets.UTF_8);
    }
}
