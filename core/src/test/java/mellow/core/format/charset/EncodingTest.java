package mellow.core.format.charset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.Random;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class EncodingTest {

    private static TextEncoding detect(byte[] bytes) {
        return EncodingDetector.detect(bytes, Utf8Check.of(bytes), new Problems("a.csv"));
    }

    private static boolean validByTheRuntime(byte[] bytes) {
        try {
            StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(bytes));
            return true;
        } catch (CharacterCodingException invalid) {
            return false;
        }
    }

    /** The check agrees with the Java runtime's strict decoder over mutated texts of every plane. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void knowsValidUtf8AsTheRuntimeDoes(long seed) {
        Random random = new Random(seed);
        for (int round = 0; round < 4000; round++) {
            StringBuilder text = new StringBuilder();
            for (int i = random.nextInt(30); i > 0; i--) {
                int bound = new int[] {0x80, 0x800, 0xD800, 0x110000}[random.nextInt(4)];
                int codePoint = random.nextInt(bound);
                text.appendCodePoint(codePoint >= 0xD800 && codePoint < 0xE000 ? 'x' : codePoint);
            }
            byte[] bytes = text.toString().getBytes(StandardCharsets.UTF_8);
            if (bytes.length > 0 && random.nextBoolean()) {
                bytes[random.nextInt(bytes.length)] = (byte) random.nextInt(256);
            }
            assertThat(Utf8Check.of(bytes).valid())
                    .as("%s", ByteBuffer.wrap(bytes))
                    .isEqualTo(validByTheRuntime(bytes));
        }
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource({
        "overlong slash, C0AF, 0",
        "overlong in three, E080AF, 0",
        "surrogate, 61EDA080, 1",
        "over U+10FFFF, F4908080, 0",
        "cut off, 61E282, 1",
        "lone continuation, 6162BF, 2",
        "byte that never occurs, 61FF, 1"
    })
    void findsTheFirstByteThatIsNoCharacter(String what, String hex, int at) {
        assertThat(Utf8Check.of(HexFormat.of().parseHex(hex)).firstInvalid()).isEqualTo(at);
    }

    @ParameterizedTest(name = "{1}")
    @CsvSource({
        "UTF-16LE, 'key,de', false",
        "UTF-16BE, 'key,de', false",
        "UTF-16LE, '\uFEFFkey', true",
        "UTF-16BE, '\uFEFFkey', true",
        "UTF-8, '\uFEFFkey', true",
        "UTF-8, 'Größe', false",
        "windows-1251, 'Привет, корабль пришёл в порт', false",
        "windows-1253, 'Καλημέρα στο πλοίο και στο λιμάνι', false"
    })
    void findsCharacterSetAndMark(String charset, String text, boolean marked) {
        TextEncoding found = detect(text.getBytes(Charset.forName(charset)));
        assertThat(found.charset().name()).isEqualTo(charset);
        assertThat(found.byteOrderMark() > 0).isEqualTo(marked);
    }

    @ParameterizedTest
    @CsvSource({
        "504B0304, a ZIP archive or a workbook",
        "25504446, a PDF document",
        "1F8B0800, a gzip archive",
        "D0CF11E0A1B1, an old binary office document",
        "FFD8FFE0, a JPEG picture"
    })
    void namesWhatIsNoText(String hex, String name) {
        assertThatThrownBy(() -> detect(HexFormat.of().parseHex(hex)))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining("a.csv: this is " + name);
    }

    @Test
    void aLittleDamageDoesNotMakeUtf8AnotherSet() {
        byte[] bytes = "Größe, Höhe, Länge, Tür, Öl".getBytes(StandardCharsets.UTF_8);
        bytes[bytes.length - 1] = (byte) 0xFC;
        assertThat(detect(bytes)).isEqualTo(TextEncoding.UTF_8);
    }

    @ParameterizedTest(name = "offset {1} of {0}")
    @CsvSource({"'ab|cd', 4, 2, 2", "'ab||cd', 4, 3, 1", "'a#b', 3, 2, 2", "'a#|b', 3, 2, 1", "'ä#|üb', 5, 2, 2"})
    void countsLinesAndColumnsAsPeopleDo(String text, int offset, int line, int column) {
        byte[] bytes = text.replace('|', '\n').replace('#', '\r').getBytes(StandardCharsets.UTF_8);
        int at = Math.min(offset, bytes.length - 1);
        Position place = EncodingValidator.place(bytes, at, TextEncoding.UTF_8);
        assertThat(place.line()).isEqualTo(line);
        assertThat(place.column()).isEqualTo(column - (offset - at));
    }

    @Test
    void anUnpairedSurrogateInUtf16IsNamed() {
        byte[] bytes = {'k', 0, '\n', 0, 0x00, (byte) 0xD8, 'x', 0};
        TextEncoding encoding = new TextEncoding(StandardCharsets.UTF_16LE, 0);
        assertThatThrownBy(
                        () -> EncodingValidator.validate(bytes, encoding, Utf8Check.of(bytes), new Problems("a.csv")))
                .hasMessageContaining("a.csv, line 2: the byte 00 at offset 4");
    }
}
