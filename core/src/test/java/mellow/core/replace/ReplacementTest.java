package mellow.core.replace;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import mellow.core.replace.Replacement.BadPatternException;
import mellow.core.replace.Replacement.Wanted;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

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
}
