package mellow.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class KeepableTest {

    @ParameterizedTest
    @ValueSource(strings = {"", "Rampe", "\ud83d\udea2 ship", "a\tb\nc", "\u202eשלום", "\uFFFD", "x\ud83d\udea2"})
    void everythingElseIsKept(String text) {
        assertThat(Keepable.against(text, 100)).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"\0", "a\0b", "\ud83d", "a\ud83db", "\udea2", "\udea2\ud83d", "\ud83d\udea2\udea2"})
    void whatNoTextCanHoldIsNamed(String text) {
        assertThat(Keepable.against(text, 100)).isPresent();
    }

    @Test
    void theLongestIsKeptAndOneMoreIsNot() {
        assertThat(Keepable.against("x".repeat(10), 10)).isEmpty();
        assertThat(Keepable.against("x".repeat(11), 10)).contains("is 11 characters long, and at most 10 can be kept");
    }

    @ParameterizedTest
    @CsvSource(
            nullValues = "-",
            value = {
                "Rampe, 5, Rampe",
                "Rampe, 4, Ramp\u2026",
                "x\ud83d\udea2y, 2, x\u2026",
                "x\ud83d\udea2y, 3, x\ud83d\udea2\u2026",
                "a\0b, 9, a\uFFFDb",
                "a\ud83db\udea2, 9, a\uFFFDb\uFFFD",
                "x\0\0y, 3, x\uFFFD\uFFFD\u2026"
            })
    void whatIsShownIsSoundAndCutBetweenCharacters(String text, int most, String shown) {
        assertThat(Keepable.shown(text, most)).isEqualTo(shown);
    }

    @Test
    void halvesAreFound() {
        assertThat(Keepable.halved("x\ud83d")).isTrue();
        assertThat(Keepable.halved("\udea2x")).isTrue();
        assertThat(Keepable.halved("x\ud83d\udea2")).isFalse();
        assertThat(Keepable.halved("\uD7FF\uE000")).isFalse();
        assertThat(Keepable.against("ab\ud83d", 9))
                .contains("has half of a character, U+D83D, which cannot be part of a text");
        assertThat(Keepable.against("\ud800x", 9))
                .contains("has half of a character, U+D800, which cannot be part of a text");
        assertThat(Keepable.against("x\udfff", 9))
                .contains("has half of a character, U+DFFF, which cannot be part of a text");
    }
}
