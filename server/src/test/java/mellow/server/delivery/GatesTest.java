package mellow.server.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.stream.Collectors;
import mellow.server.common.Refusal;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What becomes of a language: gates, what there is (entries, settled, stale, blocked), the answer and why. */
class GatesTest {

    @ParameterizedTest
    @CsvSource(
            textBlock =
                    """
                    hold, 0,  hold, go,   10, 10, 0, 0, yes,
                    hold, 0,  hold, go,   10, 2,  0, 0, yes,
                    hold, 0,  hold, go,   10, 10, 0, 1, held, 1 text would break
                    hold, 0,  hold, go,   10, 10, 0, 2, held, 2 texts would break
                    stop, 0,  hold, go,   10, 10, 0, 1, stop, 1 text would break
                    out,  0,  hold, go,   10, 10, 0, 1, yes,  1 text would break
                    go,   0,  hold, go,   10, 10, 0, 1, yes,  1 text would break
                    hold, 80, hold, go,   10, 8,  0, 0, yes,
                    hold, 81, hold, go,   10, 8,  0, 0, held, 80 % settled
                    hold, 81, stop, go,   10, 8,  0, 0, stop, 80 % settled
                    hold, 99, hold, go,   0,  0,  0, 0, yes,
                    hold, 0,  hold, go,   10, 10, 3, 0, yes,  3 are stale
                    hold, 0,  hold, hole, 10, 10, 1, 0, yes,  1 is stale
                    hold, 0,  hold, hold, 10, 10, 1, 0, held, 1 is stale
                    stop, 0,  hold, hold, 10, 10, 1, 1, stop, 1 text would break; 1 is stale
                    hold, 90, stop, hold, 10, 8,  1, 1, stop, 1 text would break; 80 % settled; 1 is stale
                    """)
    void theWorstOfWhatIsFoundCounts(
            String blockers,
            int share,
            String below,
            String stale,
            int entries,
            int settled,
            int staleTexts,
            int blocked,
            String answer,
            String why) {
        Gates.Verdict verdict = new Gates(blockers, share, below, stale)
                .of(new Gates.LanguageCounts(entries, settled, staleTexts, blocked, 0, 0));
        assertThat(verdict.answer()).isEqualTo(answer);
        assertThat(verdict.reasons().stream().map(Gates.GateReason::sentence).collect(Collectors.joining("; ")))
                .isEqualTo(why == null ? "" : why);
    }

    @ParameterizedTest
    @CsvSource({
        "go, 1, yes, 1 is to be mended where it is shown",
        "hold, 2, held, 2 are to be mended where they are shown",
        "stop, 1, stop, 1 is to be mended where it is shown",
        ", 1, yes, 1 is to be mended where it is shown",
        "stop, 0, yes, "
    })
    void whatDoesNotFitWhereItIsShownIsAGateOfItsOwn(String scenes, int unfit, String answer, String why) {
        Gates.Verdict verdict =
                new Gates("hold", 0, "hold", "go", scenes).of(new Gates.LanguageCounts(10, 10, 0, 0, unfit, 0));
        assertThat(verdict.answer()).isEqualTo(answer);
        assertThat(verdict.reasons().stream().map(Gates.GateReason::sentence).collect(Collectors.joining("; ")))
                .isEqualTo(why == null ? "" : why);
    }

    @Test
    void anotherWordThanThoseKnownIsRefused() {
        assertThatThrownBy(() -> new Gates("maybe", 0, "hold", "go").requireSound())
                .isInstanceOf(Refusal.class)
                .hasMessage("“maybe” is no choice for blockers; expected one of go, hold, out, stop.");
        assertThatThrownBy(() -> new Gates("hold", 0, "go", "go").requireSound())
                .isInstanceOf(Refusal.class);
        assertThatThrownBy(() -> new Gates("hold", 0, "hold", "out").requireSound())
                .isInstanceOf(Refusal.class);
    }
}
