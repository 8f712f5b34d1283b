package mellow.core.wordbook;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Which terms stand in a source, and whether a text says what was agreed in any form of it. */
class TermFinderTest {

    private static AgreedTerm term(String word) {
        return new AgreedTerm(word, "x", List.of());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "Ramp and deck|ramp, deck",
                "Cramped|",
                "Two ramps|ramp",
                "RAMP|ramp",
                "Vehicle deck|vehicle deck",
                "Deck, vehicle deck|deck, vehicle deck",
                "Vehicle decks above decks|vehicle deck, deck",
                "Ferries and ramps|ferry, ramp",
                "Go|go",
                "Gone|",
                "船で|船",
            })
    void termsAreFoundWhereTheirWordsBegin(String source, String expected) {
        TermFinder finder = TermFinder.of(
                List.of(
                        term("ferry"),
                        term("ramp"),
                        term("deck"),
                        term("vehicle deck"),
                        term("go"),
                        term("船"),
                        term(" ")),
                Locale.ENGLISH);
        assertThat(String.join(
                        ", ", finder.in(source).stream().map(AgreedTerm::term).toList()))
                .isEqualTo(expected == null ? "" : expected);
    }

    @Test
    void aWordbookOfAnySizeFindsWhatLookingForEachWouldFind() {
        List<AgreedTerm> terms = new ArrayList<>();
        for (int i = 0; i < 2_000; i++) {
            terms.add(term(String.format("term%04d", i)));
        }
        assertThat(TermFinder.of(terms, Locale.ENGLISH).in("one term0017 and terms 1999 term1999s"))
                .extracting(AgreedTerm::term)
                .containsExactly("term0017", "term1999");
        assertThat(TermFinder.of(List.of(), Locale.ENGLISH).isEmpty()).isTrue();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "de|Bugrampen|Rampe|true",
                "de|Brücke|Rampe|false",
                "de|Auf dem Wagendeck|Wagendeck|true",
                "fi|Rampilla|ramppi|true",
                "fi|Autokannella|kansi|true",
                "fi|Laivalla|lautta|false",
                "pl|Na promie|prom|true",
                "pl|Na statku|prom|false",
                "ar|على العبارة|عبارة|true",
                "ja|フェリーで|フェリー|true",
                "ja|船で|フェリー|false",
                "tr|RAMPADA|rampa|true",
                "de|die Fähren|Fähre|true",
            })
    void aTermIsSaidInAnyOfItsForms(String language, String text, String agreed, boolean says) {
        assertThat(TermFinder.says(text, agreed, Locale.forLanguageTag(language)))
                .isEqualTo(says);
    }

    @Test
    void aNameStaysAsItIs() {
        TermFinder finder = TermFinder.of(List.of(new AgreedTerm("Deckside", "Deckside", List.of())), Locale.ENGLISH);
        assertThat(finder.agreedAsIs(" Deckside ")).isTrue();
        assertThat(finder.agreedAsIs("Deck")).isFalse();
    }
}
