package mellow.core.fit;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.BitSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The demo's panel font, cut down. */
class FontSubsetTest {

    private static final Path FONT = Path.of("../demo/ramp-panel.ttf");

    private static BitSet letters(String text) {
        BitSet letters = new BitSet();
        text.codePoints().forEach(letters::set);
        return letters;
    }

    @ParameterizedTest
    @ValueSource(strings = {"Ramp up", "Fähre über Öresund", " ", "日本 Ramp"})
    void aCutFontHasItsLettersAndNoOthersAndMeasuresAlike(String text) throws Exception {
        byte[] whole = Files.readAllBytes(FONT);
        byte[] cut = FontSubset.of(whole, letters(text));
        assertThat(cut.length).isLessThan(whole.length / 2);
        FontFile before = FontFile.read(whole);
        assertThat(before.font().canDisplay('Q')).isTrue();
        FontFile after = FontFile.read(cut);
        assertThat(after.font().canDisplay('Q')).isFalse();
        String there = text.codePoints()
                .filter(before.font()::canDisplay)
                .collect(StringBuilder::new, StringBuilder::appendCodePoint, StringBuilder::append)
                .toString();
        assertThat(there.codePoints().allMatch(after.font()::canDisplay)).isTrue();
        assertThat(Face.of("cut", after, 20).width(there))
                .isEqualTo(Face.of("whole", before, 20).width(there));
    }

    @Test
    void theSameLettersGiveTheSameBytes() throws Exception {
        byte[] whole = Files.readAllBytes(FONT);
        assertThat(FontSubset.of(whole, letters("pmaR"))).isEqualTo(FontSubset.of(whole, letters("Ramp")));
    }

    @Test
    void whatIsNoFontIsNotCut() {
        assertThatThrownBy(() -> FontSubset.of("no font at all".getBytes(StandardCharsets.UTF_8), letters("a")))
                .isInstanceOf(FontSubset.NotCut.class)
                .hasMessageContaining("cannot be cut down");
    }
}
