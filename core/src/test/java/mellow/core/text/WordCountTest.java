package mellow.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WordCountTest {

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "``|0",
                "Ramp|1",
                "Ramp blocked by vehicle|4",
                "Don't wait|2",
                "It’s 3.5 m|3",
                "stop-over|2",
                "… — !|0",
                "Straße über Öl|3",
                "{n} cars|2",
                "زاوية المنحدر|2",
                "車両でランプ|3",
                "हिन्दी शब्द|2",
                "a'|1",
                "' a|1",
                "a''b|2",
                "9.|1",
                "n\u0303o|1",
                "\u0303|0",
                "a \u2000 b|2",
                "a \u2E7F b|2",
                "a \u2E80 b|2",
                "a \u1FFF b|2",
                "ก|1",
                "\u0DFF a|1",
                "車 5 。|2"
            })
    void countsAsTranslatorsArePaid(String text, int words) {
        assertThat(WordCount.of(text)).isEqualTo(words);
    }
}
