package mellow.core.asset;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import mellow.core.asset.AssetPattern.Named;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Names of pictures and sounds tell their entry and language in many habits, and words that only look like a language tell none. */
class AssetNamesTest {

    private static final LanguageTag ENGLISH = new LanguageTag("en");

    private record Case(String title, List<String> paths, List<String> expected, List<String> patterns) {}

    @TestFactory
    Stream<DynamicTest> cases() throws IOException {
        return read().stream()
                .map(one -> DynamicTest.dynamicTest(one.title, () -> {
                    List<AssetPattern> patterns = AssetNames.propose(one.paths, Set.of());
                    assertThat(patterns).extracting(AssetPattern::toString).containsExactlyElementsOf(one.patterns);
                    assertThat(AssetNames.read(one.paths, patterns, ENGLISH).stream()
                                    .map(AssetNamesTest::said))
                            .containsExactlyElementsOf(one.expected);
                }));
    }

    private static String said(Optional<Named> named) {
        return named.map(one -> one.key() + " " + one.language()).orElse("");
    }

    private static List<Case> read() throws IOException {
        List<Case> cases = new ArrayList<>();
        try (InputStream in = Objects.requireNonNull(AssetNamesTest.class.getResourceAsStream("names.cases"))) {
            for (String line : new String(in.readAllBytes(), StandardCharsets.UTF_8).split("\n")) {
                if (line.startsWith("case ")) {
                    cases.add(new Case(line.substring(5), new ArrayList<>(), new ArrayList<>(), new ArrayList<>()));
                } else if (line.startsWith("pattern ")) {
                    cases.get(cases.size() - 1).patterns.add(line.substring(8));
                } else if (line.contains("=")) {
                    String[] sides = line.split("=", 2);
                    cases.get(cases.size() - 1).paths.add(sides[0].strip());
                    cases.get(cases.size() - 1).expected.add(sides[1].strip());
                }
            }
        }
        assertThat(cases).hasSizeGreaterThan(15);
        return cases;
    }

    @Test
    void aLanguageThatIsKnownIsOneInASingleName() {
        List<String> paths = List.of("icon-no.png", "icon-up.png");
        assertThat(AssetNames.propose(paths, Set.of(new LanguageTag("no")))).hasSize(1);
        assertThat(AssetNames.propose(paths, Set.of(new LanguageTag("fi")))).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "{key}_{language}.{ext}, logo_german.png, logo, de",
        "{key}_{language}.{ext}, a/b/logo_suomi.png, a/b/logo, fi",
        "x/{language}.{key}.{ext}, x/pt_BR.logo.png, logo, pt-BR",
        "{language}-{key}, en-hello, hello, en",
    })
    void aPatternOfAPersonIsFollowed(String pattern, String path, String key, String language) {
        assertThat(AssetPattern.of(pattern).named(path)).contains(new Named(key, new LanguageTag(language)));
    }

    @ParameterizedTest
    @CsvSource({
        "{key}.png",
        "{language}.png",
        "{key}_{key}_{language}",
        "{name}_{language}",
        "{folder}/{folder}/{key}_{language}"
    })
    void aPatternThatSaysTooLittleOrNothingIsRefusedWithASentence(String pattern) {
        assertThatThrownBy(() -> AssetPattern.of(pattern))
                .isInstanceOf(IllegalArgumentException.class)
                .hasMessageContaining("{language}");
        assertThatThrownBy(() -> AssetPattern.of("x".repeat(301))).hasMessageContaining("300");
    }

    @Test
    void hostileNamesTakeNoLonger() {
        List<String> paths = IntStream.range(0, 1_000)
                .mapToObj(i -> "en-fi_de/".repeat(60) + i + "_en-fi_de-".repeat(60) + ".png")
                .toList();
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> {
            List<AssetPattern> patterns = AssetNames.propose(paths, Set.of(ENGLISH));
            assertThat(AssetNames.read(paths, patterns, ENGLISH)).hasSize(paths.size());
        });
    }
}
