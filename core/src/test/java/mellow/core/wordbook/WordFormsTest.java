package mellow.core.wordbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Which words are forms of a term, and which only look like some, in eight languages. */
class WordFormsTest {

    static Stream<Arguments> cases() throws IOException {
        try (InputStream in = Objects.requireNonNull(WordFormsTest.class.getResourceAsStream("/wordbook/forms.txt"))) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8)
                            .lines()
                            .filter(line -> !line.startsWith("#"))
                            .map(line -> line.split(": | \\| "))
                            .map(part -> Arguments.of(part[0], part[1], part[2], part[3]))
                            .toList()
                            .stream();
        }
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("cases")
    void isSaidByItsFormsAndByNothingElse(String language, String term, String said, String unsaid) {
        Locale locale = Locale.forLanguageTag(language);
        List<String> missed = Arrays.stream(said.split(" "))
                .filter(word -> !TermFinder.says("– " + word + ".", term, locale))
                .toList();
        List<String> wrong = Arrays.stream(unsaid.split(" "))
                .filter(word -> TermFinder.says("– " + word + ".", term, locale))
                .toList();
        assertThat(missed).as("forms of " + term).isEmpty();
        assertThat(wrong).as("other words than " + term).isEmpty();
    }

    @ParameterizedTest(name = "{0} {1}")
    @MethodSource("cases")
    void whatSaysATermHasItsBeginning(String language, String term, String said, String unsaid) {
        Locale locale = Locale.forLanguageTag(language);
        String beginning = WordForms.in(locale).beginning(term, locale);
        assertThat(said.toLowerCase(locale).split(" "))
                .allSatisfy(word -> assertThat(word).contains(beginning));
    }

    @ParameterizedTest
    @CsvSource({
        "en, ferry, fer",
        "en, fly, fl",
        "en, car deck, car",
        "en, go, go",
        "de, Hafen, h",
        "de, Äpfel, ''",
        "pl, łódź, ''",
        "pl, krzesło, krz",
        "ru, паром, ''",
        "ja, 乗り場です, 乗り場",
        "en, ' ', ''",
        "en, +, ''",
    })
    void theBeginningEndsWhereFormsMayDiffer(String language, String term, String beginning) {
        Locale locale = Locale.forLanguageTag(language);
        assertThat(WordForms.in(locale).beginning(term, locale)).isEqualTo(beginning);
    }

    @ParameterizedTest
    @CsvSource({
        "de, Die Rampe zum Autodeck, Rampe Autodeck, true",
        "de, Die Rampe, Rampe Autodeck, false",
        "tlh, rampa, rampa, true",
        "tlh, rampas, rampa, true",
        "tlh, lampas, rampa, false",
    })
    void everyWordOfATermIsWanted(String language, String text, String term, boolean says) {
        assertThat(TermFinder.says(text, term, Locale.forLanguageTag(language))).isEqualTo(says);
    }

    @Test
    void whatMayBeSaidAsWellCountsToo() {
        AgreedTerm term =
                new AgreedTerm("ship", "سفينة", List.of(), List.of("سفن", "مركب"), List.of("vessel", "water craft"));
        TermFinder finder = TermFinder.of(List.of(term), Locale.ENGLISH);
        Locale arabic = Locale.forLanguageTag("ar");
        assertThat(finder.says(TermFinder.said("السفن", arabic), term)).isTrue();
        assertThat(finder.says(TermFinder.said("المركب", arabic), term)).isTrue();
        assertThat(finder.says(TermFinder.said("ميناء", arabic), term)).isFalse();
        assertThat(finder.in("Two vessels")).containsExactly(term);
        assertThat(finder.in("A water craft, no boat")).containsExactly(term);
        assertThat(finder.in("No water")).isEmpty();
    }

    @Test
    void takesTimeInProportionToALongText() {
        TermFinder finder = TermFinder.of(
                List.of(new AgreedTerm("a a a b", "x", List.of()), new AgreedTerm("deck", "Deck", List.of())),
                Locale.ENGLISH);
        assertThat(finder.in("a ".repeat(200_000))).isEmpty();
        assertThat(TermFinder.says("x".repeat(1_000_000), "Deck", Locale.GERMAN))
                .isFalse();
    }
}
