package mellow.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.text.Shape;
import mellow.core.wordbook.AgreedTerm;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WordsToAvoidTest {

    private static final List<AgreedTerm> TERMS = List.of(
            new AgreedTerm("ramp", "Rampe", List.of("Auffahrt", "Klappe")),
            new AgreedTerm("bilge", "", List.of("Kielraum")),
            new AgreedTerm("deck", "Deck", List.of()));

    private static SortedMap<String, String> plain(String text) {
        return new TreeMap<>(Map.of("other", text));
    }

    private static List<Finding> avoided(SortedMap<String, String> source, SortedMap<String, String> text) {
        Shape shape = source.size() > 1 ? Shape.PLURAL : Shape.PLAIN;
        return Checks.of(new Measure(shape, source, 0, 0), text, new Ground(List.of(), TERMS)).stream()
                .filter(finding -> finding.code().equals("word-to-avoid"))
                .toList();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            nullValues = "-",
            value = {
                "Ramp down|Rampe unten|-",
                "Ramp down|Auffahrt unten|“Auffahrt” is to be avoided; say “Rampe”.",
                "Both ramps down|Beide AUFFAHRTEN unten|“AUFFAHRTEN” is to be avoided; say “Rampe”.",
                "Way up|Auffahrt|-",
                "Bilge full|Kielraum voll|“Kielraum” is to be avoided.",
                "Ramp blocked|Klappenfehler|-",
                "Deck 5|Deck 5|-",
            })
    void wordsAreAvoidedWhereTheirTermStandsInTheSource(String source, String text, String sentence) {
        assertThat(avoided(plain(source), plain(text)))
                .extracting(Finding::sentence)
                .isEqualTo(sentence == null ? List.of() : List.of(sentence));
    }

    @Test
    void everyFormIsLookedAtAndThePlaceIsTold() {
        SortedMap<String, String> source = new TreeMap<>(Map.of("one", "{n} ramp", "other", "{n} ramps"));
        SortedMap<String, String> text = new TreeMap<>(Map.of("one", "{n} Klappe", "other", "{n} Rampen"));
        assertThat(avoided(source, text)).singleElement().satisfies(finding -> {
            assertThat(finding.form()).isEqualTo("one");
            assertThat(finding.severity()).isEqualTo(Finding.Severity.WARNING);
            assertThat(text.get("one").substring(finding.start(), finding.end()))
                    .isEqualTo("Klappe");
        });
    }
}
