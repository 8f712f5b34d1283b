package mellow.core.fit;

import java.awt.Font;
import java.awt.FontFormatException;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.Set;

/**
 * A font file that was looked at: TrueType or OpenType (ISO/IEC 14496-22), by its first bytes and its tables.
 *
 * @param family its name for people
 * @param font at one pixel per em
 */
public record FontFile(String family, Font font) {

    /** Larger ones are not what products show texts with, and would be a weight on every check. */
    public static final int LARGEST_BYTES = 16 * 1024 * 1024;

    private static final int HEADER = 12;
    private static final int TABLE = 16;
    private static final Set<Integer> BEGINNINGS = Set.of(0x00010000, 0x4F54544F, 0x74727565);

    /** What is wrong with a file that is no font. */
    public static final class NoFont extends Exception {
        NoFont(String sentence, Throwable cause) {
            super(sentence, cause);
        }

        NoFont(String sentence) {
            super(sentence);
        }
    }

    /**
     * Reads a font file.
     *
     * @throws NoFont with a sentence for people, when it is too large, no font, or damaged
     */
    public static FontFile read(byte[] bytes) throws NoFont {
        if (bytes.length > LARGEST_BYTES) {
            throw new NoFont("The file has " + bytes.length / 1_048_576 + " MB; a font may have "
                    + LARGEST_BYTES / 1_048_576 + ".");
        }
        if (bytes.length < HEADER || !BEGINNINGS.contains(number(bytes, 0))) {
            throw new NoFont(
                    "This is no TTF or OTF font: a font begins with other bytes. Web fonts (WOFF) must be unpacked first.");
        }
        tables(bytes);
        try {
            Font font = Font.createFont(Font.TRUETYPE_FONT, new ByteArrayInputStream(bytes));
            if (font.getNumGlyphs() < 1 || !font.canDisplay(' ') && font.getNumGlyphs() < 2) {
                throw new NoFont("The font has no letters.");
            }
            return new FontFile(font.getFontName(), font);
        } catch (FontFormatException | IOException | RuntimeException damaged) {
            throw new NoFont("The font cannot be read; it seems to be damaged.", damaged);
        }
    }

    /** Each table must lie within the file: a reader of fonts is not made for files that lie about that. */
    private static void tables(byte[] bytes) throws NoFont {
        int count = (bytes[4] & 0xFF) << 8 | bytes[5] & 0xFF;
        if (HEADER + count * TABLE > bytes.length || count == 0) {
            throw new NoFont("The font breaks off in its list of tables.");
        }
        for (int i = 0; i < count; i++) {
            int at = HEADER + i * TABLE;
            long start = number(bytes, at + 8) & 0xFFFFFFFFL;
            long length = number(bytes, at + 12) & 0xFFFFFFFFL;
            if (start + length > bytes.length) {
                throw new NoFont("The font breaks off: a part of it lies beyond the end of the file.");
            }
        }
    }

    private static int number(byte[] bytes, int at) {
        return (bytes[at] & 0xFF) << 24
                | (bytes[at + 1] & 0xFF) << 16
                | (bytes[at + 2] & 0xFF) << 8
                | bytes[at + 3] & 0xFF;
    }
}
