package mellow.core.format.charset;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * Validity of bytes as UTF-8 (Unicode table 3-7: no overlong forms, no surrogates, nothing over U+10FFFF).
 *
 * @param sequences number of valid sequences of two bytes or more
 * @param invalid number of bytes that belong to no valid sequence
 * @param firstInvalid offset of the first such byte, -1 for none
 */
public record Utf8Check(long sequences, long invalid, int firstInvalid) {

    private static final VarHandle EIGHT = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    private static final long HIGH_BITS = 0x8080808080808080L;

    /** Whether every byte belongs to a valid sequence. */
    public boolean valid() {
        return invalid == 0;
    }

    /** Checks all of {@code bytes} in one pass, eight bytes at a time where they are ASCII. */
    public static Utf8Check of(byte[] bytes) {
        long sequences = 0;
        long invalid = 0;
        int first = -1;
        int i = 0;
        while (i < bytes.length) {
            if (bytes[i] >= 0) {
                i++;
                while (i + Long.BYTES <= bytes.length && ((long) EIGHT.get(bytes, i) & HIGH_BITS) == 0) {
                    i += Long.BYTES;
                }
                continue;
            }
            int length = sequenceLength(bytes, i);
            if (length > 0) {
                sequences++;
                i += length;
            } else {
                invalid++;
                first = first < 0 ? i : first;
                i++;
            }
        }
        return new Utf8Check(sequences, invalid, first);
    }

    private static int sequenceLength(byte[] bytes, int at) {
        int lead = bytes[at] & 0xFF;
        if (lead < 0xC2 || lead > 0xF4) {
            return 0;
        }
        int length = lead < 0xE0 ? 2 : lead < 0xF0 ? 3 : 4;
        if (at + length > bytes.length) {
            return 0;
        }
        int second = bytes[at + 1] & 0xFF;
        int lowest = lead == 0xE0 ? 0xA0 : lead == 0xF0 ? 0x90 : 0x80;
        int highest = lead == 0xED ? 0x9F : lead == 0xF4 ? 0x8F : 0xBF;
        if (second < lowest || second > highest) {
            return 0;
        }
        for (int i = 2; i < length; i++) {
            if ((bytes[at + i] & 0xC0) != 0x80) {
                return 0;
            }
        }
        return length;
    }
}
