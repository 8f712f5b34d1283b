package mellow.core.memory;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class FoldedTest {

    private static int distance(int[] one, int[] other) {
        int[][] table = new int[one.length + 1][other.length + 1];
        for (int i = 0; i <= one.length; i++) {
            for (int j = 0; j <= other.length; j++) {
                if (i == 0 || j == 0) {
                    table[i][j] = i + j;
                } else {
                    boolean same = Symbols.folded(one[i - 1]) == Symbols.folded(other[j - 1]);
                    table[i][j] = Math.min(
                            table[i - 1][j - 1] + (same ? 0 : 1), 1 + Math.min(table[i - 1][j], table[i][j - 1]));
                }
            }
        }
        return table[one.length][other.length];
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 5, 63, 64, 65, 127, 128, 129, 200})
    void isTheDistanceOfTheTable(int length) {
        Random random = new Random(length);
        for (int round = 0; round < 40; round++) {
            int[] one = Symbols.of(text(random, length));
            int[] other = Symbols.of(text(random, Math.max(0, length + random.nextInt(30) - 15)));
            int distance = distance(one, other);
            Folded folded = new Folded(one);
            assertThat(folded.within(other, distance)).isTrue();
            assertThat(folded.within(other, distance - 1)).isFalse();
            assertThat(folded.within(one, 0)).isTrue();
        }
    }

    private static String text(Random random, int length) {
        return random.ints(length, 0, 6)
                .mapToObj("aAb船é "::charAt)
                .map(String::valueOf)
                .reduce("", String::concat);
    }

    @Test
    void whatCostsLessThanAWholeSymbolCostsNothing() {
        assertThat(new Folded(Symbols.of("Deck 5 {n}")).within(Symbols.of("deck 12 %s"), 0))
                .isTrue();
    }
}
