package mellow.core.asset;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Recordings find their lines by their keys, and none that several lines could be. */
class LineNamesTest {

    @ParameterizedTest
    @CsvSource({
        "quay.greeting, quay.greeting",
        "voices/quay.greeting, quay.greeting",
        "voice-0012, 0012",
        "VO_Quay_Greeting, quay.greeting",
        "voices/crew/bye, crew.bye",
        "bye, ''",
        "voices/bye, ''",
        "voices/0013, ''",
        "quay.greeting.long, ''",
        "twice.said, ''",
    })
    void pairs(String recording, String line) {
        List<String> lines = List.of("quay.greeting", "0012", "crew.bye", "twice.said", "twice-said", "said");
        assertThat(LineNames.pairs(List.of(recording), lines))
                .isEqualTo(line.isEmpty() ? Map.of() : Map.of(recording, line));
    }

    @Test
    void manyAreDoneAtOnce() {
        List<String> lines =
                IntStream.range(0, 50_000).mapToObj(i -> "line." + i).toList();
        List<String> recordings =
                IntStream.range(0, 50_000).mapToObj(i -> "voice-line-" + i).toList();
        assertThat(LineNames.pairs(recordings, lines)).hasSize(50_000);
    }
}
