package mellow.core.format.charset;

import com.ibm.icu.text.CharsetDetector;
import com.ibm.icu.text.CharsetMatch;
import java.io.ByteArrayOutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import mellow.core.format.Position;
import mellow.core.format.Problems;

/**
 * Finds the character set of a text file from evidence, strongest first: a byte-order mark; the zero bytes of UTF-16; valid UTF-8; letter
 * statistics for the one-byte sets. Cost: one pass over the file for UTF-8, plus a sample of at most 64 KB of its lines with other bytes.
 */
public final class EncodingDetector {

    private static final int SAMPLE = 64 * 1024;
    private static final int CLEARLY_MORE = 5;
    private static final Charset WINDOWS_1252 = Charset.forName("windows-1252");

    /** The web's own habit: a file said to be ISO-8859-x is nearly always the Windows set that contains it. */
    private static final Map<String, String> WINDOWS_SUPERSET = Map.of(
            "ISO-8859-1",
            "windows-1252",
            "ISO-8859-2",
            "windows-1250",
            "ISO-8859-9",
            "windows-1254",
            "ISO-8859-7",
            "windows-1253",
            "ISO-8859-6",
            "windows-1256");

    /** First bytes of files that are no text, and what to call them. */
    private static final Map<String, String> MAGIC = Map.of(
            "504b0304", "a ZIP archive or a workbook (XLSX, ODS)",
            "89504e47", "a PNG picture",
            "ffd8ff", "a JPEG picture",
            "25504446", "a PDF document",
            "d0cf11e0", "an old binary office document",
            "1f8b", "a gzip archive",
            "7f454c46", "a program",
            "47494638", "a GIF picture");

    private EncodingDetector() {}

    /**
     * The encoding of {@code bytes}.
     *
     * @param check whether they are UTF-8
     * @throws mellow.core.format.UnreadableFileException when the file is empty or no text at all
     */
    public static TextEncoding detect(byte[] bytes, Utf8Check check, Problems problems) {
        if (bytes.length == 0) {
            throw problems.refuse(
                    Position.WHOLE_FILE, "the file is empty", "a header row and at least one row of texts");
        }
        Optional<TextEncoding> marked = byteOrderMark(bytes);
        if (marked.isPresent()) {
            return marked.get();
        }
        refuseBinary(bytes, problems);
        Optional<TextEncoding> wide = utf16(bytes);
        if (wide.isPresent()) {
            return wide.get();
        }
        if (check.valid() || check.sequences() > 4L * check.invalid()) {
            // Mostly UTF-8 with a damaged place is damaged UTF-8: guessing another set would garble every other letter.
            return TextEncoding.UTF_8;
        }
        return new TextEncoding(oneByteSet(bytes), 0);
    }

    /** The encoding that a byte-order mark declares (Unicode §23.8), if there is one. */
    public static Optional<TextEncoding> byteOrderMark(byte[] bytes) {
        if (startsWith(bytes, 0xEF, 0xBB, 0xBF)) {
            return Optional.of(new TextEncoding(StandardCharsets.UTF_8, 3));
        }
        if (startsWith(bytes, 0xFF, 0xFE)) {
            return Optional.of(new TextEncoding(StandardCharsets.UTF_16LE, 2));
        }
        if (startsWith(bytes, 0xFE, 0xFF)) {
            return Optional.of(new TextEncoding(StandardCharsets.UTF_16BE, 2));
        }
        return Optional.empty();
    }

    private static void refuseBinary(byte[] bytes, Problems problems) {
        for (Map.Entry<String, String> magic : MAGIC.entrySet()) {
            int[] start = new int[magic.getKey().length() / 2];
            for (int i = 0; i < start.length; i++) {
                start[i] = Integer.parseInt(magic.getKey().substring(2 * i, 2 * i + 2), 16);
            }
            if (startsWith(bytes, start)) {
                throw problems.refuse(
                        Position.WHOLE_FILE,
                        "this is " + magic.getValue() + ", not text",
                        "a text file with separated columns; save the sheet as CSV");
            }
        }
    }

    /** The UTF-16 that the zero bytes of western letters betray, if there is one. */
    public static Optional<TextEncoding> utf16(byte[] bytes) {
        int sampled = Math.min(bytes.length, SAMPLE) & ~1;
        int evenZeros = 0;
        int oddZeros = 0;
        for (int i = 0; i < sampled; i += 2) {
            evenZeros += bytes[i] == 0 ? 1 : 0;
            oddZeros += bytes[i + 1] == 0 ? 1 : 0;
        }
        int units = sampled / 2;
        if (units > 0 && oddZeros > units / 4 && evenZeros <= units / 100) {
            return Optional.of(new TextEncoding(StandardCharsets.UTF_16LE, 0));
        }
        if (units > 0 && evenZeros > units / 4 && oddZeros <= units / 100) {
            return Optional.of(new TextEncoding(StandardCharsets.UTF_16BE, 0));
        }
        return Optional.empty();
    }

    private static Charset oneByteSet(byte[] bytes) {
        byte[] sample = linesWithOtherBytes(bytes);
        Charset best = WINDOWS_1252;
        int bestConfidence = 0;
        int western = 0;
        for (CharsetMatch match : new CharsetDetector().setText(sample).detectAll()) {
            String name = WINDOWS_SUPERSET.getOrDefault(match.getName(), match.getName());
            if (!name.startsWith("windows-") || !TextEncoding.SUPPORTED.contains(Charset.forName(name))) {
                continue;
            }
            if (name.equals(WINDOWS_1252.name())) {
                western = Math.max(western, match.getConfidence());
            }
            if (match.getConfidence() > bestConfidence) {
                best = Charset.forName(name);
                bestConfidence = match.getConfidence();
            }
        }
        // Short texts give weak statistics; the commonest set wins unless another is clearly more likely.
        return western + CLEARLY_MORE >= bestConfidence ? WINDOWS_1252 : best;
    }

    /** Lines that hold a byte over 0x7F; the rest says nothing about a one-byte set and would drown the evidence. */
    private static byte[] linesWithOtherBytes(byte[] bytes) {
        ByteArrayOutputStream sample = new ByteArrayOutputStream();
        int start = 0;
        boolean other = false;
        for (int i = 0; i <= bytes.length && sample.size() < SAMPLE; i++) {
            if (i == bytes.length || bytes[i] == '\n') {
                if (other) {
                    sample.write(bytes, start, Math.min(i - start, SAMPLE));
                    sample.write('\n');
                }
                start = i + 1;
                other = false;
            } else if (bytes[i] < 0) {
                other = true;
            }
        }
        return sample.toByteArray();
    }

    private static boolean startsWith(byte[] bytes, int... start) {
        if (bytes.length < start.length) {
            return false;
        }
        for (int i = 0; i < start.length; i++) {
            if ((bytes[i] & 0xFF) != start[i]) {
                return false;
            }
        }
        return true;
    }
}
