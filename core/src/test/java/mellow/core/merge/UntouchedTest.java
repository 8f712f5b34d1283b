package mellow.core.merge;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;

/** Entries that a file leaves as they are. */
class UntouchedTest {

    @Test
    void anEntryCountsOnceWhateverIsToldOfItAndInWhateverOrder() {
        Untouched untouched = new Untouched();
        untouched.touched(2);
        untouched.met(0);
        untouched.met(1);
        untouched.met(2);
        untouched.touched(1);
        untouched.touched(1);
        assertThat(untouched.count()).isEqualTo(1);
    }

    @Test
    void whatIsOnlyOnOneSideIsNotLessThanNothing() {
        Untouched untouched = new Untouched();
        untouched.touched(-1);
        untouched.touched(7);
        assertThat(untouched.count()).isZero();
    }
}
