package mellow.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class EditDistanceTest {

    @ParameterizedTest
    @CsvSource({
        "'', '', 0, 0",
        "'', Rampe, 5, 5",
        "Rampe, Rampe, 0, 5",
        "Rampe, Rampen, 1, 6",
        "kitten, sitting, 3, 7",
        "Rampe auf, Rampe zu, 2, 9",
        // A letter with a combining accent and a family of four are one character each.
        "'cafe\u0301', cafe, 1, 4",
        "👩‍👩‍👧‍👦, 👩, 1, 1",
        // A conjunct is one character (UAX #29, GB9c).
        "स्ते, स्त, 1, 1",
        "été, ete, 2, 3",
        "乗船する, 下船する, 1, 4",
        "بوابة, بوابه, 1, 5",
        "'a\r\nb', 'a\nb', 1, 3",
    })
    void countsCharactersAsReadersDo(String one, String other, int changed, int of) {
        assertThat(EditDistance.between(one, other)).isEqualTo(new EditDistance.Changed(changed, of));
        assertThat(EditDistance.between(other, one)).isEqualTo(new EditDistance.Changed(changed, of));
    }

    @Test
    void isNeverMoreThanTheLongerTextAndKeepsTheTriangle() {
        Random random = new Random(7);
        for (int i = 0; i < 500; i++) {
            String a = text(random);
            String b = text(random);
            String c = text(random);
            assertThat(changed(a, b)).isBetween(Math.abs(a.length() - b.length()), Math.max(a.length(), b.length()));
            assertThat(changed(a, c)).isLessThanOrEqualTo(changed(a, b) + changed(b, c));
        }
    }

    @Test
    void whatDiffersOfAVeryLongTextCountsAsReplaced() {
        String begin = "b".repeat(5_000);
        assertThat(EditDistance.between(begin + "x", begin + "y").changed()).isEqualTo(1);
        assertThat(EditDistance.between("a".repeat(3_000) + "c", "c" + "b".repeat(2_500)))
                .isEqualTo(new EditDistance.Changed(3_001, 3_001));
    }

    @Test
    void formsAddUpAndOneThatIsMissingWasPutIn() {
        Text one = new Text(new TreeMap<>(Map.of("one", "auto", "other", "auta")));
        Text other = new Text(new TreeMap<>(Map.of("few", "auta", "other", "aut")));
        assertThat(EditDistance.between(one, other)).isEqualTo(new EditDistance.Changed(4 + 4 + 1, 4 + 4 + 4));
        assertThat(EditDistance.between(Text.plain("a"), Text.plain("a"))).isEqualTo(new EditDistance.Changed(0, 1));
    }

    @Test
    void exactlyTheLongestIsStillCompared() {
        String one = "a" + "b".repeat(EditDistance.LONGEST - 2) + "c";
        String other = "c" + "b".repeat(EditDistance.LONGEST - 2) + "a";
        assertThat(EditDistance.between(one, other).changed()).isEqualTo(2);
        assertThat(EditDistance.between(one + "x", other + "y").changed()).isEqualTo(EditDistance.LONGEST + 1);
    }

    private static int changed(String one, String other) {
        return EditDistance.between(one, other).changed();
    }

    private static String text(Random random) {
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(9); i > 0; i--) {
            text.append((char) ('a' + random.nextInt(3)));
        }
        return text.toString();
    }
}
