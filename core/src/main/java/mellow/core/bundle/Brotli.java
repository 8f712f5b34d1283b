package mellow.core.bundle;

import com.sun.jna.Library;
import com.sun.jna.Memory;
import com.sun.jna.Native;
import com.sun.jna.NativeLong;
import com.sun.jna.ptr.NativeLongByReference;
import java.util.Optional;

/** Compresses by Brotli (RFC 7932), by the library that Debian has for it. */
public final class Brotli {

    /** Of 11: the last two steps take ten times as long for a few bytes. */
    private static final int QUALITY = 9;
    /** The largest window that every decoder must take (RFC 7932 §9.1), as an exponent of two. */
    private static final int WINDOW = 22;

    private static final int TEXT = 1;

    /** What is used of libbrotlienc; its numbers are as wide as size_t. */
    private interface Encoder extends Library {
        NativeLong BrotliEncoderMaxCompressedSize(NativeLong length);

        int BrotliEncoderCompress(
                int quality,
                int window,
                int mode,
                NativeLong length,
                byte[] from,
                NativeLongByReference written,
                Memory to);
    }

    /** Loaded when something is compressed first; a server without it does without. */
    private static final class Libraries {
        static final Optional<Encoder> ENCODER = loaded();

        private static Optional<Encoder> loaded() {
            try {
                return Optional.of(Native.load("libbrotlienc.so.1", Encoder.class));
            } catch (UnsatisfiedLinkError missing) {
                return Optional.empty();
            }
        }
    }

    private Brotli() {}

    /** The same, compressed; empty on a machine that has no such library (Debian's package libbrotli1). */
    public static Optional<byte[]> packed(byte[] plain) {
        return Libraries.ENCODER.map(encoder -> packed(encoder, plain));
    }

    private static byte[] packed(Encoder encoder, byte[] plain) {
        NativeLong most = encoder.BrotliEncoderMaxCompressedSize(new NativeLong(plain.length));
        try (Memory to = new Memory(most.longValue())) {
            NativeLongByReference written = new NativeLongByReference(most);
            int done = encoder.BrotliEncoderCompress(
                    QUALITY, WINDOW, TEXT, new NativeLong(plain.length), plain, written, to);
            if (done == 0) {
                throw new IllegalStateException(plain.length + " bytes could not be compressed.");
            }
            return to.getByteArray(0, written.getValue().intValue());
        }
    }
}
