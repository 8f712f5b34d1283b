package mellow.core.format.charset;

import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;

/**
 * How the bytes of a text file spell characters.
 *
 * @param charset one of {@link #SUPPORTED}
 * @param byteOrderMark number of bytes of the byte-order mark at the start, 0 for none
 */
public record TextEncoding(Charset charset, int byteOrderMark) {

    /** Character sets in which ',' ';' TAB '"' CR and LF are units of their own, so that spans can be found without decoding. */
    public static final List<Charset> SUPPORTED = List.of(
            StandardCharsets.UTF_8,
            StandardCharsets.UTF_16LE,
            StandardCharsets.UTF_16BE,
            Charset.forName("windows-1252"),
            Charset.forName("windows-1250"),
            Charset.forName("windows-1251"),
            Charset.forName("windows-1253"),
            Charset.forName("windows-1254"),
            Charset.forName("windows-1256"),
            Charset.forName("windows-1257"),
            Charset.forName("ISO-8859-1"),
            Charset.forName("ISO-8859-2"),
            Charset.forName("ISO-8859-15"));

    public TextEncoding {
        if (!SUPPORTED.contains(charset)) {
            throw new IllegalArgumentException("unsupported character set " + charset);
        }
    }

    /** UTF-8 without a byte-order mark. */
    public static final TextEncoding UTF_8 = new TextEncoding(StandardCharsets.UTF_8, 0);

    /** Bytes of one unit: 2 for UTF-16, else 1. */
    public int unit() {
        return charset.equals(StandardCharsets.UTF_16LE) || charset.equals(StandardCharsets.UTF_16BE) ? 2 : 1;
    }

    /** The low byte's place in a unit: 1 for UTF-16BE, else 0. */
    public int lowByte() {
        return charset.equals(StandardCharsets.UTF_16BE) ? 1 : 0;
    }
}
