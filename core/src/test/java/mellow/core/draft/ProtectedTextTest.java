package mellow.core.draft;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import mellow.core.draft.ProtectedText.Restored;
import mellow.core.placeholder.Placeholders;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Placeholders are hidden behind marks and come back, or the draft is not taken. */
class ProtectedTextTest {

    static Stream<Arguments> cases() throws IOException {
        try (InputStream in = Objects.requireNonNull(ProtectedTextTest.class.getResourceAsStream("/draft/marks.txt"))) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8)
                            .lines()
                            .filter(line -> !line.startsWith("#"))
                            .map(line -> Arguments.of((Object[]) line.split(" \\| ", -1)))
                            .toList()
                            .stream();
        }
    }

    @ParameterizedTest(name = "{0} > {2}")
    @MethodSource("cases")
    void becomes(String source, String sent, String draft, String expected) {
        ProtectedText text = ProtectedText.of(source, Placeholders.COMMON).orElseThrow();
        assertThat(text.text()).isEqualTo(sent);
        assertThat(text.marks()).allSatisfy(mark -> assertThat(sent).contains(mark));
        Restored restored = text.restore(draft);
        String told = restored instanceof Restored.Whole whole
                ? (whole.mended() ? "~ " : "= ") + whole.text()
                : "! " + ((Restored.Damaged) restored).damage() + " " + ((Restored.Damaged) restored).mark();
        assertThat(told).isEqualTo(expected);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{n, plural, one {# deck of {m}} other {# decks of {m}}}",
                "{n, plural, one {# deck} other {# decks}}",
                "Deck {n, select, a {up} other {down}} is shut",
                "A text with ⟦ in it",
                "A text with ⟧ in it",
            })
    void isNotDraftedWhereMarksCouldNotBeTold(String source) {
        assertThat(ProtectedText.of(source, Placeholders.COMMON)).isEmpty();
    }

    @Test
    void aTableMayHaveSyntaxesOfItsOwn() {
        ProtectedText text = ProtectedText.of("Deck @deck@ is shut", Placeholders.with(List.of("@\\w+@")))
                .orElseThrow();
        assertThat(text.text()).isEqualTo("Deck ⟦1⟧ is shut");
        assertThat(text.restore("⟦1⟧ ist zu")).isEqualTo(new Restored.Whole("@deck@ ist zu", false));
    }

    @ParameterizedTest
    @ValueSource(strings = {"{0}", "12 %s", "<b>{0}</b> – 3", " ", ""})
    void knowsWhatSaysTheSameInEveryLanguage(String source) {
        assertThat(ProtectedText.of(source, Placeholders.COMMON).orElseThrow().hasWords())
                .isFalse();
    }

    @Test
    void takesTimeInProportionToHostileDrafts() {
        ProtectedText text =
                ProtectedText.of("Deck {0} is closed", Placeholders.COMMON).orElseThrow();
        assertThat(text.restore("⟦ ".repeat(500_000))).isInstanceOf(Restored.Damaged.class);
        assertThat(text.restore("[ [1".repeat(500_000))).isInstanceOf(Restored.Damaged.class);
        assertThat(text.restore("⟦1⟧" + "9".repeat(1_000_000))).isInstanceOf(Restored.Whole.class);
    }
}
