package mellow.core.format.source;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.UnwritableTextException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SpliceTest {

    private static SourceText source(String text, String charset) {
        return SourceText.decode(
                text.getBytes(Charset.forName(charset)), Charset.forName(charset), new Problems("a.txt"));
    }

    private static String written(Splice splice, String charset) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        splice.writeTo(out);
        return out.toString(Charset.forName(charset));
    }

    @ParameterizedTest
    @ValueSource(strings = {"UTF-8", "UTF-16LE", "UTF-16BE", "windows-1252", "EUC-JP", "Shift_JIS", "GB18030"})
    void bytesOutsideReplacementsAreCopied(String charset) throws Exception {
        String letters = charset.startsWith("UTF") || charset.equals("GB18030")
                ? "ab日é😀\n"
                : charset.equals("windows-1252") ? "abéß\n" : "ab日本\n";
        Random random = new Random(charset.hashCode());
        int[] points = letters.codePoints().toArray();
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < 30_000; i++) {
            text.appendCodePoint(points[random.nextInt(points.length)]);
        }
        SourceText source = source(text.toString(), charset);
        assertThat(written(source.splice(), charset)).isEqualTo(text.toString());
        Splice splice = source.splice();
        StringBuilder expected = new StringBuilder();
        int at = 0;
        while (at < text.length() - 40) {
            int start = boundary(text, at + random.nextInt(20_0));
            int end = boundary(text, start + random.nextInt(9));
            if (end > text.length()) {
                break;
            }
            expected.append(text, at, start).append("<a>");
            splice.replace(start, end, "<a>", "k");
            at = end;
        }
        expected.append(text, at, text.length());
        assertThat(written(splice, charset)).isEqualTo(expected.toString());
    }

    /** Not between the halves of a pair, as no value of a file begins or ends there. */
    private static int boundary(CharSequence text, int at) {
        int inside = Math.min(at, text.length());
        return inside < text.length() && inside > 0 && Character.isLowSurrogate(text.charAt(inside))
                ? inside + 1
                : inside;
    }

    @Test
    void aByteOrderMarkStays() throws Exception {
        byte[] bytes = "\uFEFFab".getBytes(StandardCharsets.UTF_8);
        SourceText source = SourceText.decode(bytes, StandardCharsets.UTF_8, new Problems("a.txt"));
        assertThat(source.text()).isEqualTo("ab");
        Splice splice = source.splice();
        splice.replace(0, 1, "x", "k");
        assertThat(written(splice, "UTF-8")).isEqualTo("\uFEFFxb");
    }

    @Test
    void insertionsKeepTheirOrderAndStandBeforeWhatIsRemoved() throws Exception {
        Splice splice = source("0123456789", "UTF-8").splice();
        splice.replace(4, 4, "a", "k");
        splice.remove(4, 8);
        splice.replace(4, 4, "b", "k");
        assertThat(written(splice, "UTF-8")).isEqualTo("0123ab89");
    }

    @Test
    void removalsSwallowWhatIsInsideAndJoin() throws Exception {
        Splice splice = source("0123456789", "UTF-8").splice();
        splice.replace(3, 4, "x", "k");
        splice.remove(2, 5);
        splice.remove(4, 7);
        splice.replace(7, 8, "y", "k");
        assertThat(written(splice, "UTF-8")).isEqualTo("01y89");
    }

    @Test
    void replacementsThatOverlapAreAMistake() {
        Splice splice = source("0123456789", "UTF-8").splice();
        splice.replace(2, 5, "x", "k");
        splice.replace(4, 6, "y", "k");
        assertThatThrownBy(() -> written(splice, "UTF-8")).isInstanceOf(IllegalStateException.class);
    }

    @Test
    void aCharacterWithoutASpellingIsNamed() {
        Splice splice = source("abc", "windows-1252").splice();
        assertThatThrownBy(() -> splice.replace(0, 1, "a 半 b", "ramp.up"))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessage(
                        "The text of ramp.up has the character “半”, which windows-1252 cannot spell; export it fresh as UTF-8 instead, or change the text.");
    }

    @Test
    void placesAreLinesColumnsAndBytes() {
        SourceText source = source("é\r\nb\rc\n日x", "UTF-8");
        assertThat(source.at(0)).isEqualTo(new Position(1, 1, 0));
        assertThat(source.at(3)).isEqualTo(new Position(2, 1, 4));
        assertThat(source.at(5)).isEqualTo(new Position(3, 1, 6));
        assertThat(source.at(8)).isEqualTo(new Position(4, 2, 11));
        assertThat(source.at(1)).as("and back").isEqualTo(new Position(1, 2, 2));
        assertThat(source.lineStart(8)).isEqualTo(7);
        assertThat(source.lineAfter(3)).isEqualTo(5);
        assertThat(source.lineEnd()).isEqualTo("\r\n");
    }

    @Test
    void bytesThatAreNoCharactersAreNamed() {
        byte[] bytes = {'a', '\n', (byte) 0xC3, 'x'};
        assertThatThrownBy(() -> SourceText.decode(bytes, StandardCharsets.UTF_8, new Problems("a.txt")))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessage(
                        "a.txt, line 2: the byte C3 at offset 2 is no character in UTF-8; expected text in UTF-8 throughout; choose another character set or mend the file.");
    }

    @Test
    void aReplacementCharacterMayStandInAFile() {
        assertThat(source("a\uFFFDb", "UTF-8").text()).isEqualTo("a\uFFFDb");
    }
}
