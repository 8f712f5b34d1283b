package mellow.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
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
}
