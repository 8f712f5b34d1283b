package mellow.core.wordbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WordFinderTest {

    @ParameterizedTest(name = "“{1}” in “{0}”: {2}")
    @CsvSource({
        "Lower the ramp, ramp, ramp",
        "Ramps and RAMP, ramp, 'Ramps,RAMP'",
        "The trampoline, ramp, ''",
        "rampart, ramp, rampart",
        "rampaging, ramp, ''",
        "Go to the toe, to, to",
        "bow ramp, bow ramp, bow ramp",
        "Die Rampen sind oben, Rampe, Rampen",
        "車両ランプを下げる, ランプ, ランプ",
        "'ramp, ramp.', ramp, 'ramp,ramp'",
        "nothing, '', ''",
        "İskele rampa, rampa, rampa",
    })
    void findsWordsWithTheirEndings(String text, String word, String found) {
        assertThat(WordFinder.in(text, word).stream()
                        .map(place -> text.substring(place.start(), place.end()))
                        .toList())
                .isEqualTo(found.isEmpty() ? List.of() : List.of(found.split(",")));
    }
}
