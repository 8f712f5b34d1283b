package mellow.core.replace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Duration;
import java.util.List;
import mellow.core.replace.Replacement.BadPatternException;
import mellow.core.replace.Replacement.Wanted;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** How: p pattern, w whole words, c case. */
class ReplacementTest {

    @ParameterizedTest(name = "[{index}] {0}: {1} → {2} ({3})")
    @CsvSource(
            delimiter = '|',
            nullValues = "-",
            value = {
                "Ramp up, ramp down | ramp | deck | -  | deck up, deck down",
                "Ramp up, ramp down | ramp | deck | c  | Ramp up, deck down",
                "rampart ramp       | ramp | deck | w  | rampart deck",
                "Öffnung öffnen     | ÖFFN | X    | -  | Xung Xen",
                "Ahoy {name}, name  | name | Name | -  | Ahoy {name}, Name",
                "Ahoy %1$d d        | d    | x    | -  | Ahoy %1$d x",
                "<b>bold b</b>      | b    | x    | -  | <b>xold x</b>",
                "a.b                | .    | ;    | -  | a;b",
                "12 cars, 7 cars    | ([0-9]+) cars | $1 Wagen | p | 12 Wagen, 7 Wagen",
                "cost               | o    | \\$   | p  | c$st",
                "a b                | ' '  | \\n   | p  | 'a\nb'",
                "x                  | y*   | z    | p  | x",
                "ramp-up ramp       | ramp | deck | w  | deck-up deck",
                "東京タワー            | タワー | 塔    | -  | 東京塔",
                "$1                 | $1   | $2   | -  | $2",
            })
    void replaces(String text, String find, String with, String how, String after) {
        String flags = how == null ? "" : how;
        assertThat(Replacement.of(new Wanted(find, with, flags.contains("p"), flags.contains("w"), flags.contains("c")))
                        .in(text))
                .isEqualTo(after);
    }

    @Test
    void isTheSameObjectWhereNothingIsFound() {
        String text = new String("nothing here");
        assertThat(Replacement.of(new Wanted("ramp", "", false, false, false)).in(text))
                .isSameAs(text);
    }

    @ParameterizedTest(name = "{0} with {1}: {2}")
    @CsvSource(
            delimiter = '|',
            value = {
                "(a    | x  | cannot be read at character",
                "a)(b  | x  | cannot be read at character",
                "a     | $1 | stands for a group that the pattern does not have",
                "a     | $  | stands for a group",
                "''    | x  | Say what to look for",
            })
    void refusesWhatIsNoPattern(String find, String with, String sentence) {
        assertThatThrownBy(() -> Replacement.of(new Wanted(find, with, true, false, false)))
                .isInstanceOf(BadPatternException.class)
                .hasMessageContaining(sentence);
    }

    @Test
    void givesUpAPatternThatWouldTakeForEver() {
        Replacement endless = Replacement.of(new Wanted("(a+a+)+b", "x", true, false, false));
        assertThatThrownBy(() -> endless.in("a".repeat(200)))
                .isInstanceOf(BadPatternException.class)
                .hasMessageContaining("takes too long");
    }

    /** Patterns that would go on for ever, or deeper than a stack. */
    @ParameterizedTest
    @ValueSource(strings = {"(a+)+$", "(a|aa)+$", "(a*)*b", "(.*a){30}", "((a|b)*)*c", "(?:a|b)*c", "(x+x+)+y"})
    void givesUpWhatTakesTooLong(String pattern) {
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(20), () -> {
            Replacement replacement = Replacement.of(new Wanted(pattern, "z", true, false, false));
            for (String text : List.of("a".repeat(40) + "!", "ab".repeat(50_000), "x".repeat(100_000))) {
                try {
                    assertThat(replacement.in(text).length()).isLessThanOrEqualTo(text.length());
                } catch (BadPatternException givenUp) {
                    assertThat(givenUp.getMessage()).contains("pattern");
                }
            }
        });
    }

    @Test
    void refusesPatternsThatNobodyReads() {
        assertThatThrownBy(() -> Replacement.of(new Wanted("a".repeat(1_001), "", true, false, false)))
                .isInstanceOf(BadPatternException.class);
    }

    @Test
    void makesNoTextFarTooLong() {
        Replacement replacement = Replacement.of(new Wanted("a", "b".repeat(1_000), false, false, false));
        assertThat(replacement.in("a").length()).isEqualTo(1_000);
        assertThatThrownBy(() -> replacement.in("a".repeat(50_000)))
                .isInstanceOf(BadPatternException.class)
                .hasMessageContaining("too long");
    }

    @Test
    void protectsPlaceholdersInALongTextAsInAShortOne() {
        String text = "name {name} ".repeat(2_000);
        assertThat(Replacement.of(new Wanted("name", "Name", false, false, true))
                        .in(text))
                .isEqualTo("Name {name} ".repeat(2_000));
    }
}
