package mellow.core.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Locale;
import mellow.core.fit.Face.Laid;
import mellow.core.fit.FontFile.NoFont;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Widths, lines and letters in the demo's panel font, whose letters are all 0.602 em wide. */
class FaceTest {

    private static final Path FONT = Path.of("../demo/ramp-panel.ttf");
    private static final double EM = 0.602;

    private static byte[] bytes() throws IOException {
        return Files.readAllBytes(FONT);
    }

    private static Face face(float size) throws IOException, NoFont {
        return Face.of("the panel", FontFile.read(bytes()), size);
    }

    @ParameterizedTest
    @CsvSource({"Ramp, 4", "Fähre, 5", "'', 0", "ramp up, 7"})
    void aLineIsAsWideAsItsLetters(String line, int letters) throws Exception {
        assertThat(face(20).width(line)).isCloseTo(letters * EM * 20, org.assertj.core.data.Offset.offset(0.2));
    }

    @Test
    void aMarkTakesNoRoomOfItsOwn() throws Exception {
        assertThat(face(20).width("a\u0308")).isEqualTo(face(20).width("ä"));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Ramp|100|1|49",
                "Ramp up now|100|2|85",
                "Ramp up now|60|3|49",
                "Rampenverriegelung|60|1|217",
                "Ramp↵up|100|2|49",
                "Ramp   up|60|2|49",
                "''|60|1|0",
            })
    void linesAreAsFullAsTheyCanBe(String text, int width, int lines, int widest) throws Exception {
        Laid laid = face(20).lay(text.replace('↵', '\n'), width, Locale.ENGLISH);
        assertThat(laid.lines()).as("lines").isEqualTo(lines);
        assertThat(laid.widest()).as("widest").isEqualTo(widest);
    }

    @Test
    void theWidestLineIsNamed() throws Exception {
        Laid laid = face(20).lay("up Verriegelung now", 100, Locale.GERMAN);
        assertThat("up Verriegelung now".substring(laid.start(), laid.end())).isEqualTo("Verriegelung");
    }

    @Test
    void lettersThatItLacksAreTold() throws Exception {
        Face face = face(16);
        assertThat(face.lacking("Potwierdź, Źródło")).containsExactly((int) 'ź', (int) 'Ź');
        assertThat(face.firstLacking("Potwierdź")).isEqualTo(8);
        assertThat(face.firstLacking("Fähre \u200E–\n\u00AD"))
                .as("what nobody sees")
                .isEqualTo(-1);
        assertThat(face.lacking("a\u0308")).as("a letter in two parts").isEmpty();
        assertThat(face.lacking("船🚢")).hasSize(2);
    }

    @Test
    void aCharacterSetLacksLettersAndHasNoWidth() {
        Face western = Face.of("windows-1252", Charset.forName("windows-1252"));
        assertThat(western.lacking("Fähre, Łódź")).containsExactly((int) 'Ł', (int) 'ź');
        assertThat(western.lay("Fähre", 1, Locale.GERMAN).widest()).isZero();
        assertThat(Face.of("ASCII", StandardCharsets.US_ASCII).firstLacking("Fähre"))
                .isEqualTo(1);
    }

    @Test
    void whatIsNoFontIsToldInASentence() throws Exception {
        byte[] whole = bytes();
        assertThatThrownBy(() -> FontFile.read("no font".getBytes(StandardCharsets.UTF_8)))
                .hasMessageContaining("no TTF");
        assertThatThrownBy(() -> FontFile.read(Arrays.copyOf(whole, 100))).hasMessageContaining("breaks off");
        assertThatThrownBy(() -> FontFile.read(Arrays.copyOf(whole, whole.length / 2)))
                .hasMessageContaining("breaks off");
        byte[] lies = whole.clone();
        lies[12 + 12] = 0x7F;
        assertThatThrownBy(() -> FontFile.read(lies)).hasMessageContaining("breaks off");
        assertThatThrownBy(() -> FontFile.read(new byte[FontFile.LARGEST_BYTES + 1]))
                .hasMessageContaining("16");
    }
}
