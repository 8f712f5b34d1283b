package mellow.core.asset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;

/** Sounds tell their length in every habit of the programs that write them, and broken ones say so. */
class SoundsTest {

    private static byte[] joined(byte[]... parts) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        for (byte[] part : parts) {
            out.writeBytes(part);
        }
        return out.toByteArray();
    }

    private static byte[] ascii(String letters) {
        return letters.getBytes(StandardCharsets.ISO_8859_1);
    }

    private static byte[] little(long value, int bytes) {
        return Arrays.copyOf(
                ByteBuffer.allocate(8)
                        .order(ByteOrder.LITTLE_ENDIAN)
                        .putLong(value)
                        .array(),
                bytes);
    }

    private static byte[] wave(long dataLength, int samples) {
        return joined(
                ascii("RIFF"),
                little(36 + 2L * samples, 4),
                ascii("WAVEfmt "),
                little(16, 4),
                little(1, 2),
                little(1, 2),
                little(8000, 4),
                little(16_000, 4),
                little(2, 2),
                little(16, 2),
                ascii("LIST"),
                little(3, 4),
                ascii("abc\0"),
                ascii("data"),
                little(dataLength, 4),
                new byte[2 * samples]);
    }

    private static byte[] page(int serial, long position, byte[] body) {
        return joined(
                ascii("OggS\0\0"),
                little(position, 8),
                little(serial, 4),
                new byte[8],
                new byte[] {(byte) (body.length / 255 + 1)},
                filled(body.length / 255, 255),
                new byte[] {(byte) (body.length % 255)},
                body);
    }

    private static byte[] filled(int length, int value) {
        byte[] all = new byte[length];
        Arrays.fill(all, (byte) value);
        return all;
    }

    private static byte[] vorbisHead(int rate) {
        return joined(ascii("\u0001vorbis"), new byte[5], little(rate, 4), new byte[14]);
    }

    /** Frames of MPEG 1 layer III at 128 kbit/s and 44,100 Hz: 417 bytes and 1,152 samples each. */
    private static byte[] frames(int number, String inFirst) {
        byte[] frame = new byte[417];
        frame[0] = (byte) 0xFF;
        frame[1] = (byte) 0xFB;
        frame[2] = (byte) 0x90;
        byte[] all = new byte[417 * number];
        for (int i = 0; i < number; i++) {
            System.arraycopy(frame, 0, all, 417 * i, frame.length);
        }
        System.arraycopy(ascii(inFirst), 0, all, 4 + 32, inFirst.length());
        return all;
    }

    private static AssetFacts of(byte[] content) {
        return Sounds.of(content).orElseThrow();
    }

    @Test
    void aWaveIsAsLongAsItsDataAtItsSpeed() {
        assertThat(of(wave(2 * 12_000, 12_000)).milliseconds()).isEqualTo(1500);
        assertThat(of(wave(2 * 12_000, 12_000)).kind()).isEqualTo(AssetKind.WAV);
        assertThat(of(wave(0xFFFFFFFFL, 4_000)).milliseconds())
                .as("written as it came, its length never filled in")
                .isEqualTo(500);
        assertThat(of(wave(0, 4_000)).milliseconds()).isEqualTo(500);
    }

    @Test
    void aWaveThatIsCutOrEmptySaysSo() {
        assertThatThrownBy(() -> of(wave(50_000, 100)))
                .isInstanceOf(BrokenAssetException.class)
                .hasMessageContaining("ends before");
        assertThatThrownBy(() -> of(Arrays.copyOf(wave(200, 100), 40))).hasMessageContaining("no sound");
        byte[] still = wave(200, 100);
        Arrays.fill(still, 28, 32, (byte) 0);
        assertThatThrownBy(() -> of(still)).hasMessageContaining("how fast");
    }

    @Test
    void anOggIsAsLongAsTheLastPageOfItsFirstStream() {
        byte[] vorbis = joined(
                page(7, 0, vorbisHead(22_050)),
                page(9, 999_999_999, new byte[10]),
                page(7, 22_050, new byte[300]),
                page(7, 55_125, new byte[5]),
                page(7, -1, new byte[20]));
        assertThat(of(vorbis)).isEqualTo(new AssetFacts(AssetKind.OGG, vorbis.length, 0, 0, 2500));
        byte[] opus = joined(
                page(1, 0, joined(ascii("OpusHead\u0001\u0001"), little(312, 2), little(44_100, 4), new byte[3])),
                page(1, 48_312, new byte[5]));
        assertThat(of(opus).milliseconds())
                .as("always in 48,000ths of a second, without what is played for nobody")
                .isEqualTo(1000);
    }

    @Test
    void anOggThatIsCutOrOfAnotherKindSaysSo() {
        byte[] whole = joined(page(7, 0, vorbisHead(22_050)), page(7, 22_050, new byte[300]));
        assertThatThrownBy(() -> of(Arrays.copyOf(whole, whole.length - 10))).hasMessageContaining("ends before");
        assertThatThrownBy(() -> of(page(7, 0, ascii("fishead\0 a picture that moves"))))
                .hasMessageContaining("neither Vorbis nor Opus");
        assertThatThrownBy(() -> of(ascii("OggS"))).hasMessageContaining("ends before");
        assertThatThrownBy(() -> of(joined(page(7, 0, vorbisHead(8)), page(7, Long.MAX_VALUE / 2, new byte[3]))))
                .hasMessageContaining("takes weeks");
    }

    @Test
    void anMp3IsAsLongAsItsFramesWhateverStandsAroundThem() {
        long hundred = 100 * 1152 * 1000L / 44_100;
        assertThat(of(frames(100, "")).milliseconds()).isEqualTo(hundred);
        assertThat(of(frames(101, "Xing")).milliseconds())
                .as("the first only tells of the others")
                .isEqualTo(hundred);
        byte[] told = joined(
                ascii("ID3\u0004\0\0\0\0\u0001\u0000"), new byte[128], frames(100, ""), ascii("TAG"), new byte[125]);
        assertThat(of(told)).isEqualTo(new AssetFacts(AssetKind.MP3, told.length, 0, 0, hundred));
    }

    @Test
    void whatIsNoSoundIsNone() {
        assertThat(Sounds.of(new byte[0])).isEmpty();
        assertThat(Sounds.of(ascii("RIFF....WEBPVP8 "))).isEmpty();
        assertThat(Sounds.of(ascii("a text"))).isEmpty();
        byte[] one = {(byte) 0xFF, (byte) 0xFB, (byte) 0x90, 0, 1, 2, 3, 4};
        assertThat(Sounds.of(joined(one, new byte[900])))
                .as("a frame that nothing follows")
                .isEmpty();
        assertThatThrownBy(() -> of(joined(ascii("ID3\u0004\0\0\0\0\0\0"), new byte[50])))
                .hasMessageContaining("no sound");
    }

    @Test
    void noiseIsLookedThroughOnce() {
        byte[] noise = new byte[20_000_000];
        new Random(7).nextBytes(noise);
        byte[] begun = joined(ascii("ID3\u0004\0\0\0\0\0\0"), filled(20_000_000, 0xFF));
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> {
            Sounds.of(noise);
            assertThatThrownBy(() -> of(begun)).isInstanceOf(BrokenAssetException.class);
        });
    }

    @Test
    void kindsAreNamedByTheirEndings() {
        assertThat(AssetKind.named("A/B.JPG")).contains(AssetKind.JPEG);
        assertThat(AssetKind.named("hello.opus")).contains(AssetKind.OGG);
        assertThat(AssetKind.named("hello.txt")).isEmpty();
        assertThat(AssetKind.named("png")).isEmpty();
        assertThat(AssetKind.of("webp")).contains(AssetKind.WEBP);
        assertThat(AssetKind.SVG.sound()).isFalse();
        assertThat(AssetKind.WAV.sound()).isTrue();
    }
}
