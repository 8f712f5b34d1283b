package mellow.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import mellow.core.check.Finding.Severity;
import org.junit.jupiter.api.Test;

/** What is stored of findings. */
class MasksTest {

    private static Finding finding(Kind kind, Severity severity) {
        return new Finding(kind, "code", severity, "other", "Wrong.", Map.of(), -1, -1, null);
    }

    @Test
    void whatStopsAndWhatIsToMindStandApart() {
        Masks masks =
                Masks.of(List.of(finding(Kind.PLACEHOLDER, Severity.BLOCKER), finding(Kind.SPACE, Severity.WARNING)));
        assertThat(masks).isEqualTo(new Masks(Kind.PLACEHOLDER.bit(), Kind.SPACE.bit()));
        assertThat(Masks.of(List.of())).isEqualTo(Masks.NONE);
    }
}
