package mellow.core.scene;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ReadingTimeTest {

    @ParameterizedTest
    @CsvSource({
        "'', 0",
        "a, 0.1",
        "seventeen letters, 1.0",
        "eighteen letters ., 1.1",
        "甲板に出ます, 1.1",
        "갑판으로, 0.5",
        "سطح السفينة, 0.7"
    })
    void aLineTakesAsLongAsItsLetters(String text, double seconds) {
        assertThat(ReadingTime.seconds(text)).isEqualTo(seconds);
    }
}
