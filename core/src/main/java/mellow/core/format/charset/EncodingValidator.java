package mellow.core.format.charset;

import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;

/** Makes sure that every byte of a file is a character, so that no letter is lost without a word. */
public final class EncodingValidator {

    private EncodingValidator() {}

    /**
     * Checks {@code bytes} against {@code encoding} in one pass, without keeping the decoded text.
     *
     * @param check whether they are UTF-8, as found before
     *
     * @throws mellow.core.format.UnreadableFileException naming line, column and offset of the first byte that is no character, or of a NUL in UTF-16
     */
    public static void validate(byte[] bytes, TextEncoding encoding, Utf8Check check, Problems problems) {
        int invalid = firstInvalid(bytes, encoding, check);
        if (invalid >= 0) {
            String hex = HexFormat.of().withUpperCase().toHexDigits(bytes[invalid]);
            throw problems.refuse(
                    place(bytes, invalid, encoding),
                    "the byte " + hex + " at offset " + invalid + " is no character in "
                            + encoding.charset().name(),
                    "text in " + encoding.charset().name()
                            + " throughout; choose another character set or mend the file");
        }
        int nul = encoding.unit() == 1 ? -1 : firstNul(bytes, encoding);
        if (nul >= 0) {
            throw nul(bytes, nul, encoding, problems);
        }
    }

    /** The refusal of a file for the NUL character at {@code offset}; in one-byte sets whoever scans the file meets it. */
    public static UnreadableFileException nul(byte[] bytes, int offset, TextEncoding encoding, Problems problems) {
        return problems.refuse(
                place(bytes, offset, encoding),
                "a NUL character at offset " + offset,
                "text; this looks like a binary file");
    }

    private static int firstInvalid(byte[] bytes, TextEncoding encoding, Utf8Check check) {
        if (encoding.charset().equals(StandardCharsets.UTF_8)) {
            return check.firstInvalid();
        }
        CharsetDecoder decoder = encoding.charset()
                .newDecoder()
                .onMalformedInput(CodingErrorAction.REPORT)
                .onUnmappableCharacter(CodingErrorAction.REPORT);
        ByteBuffer in = ByteBuffer.wrap(bytes);
        CharBuffer out = CharBuffer.allocate(8192);
        while (true) {
            CoderResult result = decoder.decode(in, out, true);
            if (result.isError()) {
                return in.position();
            }
            if (result.isUnderflow()) {
                return -1;
            }
            out.clear();
        }
    }

    private static int firstNul(byte[] bytes, TextEncoding encoding) {
        int unit = encoding.unit();
        for (int i = encoding.byteOrderMark(); i + unit <= bytes.length; i += unit) {
            if (bytes[i] == 0 && bytes[i + 1] == 0) {
                return i;
            }
        }
        return -1;
    }

    /** The place of the byte at {@code offset}; counting lines costs a pass, so it is done only to report a problem. */
    public static Position place(byte[] bytes, int offset, TextEncoding encoding) {
        int unit = encoding.unit();
        int low = encoding.lowByte();
        int line = 1;
        int lineStart = encoding.byteOrderMark();
        for (int i = encoding.byteOrderMark(); i + unit <= offset; i += unit) {
            boolean ascii = unit == 1 || bytes[i + 1 - low] == 0;
            boolean lf = ascii && bytes[i + low] == '\n';
            boolean cr =
                    ascii && bytes[i + low] == '\r' && !(i + 2 * unit <= bytes.length && bytes[i + unit + low] == '\n');
            if (lf || cr) {
                line++;
                lineStart = i + unit;
            }
        }
        String before = new String(bytes, lineStart, Math.max(0, offset - lineStart), encoding.charset());
        return new Position(line, before.length() + 1, offset);
    }
}
