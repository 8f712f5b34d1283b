package mellow.core.bundle;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.jna.Function;
import com.sun.jna.NativeLong;
import com.sun.jna.ptr.NativeLongByReference;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What is compressed is read by the decoder of another library. */
class BrotliTest {

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 1_000, 3_000_000})
    void whatWasCompressedIsTheSameAfterwards(int length) {
        byte[] noise = new byte[length];
        new Random(7).nextBytes(noise);
        byte[] words = "{\"ramp.up\":\"Ramppi ylös\"},"
                .repeat(length / 26 + 1)
                .substring(0, length)
                .getBytes(StandardCharsets.UTF_8);
        assertThat(unpacked(Brotli.packed(noise).orElseThrow(), length)).isEqualTo(noise);
        byte[] packed = Brotli.packed(words).orElseThrow();
        assertThat(unpacked(packed, words.length)).isEqualTo(words);
        if (length > 100) {
            assertThat(packed.length).isLessThan(length / 5);
        }
    }

    private static byte[] unpacked(byte[] packed, int length) {
        byte[] plain = new byte[length + 1];
        NativeLongByReference written = new NativeLongByReference(new NativeLong(plain.length));
        int done = Function.getFunction("libbrotlidec.so.1", "BrotliDecoderDecompress")
                .invokeInt(new Object[] {new NativeLong(packed.length), packed, written, plain});
        assertThat(done).isEqualTo(1);
        return Arrays.copyOf(plain, written.getValue().intValue());
    }
}
