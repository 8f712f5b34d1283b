package mellow.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Optional;
import mellow.core.cell.Standing;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import org.jspecify.annotations.Nullable;
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
        assertThat(TextDecision.decide(base(base), FileText.plain(mine), FileText.plain(theirs)))
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
        assertThat(SourceDecision.decide(base(base), FileText.plain(mine), FileText.plain(theirs)))
                .isEqualTo(decision);
    }

    private static @Nullable FileText base(String base) {
        return base.equals("-") ? null : FileText.plain(base);
    }

    @ParameterizedTest(name = "chosen {0}, the file says {1}, over {2}: {3}")
    @CsvSource({
        "SETTLED, , NONE, SETTLED",
        "SETTLED, , SETTLED, SETTLED",
        "SETTLED, SETTLED, PENCILLED, SETTLED",
        "SETTLED, OFFERED, NONE, OFFERED",
        "SETTLED, PENCILLED, NONE, PENCILLED",
        "SETTLED, PENCILLED, SETTLED, OFFERED",
        "SETTLED, UNTRANSLATED, NONE, PENCILLED",
        "OFFERED, , PENCILLED, OFFERED",
        "OFFERED, PENCILLED, NONE, OFFERED",
        "OFFERED, SETTLED, NONE, OFFERED",
        "PENCILLED, , PENCILLED, PENCILLED",
        "PENCILLED, SETTLED, NONE, PENCILLED",
        "PENCILLED, , SETTLED, OFFERED"
    })
    void arrivesNoHigherThanTheFileSaysAndNoDraftReplacesWhatIsSettled(
            Arrival chosen, @Nullable FileState stated, Standing mine, Arrival arrives) {
        assertThat(chosen.within(Optional.ofNullable(stated)).over(mine)).isEqualTo(arrives);
    }
}
