package mellow.core.asset;

import java.nio.charset.StandardCharsets;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Tells how long sounds take, from their headers and without decoding them. Takes time linear in the file. */
public final class Sounds {

    private static final int MILLIS = 1000;
    private static final int PAGE_HEADER = 27;
    private static final int OPUS_RATE = 48_000;
    private static final int ID3_HEADER = 10;
    private static final int MPEG_HEADER = 4;
    private static final int RIFF_HEADER = 12;
    private static final int CHUNK_HEADER = 8;
    private static final long LONGEST_SECONDS = 1_000_000;

    /** Kilobits a second of layer III by index, of MPEG 1 and of MPEG 2 and 2.5 (ISO/IEC 11172-3 §2.4.2.3, 13818-3). */
    private static final int[][] BIT_RATES = {
        {0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320},
        {0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160}
    };

    private static final int[] RATES = {44_100, 48_000, 32_000};

    private final byte[] content;

    private Sounds(byte[] content) {
        this.content = content;
    }

    /**
     * What a sound is; empty for what begins like none.
     *
     * @throws BrokenAssetException when it ends too soon or contradicts itself
     */
    public static Optional<AssetFacts> of(byte[] content) {
        Sounds sound = new Sounds(content);
        if (sound.has(0, "RIFF") && sound.has(8, "WAVE")) {
            return Optional.of(AssetFacts.sound(AssetKind.WAV, content.length, sound.wave()));
        }
        if (sound.has(0, "OggS")) {
            return Optional.of(AssetFacts.sound(AssetKind.OGG, content.length, sound.ogg()));
        }
        int first = sound.id3();
        if (first > 0 || sound.frame(0) != null) {
            return Optional.of(AssetFacts.sound(AssetKind.MP3, content.length, sound.mpeg(first)));
        }
        return Optional.empty();
    }

    /** The chunks "fmt " and "data"; a length that was never filled in, as programs that write as they go leave it, means the rest of the file. */
    private long wave() {
        long perSecond = 0;
        for (long at = RIFF_HEADER; at + CHUNK_HEADER <= content.length; ) {
            long length = little((int) at + 4, 4);
            long body = at + CHUNK_HEADER;
            if (has((int) at, "fmt ") && body + 16 <= content.length) {
                perSecond = little((int) body + 8, 4);
            } else if (has((int) at, "data")) {
                if (perSecond == 0) {
                    throw new BrokenAssetException("This WAV file does not say how fast it is played.");
                }
                long rest = content.length - body;
                boolean open = length == 0 || length >= 0xFFFFFF00L;
                if (!open && length > rest) {
                    throw new BrokenAssetException("This WAV file ends before its sound does; save it again.");
                }
                return (open ? rest : length) * MILLIS / perSecond;
            }
            at = body + length + (length & 1);
        }
        throw new BrokenAssetException("This WAV file has no sound in it.");
    }

    /** The position of the last page of the first stream in samples (RFC 3533 §6), and how many of them make a second. */
    private long ogg() {
        long serial = little(14, 4);
        long samples = -1;
        int rate = 0;
        long skipped = 0;
        int at = 0;
        while (at + PAGE_HEADER <= content.length && has(at, "OggS")) {
            int segments = content[at + 26] & 0xFF;
            int body = at + PAGE_HEADER + segments;
            if (body > content.length) {
                throw oggCut();
            }
            int length = 0;
            for (int i = 0; i < segments; i++) {
                length += content[at + PAGE_HEADER + i] & 0xFF;
            }
            if (body + length > content.length) {
                throw oggCut();
            }
            if (little(at + 14, 4) == serial) {
                if (at == 0) {
                    if (has(body, "\u0001vorbis") && length >= 16) {
                        rate = (int) little(body + 12, 4);
                    } else if (has(body, "OpusHead") && length >= 12) {
                        rate = OPUS_RATE;
                        skipped = little(body + 10, 2);
                    } else {
                        throw new BrokenAssetException(
                                "This OGG file holds neither Vorbis nor Opus, which browsers and products play.");
                    }
                }
                long position = little(at + 6, 8);
                // A page on which no packet ends has no position.
                samples = position < 0 ? samples : position;
            }
            at = body + length;
        }
        if (rate <= 0 || samples < 0) {
            throw oggCut();
        }
        if (samples / rate > LONGEST_SECONDS) {
            throw new BrokenAssetException("This OGG file says that it takes weeks; save it again.");
        }
        return Math.max(0, samples - skipped) * MILLIS / rate;
    }

    private static BrokenAssetException oggCut() {
        return new BrokenAssetException("This OGG file ends before its sound does; save it again.");
    }

    /** Where the sound begins behind what is told about it (ID3v2.4 §3.1); 0 without any. */
    private int id3() {
        int at = 0;
        while (has(at, "ID3") && at + ID3_HEADER <= content.length) {
            int length = (content[at + 6] & 0x7F) << 21
                    | (content[at + 7] & 0x7F) << 14
                    | (content[at + 8] & 0x7F) << 7
                    | (content[at + 9] & 0x7F);
            boolean footer = (content[at + 5] & 0x10) != 0;
            at += ID3_HEADER + length + (footer ? ID3_HEADER : 0);
        }
        return at;
    }

    /**
     * A frame of MPEG audio.
     *
     * @param length in bytes, its header included
     * @param samples how many it has
     * @param rate how many of them make a second
     */
    private record Frame(int length, int samples, int rate, boolean one, boolean mono) {}

    /** The frame at a place; null where none begins, or where neither another one nor the end follows it. */
    private @Nullable Frame frame(int at) {
        Frame frame = header(at);
        if (frame == null) {
            return null;
        }
        int next = at + frame.length;
        return next >= content.length - MPEG_HEADER || has(next, "TAG") || header(next) != null ? frame : null;
    }

    private @Nullable Frame header(int at) {
        if (at < 0 || at + MPEG_HEADER > content.length) {
            return null;
        }
        int second = content[at + 1] & 0xFF;
        int third = content[at + 2] & 0xFF;
        int version = second >> 3 & 3;
        boolean layer3 = (second >> 1 & 3) == 1;
        int bits = third >> 4;
        int rate = third >> 2 & 3;
        if ((content[at] & 0xFF) != 0xFF
                || (second & 0xE0) != 0xE0
                || !layer3
                || version == 1
                || bits == 0
                || bits == 15
                || rate == 3) {
            return null;
        }
        boolean one = version == 3;
        int perSecond = RATES[rate] >> (one ? 0 : version == 2 ? 1 : 2);
        int samples = one ? 1152 : 576;
        int length = samples / 8 * BIT_RATES[one ? 0 : 1][bits] * MILLIS / perSecond + (third >> 1 & 1);
        return new Frame(length, samples, perSecond, one, (content[at + 3] & 0xC0) == 0xC0);
    }

    /** Adds up the frames; the first may hold nothing but what is known of the others. */
    private long mpeg(int from) {
        long samples = 0;
        int rate = 0;
        int at = from;
        while (at + MPEG_HEADER <= content.length) {
            Frame frame = frame(at);
            if (frame == null) {
                at++;
                continue;
            }
            boolean index = rate == 0 && index(at, frame);
            rate = rate == 0 ? frame.rate : rate;
            samples += index ? 0 : frame.samples;
            at += frame.length;
        }
        if (rate == 0 || samples == 0) {
            throw new BrokenAssetException("This MP3 file has no sound in it.");
        }
        return samples * MILLIS / rate;
    }

    private boolean index(int at, Frame frame) {
        int side = frame.one ? frame.mono ? 17 : 32 : frame.mono ? 9 : 17;
        int told = at + MPEG_HEADER + side;
        return has(told, "Xing") || has(told, "Info") || has(at + MPEG_HEADER + 32, "VBRI");
    }

    private boolean has(int at, String letters) {
        byte[] wanted = letters.getBytes(StandardCharsets.ISO_8859_1);
        if (at < 0 || at > content.length - wanted.length) {
            return false;
        }
        for (int i = 0; i < wanted.length; i++) {
            if (content[at + i] != wanted[i]) {
                return false;
            }
        }
        return true;
    }

    private long little(int at, int bytes) {
        long value = 0;
        for (int i = bytes - 1; i >= 0; i--) {
            value = value << 8 | (at + i < content.length ? content[at + i] & 0xFF : 0);
        }
        return value;
    }
}
