package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;

class ProblemTest {

    @Test
    void isOneSentenceWithFileAndPlace() {
        assertThat(Problem.error("deck.csv", new Position(14, 3, 220), "a NUL character", "text")
                        .sentence())
                .isEqualTo("deck.csv, line 14, column 3: a NUL character; expected text.");
        assertThat(Problem.warning("deck.csv", new Position(14, 1, 220), "a row without a key", "left out")
                        .sentence())
                .isEqualTo("deck.csv, line 14: a row without a key; left out.");
        assertThat(Problem.error("deck.csv", Position.WHOLE_FILE, "the file is empty", "")
                        .sentence())
                .isEqualTo("deck.csv: the file is empty.");
    }

    @Test
    void placesCountFromOne() {
        assertThatThrownBy(() -> new Position(0, 1, 5)).isInstanceOf(IllegalArgumentException.class);
        assertThat(Position.WHOLE_FILE.known()).isFalse();
    }

    @Test
    void aHostileFileCannotFillTheMemoryWithItsProblems() {
        Problems problems = new Problems("a.csv");
        for (int i = 0; i < 10_000; i++) {
            problems.warn(new Position(i + 1, 1, i), "something", "left out");
        }
        assertThat(problems.kept()).hasSize(Problems.KEPT);
        assertThat(problems.count()).isEqualTo(10_000);
    }
}
