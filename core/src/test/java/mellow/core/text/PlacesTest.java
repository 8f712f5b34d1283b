package mellow.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;

/** Sentences that are told with their values. */
class PlacesTest {

    @Test
    void everyPlaceIsFilledByItsValue() {
        assertThat(Places.filled("{n} of “{table}” in {table}", Map.of("table", "Bridge", "n", 3)))
                .isEqualTo("3 of “Bridge” in Bridge");
    }

    @Test
    void aValueThatReadsLikeAPlaceIsNotFilledInTurn() {
        assertThat(Places.filled("{a} is {b}", Map.of("a", "{b}", "b", "$1 \\ {a}")))
                .isEqualTo("{b} is $1 \\ {a}");
    }

    @Test
    void aPlaceWithoutAValueStays() {
        assertThat(Places.filled("The placeholder {count} is missing.", Map.of("field", "text")))
                .isEqualTo("The placeholder {count} is missing.");
        assertThat(Places.filled("{n}", Map.of())).isEqualTo("{n}");
    }
}
