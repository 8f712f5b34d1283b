package mellow.core.memory;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import mellow.core.language.LanguageTag;
import mellow.core.memory.Adaptation.Adapted;
import mellow.core.memory.Adaptation.Substitution;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class AdaptationTest {

    private static final LanguageTag GERMAN = new LanguageTag("de");

    static Stream<Arguments> cases() throws IOException {
        try (InputStream file = AdaptationTest.class.getResourceAsStream("/memory/adaptation.txt")) {
            return new String(Objects.requireNonNull(file).readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .filter(line -> !line.startsWith("# "))
                    .map(line -> Arguments.of(Arrays.stream(line.split("\\|", -1))
                            .map(String::strip)
                            .toArray()));
        }
    }

    @ParameterizedTest(name = "{0}: {1} > {2}")
    @MethodSource("cases")
    void adaptsWhatIsSure(String language, String source, String wanted, String text, String adapted) {
        assertThat(Adaptation.of(source, wanted, text, new LanguageTag(language))
                        .map(Adapted::text)
                        .orElse(""))
                .isEqualTo(adapted);
    }

    @Test
    void tellsWhatItChanged() {
        assertThat(Adaptation.of("Tank 3 of {n}", "Tank 4 of {m}", "Tank 3 von {n}", GERMAN))
                .contains(new Adapted(
                        "Tank 4 von {m}", List.of(new Substitution("3", "4"), new Substitution("{n}", "{m}"))));
    }

    @Test
    void hostileTextsCostNoMoreThanOthers() {
        String word = "a".repeat(3_000) + " b ";
        String numbers = "1.".repeat(1_500) + "1";
        assertThat(Adaptation.of(word + "5", word + "7", word + "5", GERMAN)).isPresent();
        assertThat(Adaptation.of(numbers, numbers + "1", numbers, GERMAN)).isEmpty();
        assertThat(Adaptation.of("Deck 5", "Deck 7", "5" + "x".repeat(1_000_000), GERMAN))
                .isEmpty();
        assertThat(Adaptation.of("\uD83D 5 \u0000", "\uD83D 7 \u0000", "\uDE00 5", GERMAN))
                .map(Adapted::text)
                .contains("\uDE00 7");
    }

    @Test
    void leavesRowsAloneThatAreTooLongToBeSure() {
        assertThat(Adaptation.of("1 ".repeat(51), "2 ".repeat(51), "1 ".repeat(51), GERMAN))
                .isEmpty();
    }
}
