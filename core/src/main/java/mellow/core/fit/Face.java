package mellow.core.fit;

import com.ibm.icu.text.BreakIterator;
import com.ibm.icu.text.Normalizer2;
import java.awt.Font;
import java.awt.font.FontRenderContext;
import java.awt.font.GlyphVector;
import java.awt.font.TextAttribute;
import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.text.Bidi;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a product shows texts with: a font at a size, a character set, or both. Widths are those of shaped text, with kerning, ligatures, joined Arabic letters
 * and placed marks, as the JDK's HarfBuzz shapes it; lines break by UAX #14 with the habits of the language. Immutable.
 */
public final class Face {

    private static final FontRenderContext SMOOTH = new FontRenderContext(null, true, true);

    private final String name;
    private final @Nullable Font font;
    private final @Nullable Charset charset;

    private Face(String name, @Nullable Font font, @Nullable Charset charset) {
        this.name = name;
        this.font = font;
        this.charset = charset;
    }

    /**
     * A font at a size.
     *
     * @param name what people call it: "Ramp panel's font"
     * @param size in pixels per em
     */
    public static Face of(String name, FontFile file, float size) {
        return new Face(
                name,
                file.font()
                        .deriveFont(Map.of(
                                TextAttribute.SIZE,
                                size,
                                // As browsers and panels do; the JDK leaves both out unless it is asked.
                                TextAttribute.KERNING,
                                TextAttribute.KERNING_ON,
                                TextAttribute.LIGATURES,
                                TextAttribute.LIGATURES_ON)),
                null);
    }

    /** A product whose files hold only the letters of a character set. */
    public static Face of(String name, Charset charset) {
        return new Face(name, null, charset);
    }

    /**
     * A text in its lines.
     *
     * @param lines how many lines it takes
     * @param widest width of the widest line in whole pixels, rounded up
     * @param start where that line begins in the text, in UTF-16 units
     * @param end after its last unit
     */
    public record Laid(int lines, int widest, int start, int end) {}

    /** What people call it. */
    public String name() {
        return name;
    }

    /** Width in pixels of one line. */
    public double width(String line) {
        return font == null || line.isEmpty() ? 0 : advance(font, line);
    }

    private static double advance(Font font, String line) {
        char[] letters = line.toCharArray();
        if (!Bidi.requiresBidi(letters, 0, letters.length)) {
            return run(font, letters, 0, letters.length, Font.LAYOUT_LEFT_TO_RIGHT);
        }
        Bidi bidi = new Bidi(line, Bidi.DIRECTION_DEFAULT_LEFT_TO_RIGHT);
        double width = 0;
        for (int i = 0; i < bidi.getRunCount(); i++) {
            boolean rightToLeft = (bidi.getRunLevel(i) & 1) == 1;
            width += run(
                    font,
                    letters,
                    bidi.getRunStart(i),
                    bidi.getRunLimit(i),
                    rightToLeft ? Font.LAYOUT_RIGHT_TO_LEFT : Font.LAYOUT_LEFT_TO_RIGHT);
        }
        return width;
    }

    private static double run(Font font, char[] letters, int start, int end, int direction) {
        GlyphVector glyphs = font.layoutGlyphVector(SMOOTH, letters, start, end, direction);
        return glyphs.getGlyphPosition(glyphs.getNumGlyphs()).getX();
    }

    /**
     * Breaks a text into lines that are as full as they can be. A word that is wider than the place stands in a line of its own.
     *
     * @param width of the place in pixels
     * @param locale the text's language
     */
    public Laid lay(String text, int width, Locale locale) {
        if (font == null) {
            return new Laid(1, 0, 0, 0);
        }
        List<int[]> lines = broken(text, width, locale);
        double widest = -1;
        int[] line = {0, 0};
        for (int[] one : lines) {
            double wide = width(text.substring(one[0], one[1]));
            if (wide > widest) {
                widest = wide;
                line = one;
            }
        }
        return new Laid(lines.size(), (int) Math.ceil(widest - 0.01), line[0], line[1]);
    }

    /**
     * The lines of {@link #lay}, as they are drawn; one for each that the text itself has where there is no font.
     *
     * @param width of the place in pixels, 0 where nothing bounds it
     */
    public List<String> lines(String text, int width, Locale locale) {
        if (font == null || width == 0) {
            return text.lines().toList();
        }
        return broken(text, width, locale).stream()
                .map(line -> text.substring(line[0], line[1]))
                .toList();
    }

    private List<int[]> broken(String text, int width, Locale locale) {
        List<int[]> lines = new ArrayList<>();
        BreakIterator breaks = BreakIterator.getLineInstance(locale);
        int paragraph = 0;
        while (paragraph <= text.length()) {
            int end = text.indexOf('\n', paragraph);
            end = end < 0 ? text.length() : end;
            paragraph(text, paragraph, end, width, breaks, lines);
            paragraph = end + 1;
        }
        return lines;
    }

    private void paragraph(String text, int start, int end, int width, BreakIterator breaks, List<int[]> lines) {
        String words = text.substring(start, end);
        breaks.setText(words);
        int lineStart = 0;
        int lineEnd = 0;
        double filled = 0;
        int from = breaks.first();
        for (int to = breaks.next(); to != BreakIterator.DONE; to = breaks.next()) {
            int visible = trimmed(words, from, to);
            double piece = width(words.substring(from, visible));
            if (filled + piece > width && lineEnd > lineStart) {
                lines.add(new int[] {start + lineStart, start + lineEnd});
                lineStart = from;
                filled = 0;
            }
            lineEnd = visible;
            filled += visible == to ? piece : width(words.substring(from, to));
            from = to;
        }
        lines.add(new int[] {start + lineStart, start + lineEnd});
    }

    private static int trimmed(String text, int start, int end) {
        int at = end;
        while (at > start && Character.isWhitespace(text.charAt(at - 1))) {
            at--;
        }
        return at;
    }

    /** Where the first letter stands that cannot be shown; -1 when all can. */
    public int firstLacking(String text) {
        @Nullable CharsetEncoder encoder = charset == null ? null : charset.newEncoder();
        for (int at = 0; at < text.length(); ) {
            int letter = text.codePointAt(at);
            if (lacks(text, at, letter, encoder)) {
                return at;
            }
            at += Character.charCount(letter);
        }
        return -1;
    }

    /** The letters of a text that cannot be shown, in the order in which they first stand. */
    public Set<Integer> lacking(String text) {
        Set<Integer> lacking = new LinkedHashSet<>();
        @Nullable CharsetEncoder encoder = charset == null ? null : charset.newEncoder();
        for (int at = 0; at < text.length(); ) {
            int letter = text.codePointAt(at);
            if (lacks(text, at, letter, encoder)) {
                lacking.add(letter);
            }
            at += Character.charCount(letter);
        }
        return lacking;
    }

    private boolean lacks(String text, int at, int letter, @Nullable CharsetEncoder encoder) {
        if (letter >= ' ' && letter < 127 && font == null || unseen(letter)) {
            return false;
        }
        boolean here = (font == null || font.canDisplay(letter))
                && (encoder == null || encoder.canEncode(Character.toString(letter)));
        return !here && !composed(text, at, letter, encoder);
    }

    /** A mark that makes one letter with the one before it, where that letter can be shown. */
    private boolean composed(String text, int at, int letter, @Nullable CharsetEncoder encoder) {
        if (Character.getType(letter) != Character.NON_SPACING_MARK || at == 0) {
            return false;
        }
        int both = Normalizer2.getNFCInstance().composePair(text.codePointBefore(at), letter);
        return both >= 0
                && (font == null || font.canDisplay(both))
                && (encoder == null || encoder.canEncode(Character.toString(both)));
    }

    /** Control characters, marks of direction, joiners and selectors are not seen, whatever the font has. */
    private static boolean unseen(int letter) {
        return letter < ' '
                || (letter >= 0x7F && letter < 0xA0)
                || letter == 0xAD
                || (letter >= 0x200B && letter <= 0x200F)
                || (letter >= 0x2028 && letter <= 0x202E)
                || (letter >= 0x2060 && letter <= 0x206F)
                || (letter >= 0xFE00 && letter <= 0xFE0F)
                || letter == 0xFEFF;
    }
}
