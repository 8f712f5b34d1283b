package mellow.core.format.source;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.HexFormat;
import mellow.core.format.Limits;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.charset.EncodingDetector;
import org.jspecify.annotations.Nullable;

/**
 * A text file: its bytes, and the same as characters without the byte-order mark. Offsets are in UTF-16 units of {@link #text}, 0-based. Not
 * thread-safe: lines and byte offsets are counted when they are first asked for.
 */
public final class SourceText {

    private static final int COUNTED_AT_ONCE = 1 << 16;

    private final byte[] bytes;
    private final Charset charset;
    private final int mark;
    private final String text;
    private final Problems problems;
    private int[] lineStarts = new int[0];
    private int knownChar;
    private int knownByte;

    private SourceText(byte[] bytes, Charset charset, int mark, String text, Problems problems) {
        this.bytes = bytes;
        this.charset = charset;
        this.mark = mark;
        this.text = text;
        this.problems = problems;
        this.knownByte = mark;
    }

    /**
     * Refuses a file that is over the limit or empty.
     *
     * @param expected what the format wants of an empty file
     */
    public static void checkSize(byte[] bytes, Limits limits, Problems problems, String expected) {
        if (bytes.length > limits.bytes()) {
            throw problems.refuse(
                    Position.WHOLE_FILE,
                    "the file has " + bytes.length / (1024 * 1024) + " MB",
                    "at most " + limits.bytes() / (1024 * 1024) + " MB; split it into smaller files");
        }
        if (bytes.length == 0) {
            throw problems.refuse(Position.WHOLE_FILE, "the file is empty", expected);
        }
    }

    /**
     * The text of a file in a Unicode encoding: as somebody chose, as its first bytes tell, else UTF-8.
     *
     * @param expected what the format wants of an empty file
     * @throws UnreadableFileException when it is empty, over a limit, or no text
     */
    public static SourceText read(String file, byte[] bytes, ReadOptions options, String expected) {
        Problems problems = new Problems(file);
        checkSize(bytes, options.limits(), problems, expected);
        return decode(bytes, options.charset().orElseGet(() -> charsetOf(bytes, StandardCharsets.UTF_8)), problems);
    }

    /** The character set of a byte-order mark or of UTF-16's zero bytes, else {@code otherwise}. */
    public static Charset charsetOf(byte[] bytes, Charset otherwise) {
        return EncodingDetector.byteOrderMark(bytes)
                .map(marked -> marked.charset())
                .or(() -> EncodingDetector.utf16(bytes).map(wide -> wide.charset()))
                .orElse(otherwise);
    }

    /**
     * Decodes a file strictly.
     *
     * @throws UnreadableFileException at the first byte that is no character of {@code charset}, or at a NUL
     */
    public static SourceText decode(byte[] bytes, Charset charset, Problems problems) {
        int mark = EncodingDetector.byteOrderMark(bytes)
                .filter(found -> found.charset().equals(charset))
                .map(found -> found.byteOrderMark())
                .orElse(0);
        SourceText source = fast(bytes, charset, mark, problems);
        if (source == null) {
            source = strict(bytes, charset, mark, problems);
        }
        int nul = source.text.indexOf('\0');
        if (nul >= 0) {
            throw source.refuse(nul, "a NUL character", "text; this looks like a binary file");
        }
        return source;
    }

    /** The library's own decoding is several times faster, and shows by U+FFFD that something was no character or stood there as such. */
    private static @Nullable SourceText fast(byte[] bytes, Charset charset, int mark, Problems problems) {
        if (!charset.equals(StandardCharsets.UTF_8)) {
            return null;
        }
        String text = new String(bytes, mark, bytes.length - mark, charset);
        return text.indexOf('\uFFFD') < 0 ? new SourceText(bytes, charset, mark, text, problems) : null;
    }

    private static SourceText strict(byte[] bytes, Charset charset, int mark, Problems problems) {
        CharsetDecoder decoder = charset.newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT);
        ByteBuffer in = ByteBuffer.wrap(bytes, mark, bytes.length - mark);
        StringBuilder text = new StringBuilder(bytes.length - mark);
        CharBuffer out = CharBuffer.allocate(Math.max(16, Math.min(1 << 16, bytes.length)));
        CoderResult result;
        do {
            result = decoder.decode(in, out, true);
            out.flip();
            text.append(out);
            out.clear();
        } while (result.isOverflow());
        SourceText source = new SourceText(bytes, charset, mark, text.toString(), problems);
        if (result.isError()) {
            String hex = HexFormat.of().withUpperCase().toHexDigits(bytes[in.position()]);
            Position place = source.at(text.length());
            throw problems.refuse(
                    new Position(place.line(), place.column(), in.position()),
                    "the byte " + hex + " at offset " + in.position() + " is no character in " + charset.name(),
                    "text in " + charset.name() + " throughout; choose another character set or mend the file");
        }
        return source;
    }

    /** All characters, without the byte-order mark. */
    public String text() {
        return text;
    }

    /** The character set it was decoded with. */
    public Charset charset() {
        return charset;
    }

    /** The bytes it came from; not to be changed. */
    byte[] bytes() {
        return bytes;
    }

    int mark() {
        return mark;
    }

    /** Where problems of this file go. */
    public Problems problems() {
        return problems;
    }

    /** The line of a character, 1-based. */
    public int line(int offset) {
        if (lineStarts.length == 0) {
            lineStarts = findLines();
        }
        int found = Arrays.binarySearch(lineStarts, offset);
        return found >= 0 ? found + 1 : -found - 1;
    }

    /** Where a character is. */
    public Position at(int offset) {
        int line = line(offset);
        return new Position(line, offset - lineStarts[line - 1] + 1, byteOffset(offset));
    }

    private int[] findLines() {
        int[] starts = new int[1 + text.length() / 40];
        int count = 1;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c == '\n' || (c == '\r' && (i + 1 == text.length() || text.charAt(i + 1) != '\n'))) {
                if (count == starts.length) {
                    starts = Arrays.copyOf(starts, 2 * count);
                }
                starts[count++] = i + 1;
            }
        }
        return Arrays.copyOf(starts, count);
    }

    /** Bytes before a character. Problems come in file order, so counting goes on from the last one asked for. */
    private int byteOffset(int offset) {
        if (offset < knownChar) {
            knownChar = 0;
            knownByte = mark;
        }
        int from = knownChar;
        while (from < offset) {
            // In pieces, so that a large file is not held once more.
            int to = Math.min(offset, from + COUNTED_AT_ONCE);
            if (to < offset && Character.isHighSurrogate(text.charAt(to - 1))) {
                to--;
            }
            knownByte += charset.equals(StandardCharsets.UTF_16LE) || charset.equals(StandardCharsets.UTF_16BE)
                    ? 2 * (to - from)
                    : text.substring(from, to).getBytes(charset).length;
            from = to;
        }
        knownChar = offset;
        return knownByte;
    }

    /** Notes something that reading got over. */
    public void warn(int offset, String found, String madeOfIt) {
        problems.warn(at(offset), found, madeOfIt);
    }

    /** The exception that refuses the file. */
    public UnreadableFileException refuse(int offset, String found, String expected) {
        return problems.refuse(at(offset), found, expected);
    }

    /** Refuses the file at the entry that is one too many. */
    public void checkCount(int count, int offset, Limits limits) {
        if (count > limits.entries()) {
            throw refuse(offset, "more than " + limits.entries() + " entries", "at most that many; split the file");
        }
    }

    /** Refuses a text that is longer than the limit, in characters. */
    public void checkLength(int start, int end, Limits limits) {
        if (end - start > limits.textBytes()) {
            throw refuse(
                    start,
                    "a text of more than " + limits.textBytes() + " characters",
                    "shorter texts; this is the limit for one text");
        }
    }

    /** The line end that the file uses first, LF when it has one line. */
    public String lineEnd() {
        int lf = text.indexOf('\n');
        if (lf < 0) {
            return text.indexOf('\r') >= 0 ? "\r" : "\n";
        }
        return lf > 0 && text.charAt(lf - 1) == '\r' ? "\r\n" : "\n";
    }

    /** The first offset of the line that {@code offset} is in. */
    public int lineStart(int offset) {
        return lineStarts(line(offset));
    }

    /** The first offset after the line that {@code offset} is in, its line end included. */
    public int lineAfter(int offset) {
        int line = line(offset);
        return line < lineStarts.length ? lineStarts[line] : text.length();
    }

    private int lineStarts(int line) {
        return lineStarts[line - 1];
    }

    /** A way to write the file again with some characters replaced. */
    public Splice splice() {
        return new Splice(this);
    }
}
