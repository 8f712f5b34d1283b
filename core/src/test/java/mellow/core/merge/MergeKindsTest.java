package mellow.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.Set;
import mellow.core.cell.Actor;
import mellow.core.format.FileReading.Field;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** What kinds of changes, arrivals and descriptions are by themselves. */
class MergeKindsTest {
    @ParameterizedTest
    @CsvSource({
        "SETTLED, true, true, false, SETTLED",
        "SETTLED, true, false, false, OFFERED",
        "SETTLED, true, false, true, SETTLED",
        "SETTLED, false, true, false, OFFERED",
        "SETTLED, false, false, true, OFFERED",
        "OFFERED, true, true, true, OFFERED",
        "PENCILLED, false, false, false, PENCILLED"
    })
    void whatOneBringsSettlesWhereOnesOwnDoes(
            Arrival chosen, boolean reviews, boolean settlesOwn, boolean vouches, Arrival arrives) {
        assertThat(chosen.by(new Actor(7, true, reviews, settlesOwn, false), vouches))
                .isEqualTo(arrives);
    }

    @ParameterizedTest
    @EnumSource(ChangeKind.class)
    void whatAKindShapes(ChangeKind kind) {
        assertThat(kind.succeeds()).isEqualTo(Set.of("RENAMED", "REWORDED").contains(kind.name()));
        assertThat(kind.shapesOthers())
                .isEqualTo(Set.of(
                                "NEW_ENTRIES",
                                "RENAMED",
                                "REWORDED",
                                "SOURCES_REWRITTEN",
                                "SOURCE_CONFLICTS",
                                "EDITED_HERE",
                                "DESCRIPTIONS",
                                "DESCRIPTION_CONFLICTS",
                                "WITHOUT_SOURCE")
                        .contains(kind.name()));
    }

    @Test
    void untouchedAreThoseMetWithoutAChange() {
        Untouched untouched = new Untouched();
        untouched.met(0);
        untouched.met(1);
        untouched.touched(0);
        untouched.touched(-1);
        untouched.touched(5);
        assertThat(untouched.count()).isEqualTo(1);
    }

    @Test
    void aFieldThatIsSilentChangesNothing() {
        Description note = new Description(Map.of(Field.NOTE, "n"));
        Description other = new Description(Map.of(Field.NOTE, "m"));
        Description none = new Description(Map.of(Field.NOTE, ""));
        assertThat(Description.decide(null, note, none))
                .isEqualTo(new Description.Decided(Description.NONE, Description.NONE));
        assertThat(Description.decide(note, note, none).taken()).isEqualTo(none);
        assertThat(Description.decide(other, note, none).conflicting()).isEqualTo(none);
        assertThat(Description.decide(null, none, note).taken()).isEqualTo(note);
        assertThat(Description.decide(null, other, note).conflicting()).isEqualTo(note);
        assertThat(Description.decide(note, other, note))
                .isEqualTo(new Description.Decided(Description.NONE, Description.NONE));
        assertThat(none.in(note)).isEqualTo(note);
        assertThat(new Description(Map.of(Field.LIMIT, "")).limitOr(5)).isZero();
        assertThat(new Description(Map.of(Field.LIMIT, "7")).limitOr(5)).isEqualTo(7);
        assertThat(note.limitOr(5)).isEqualTo(5);
    }
}
