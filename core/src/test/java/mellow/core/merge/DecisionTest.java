package mellow.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import mellow.core.cell.Standing;
import mellow.core.merge.TextEffect.Arrival;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The tables of record.md; "-" stands for no base. */
class DecisionTest {

    @ParameterizedTest(name = "base {0}, mine {1}, theirs {2}: {3}")
    @CsvSource({
        "B, B, B, NOTHING_NEW", "B, M, B, NOTHING_NEW", "B, '', B, NOTHING_NEW", "B, T, T, SAME", "B, B, T, TAKE",
                "'', '', T, TAKE", "B, M, T, CONFLICT",
        "'', M, T, CONFLICT", "B, '', T, CONFLICT", "B, B, '', EMPTIED", "B, M, '', EMPTIED", "B, '', '', SAME",
                "-, '', T, ADD", "-, M, T, DIFFERS",
        "-, T, T, SAME", "-, M, '', NOTHING_NEW", "-, '', '', NOTHING_NEW"
    })
    void decidesTexts(String base, String mine, String theirs, TextDecision decision) {
        assertThat(TextDecision.decide(base.equals("-") ? null : base, mine, theirs))
                .isEqualTo(decision);
    }

    @ParameterizedTest(name = "base {0}, mine {1}, theirs {2}: {3}")
    @CsvSource({
        "B, B, B, KEEP",
        "B, B, T, REWRITTEN",
        "B, M, B, EDITED_HERE",
        "B, M, T, CONFLICT",
        "B, T, T, KEEP",
        "-, M, T, REWRITTEN",
        "-, T, T, KEEP"
    })
    void decidesSources(String base, String mine, String theirs, SourceDecision decision) {
        assertThat(SourceDecision.decide(base.equals("-") ? null : base, mine, theirs))
                .isEqualTo(decision);
    }

    @ParameterizedTest(name = "{0} over {1}, arriving {2}: {3}")
    @CsvSource({
        "ADD, NONE, SETTLED, PUT",
        "ADD, NONE, PENCILLED, PUT",
        "ADD, NONE, OFFERED, OFFER",
        "TAKE, SETTLED, SETTLED, PUT",
        "TAKE, SETTLED, OFFERED, OFFER",
        "TAKE, SETTLED, PENCILLED, OFFER",
        "TAKE, PENCILLED, PENCILLED, PUT",
        "CONFLICT, SETTLED, SETTLED, OFFER",
        "CONFLICT, PENCILLED, SETTLED, OFFER",
        "DIFFERS, SETTLED, SETTLED, OFFER",
        "DIFFERS, PENCILLED, SETTLED, PUT",
        "DIFFERS, PENCILLED, OFFERED, OFFER",
        "SAME, SETTLED, SETTLED, KEEP",
        "EMPTIED, SETTLED, SETTLED, KEEP",
        "NOTHING_NEW, NONE, SETTLED, KEEP"
    })
    void neverReplacesSettledTextUnasked(TextDecision decision, Standing mine, Arrival arrival, TextEffect effect) {
        assertThat(TextEffect.of(decision, mine, arrival)).isEqualTo(effect);
    }
}
