package mellow.core.product;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** The tables of cases beside this class: which language is meant, and which text is shown. */
class ResolverCasesTest {

    private static final Pattern LANGUAGE =
            Pattern.compile("([\\w-]+)(?:=([0-9]+))?(?:/(\\w+))?(!?)(?:>([\\w,-]+))?(\\*?)");

    private static List<String> lines(String name) throws IOException {
        try (InputStream in = Objects.requireNonNull(ResolverCasesTest.class.getResourceAsStream(name))) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .filter(line -> !line.isBlank() && !line.startsWith("#"))
                    .toList();
        }
    }

    static ProductLanguages product(String line) {
        List<ProductLanguage> all = new ArrayList<>();
        Map<String, LanguageTag> hosts = new HashMap<>();
        LanguageTag start = null;
        for (String word : line.split(" ")) {
            if (word.contains("@")) {
                hosts.put(word.split("@")[0], new LanguageTag(word.split("@")[1]));
                continue;
            }
            Matcher one = LANGUAGE.matcher(word);
            assertThat(one.matches()).as(word).isTrue();
            LanguageTag tag = new LanguageTag(one.group(1));
            List<LanguageTag> fallbacks = one.group(5) == null
                    ? List.of()
                    : Arrays.stream(one.group(5).split(","))
                            .map(LanguageTag::new)
                            .toList();
            all.add(new ProductLanguage(
                    tag,
                    one.group(2) == null ? null : Integer.valueOf(one.group(2)),
                    !one.group(4).isEmpty(),
                    fallbacks,
                    Objects.requireNonNullElse(one.group(3), "")));
            if (!one.group(6).isEmpty()) {
                start = tag;
            }
        }
        return new ProductLanguages(all, Objects.requireNonNull(start), hosts);
    }

    static Stream<Arguments> languages() throws IOException {
        List<Arguments> cases = new ArrayList<>();
        String product = "";
        for (String line : lines("languages.cases")) {
            if (line.startsWith("product ")) {
                product = line.substring(8);
            } else {
                int arrow = line.lastIndexOf(" -> ");
                String how = line.substring(0, line.indexOf(' '));
                String asked = line.substring(how.length() + 1, Math.max(arrow, how.length() + 1));
                cases.add(Arguments.of(product, how, asked, line.substring(line.lastIndexOf(' ') + 1)));
            }
        }
        return cases.stream();
    }

    @ParameterizedTest(name = "{1} {2} -> {3} in {0}")
    @MethodSource("languages")
    void whichLanguageIsMeant(String product, String how, String asked, String language) {
        LanguageResolver resolver = new LanguageResolver(product(product));
        LanguageResolver.Answer answer =
                switch (how) {
                    case "number" -> resolver.number(asked);
                    case "tag" -> resolver.tag(asked);
                    case "list" -> resolver.list(asked);
                    default ->
                        resolver.address(asked.substring(0, asked.indexOf('/')), asked.substring(asked.indexOf('/')));
                };
        assertThat(answer.language().value()).as(Step.line(answer.steps())).isEqualTo(language);
        assertThat(answer.steps()).last().extracting(Step::said).isEqualTo(language);
        assertThat(answer.steps()).first().extracting(Step::said).isEqualTo(asked);
    }

    static Stream<Arguments> texts() throws IOException {
        List<Arguments> cases = new ArrayList<>();
        String product = "";
        String source = "";
        for (String line : lines("texts.cases")) {
            if (line.startsWith("product ")) {
                product = line.substring(8);
            } else if (line.startsWith("source ")) {
                source = line.substring(7);
            } else {
                String[] halves = line.split(" -> ");
                String[] given = (halves[0] + " ").split("\\|", 2);
                cases.add(Arguments.of(product, source, given[0].strip(), given[1].strip(), halves[1]));
            }
        }
        return cases.stream();
    }

    @ParameterizedTest(name = "{2} | {3} -> {4}")
    @MethodSource("texts")
    void whichTextIsShown(String product, String source, String given, String sourceText, String shown) {
        String[] words = given.split(" ");
        Map<LanguageTag, FileText> inForce = new HashMap<>();
        for (String word : Arrays.copyOfRange(words, 1, words.length)) {
            String text = word.substring(word.indexOf(':') + 1);
            // Blanks are a text; they cannot be written in a table of cases.
            inForce.put(
                    new LanguageTag(word.substring(0, word.indexOf(':'))),
                    FileText.plain(text.equals("_") ? " " : text));
        }
        TextResolver resolver = new TextResolver(product(product), new LanguageTag(words[0]), new LanguageTag(source));
        TextResolver.Answer answer =
                resolver.of(tag -> inForce.getOrDefault(tag, FileText.NONE), FileText.plain(sourceText), true);
        String text = answer.text().main().equals(" ") ? "_" : answer.text().main();
        assertThat(((answer.borrowed() ? "+" : "") + answer.from() + " " + text).strip())
                .as(Step.line(answer.steps()))
                .isEqualTo(shown);
    }

    @Test
    void whatIsNotForTranslationIsTheSameEverywhereAndNeverBorrowed() {
        TextResolver resolver = new TextResolver(product("fi* de"), new LanguageTag("de"), new LanguageTag("en"));
        TextResolver.Answer answer = resolver.of(tag -> FileText.plain("Laiva"), FileText.plain("Ostrel"), false);
        assertThat(answer.text().main()).isEqualTo("Ostrel");
        assertThat(answer.borrowed()).isFalse();
    }

    @Test
    void theStepsAreASentence() {
        LanguageResolver resolver = new LanguageResolver(product("fi=1* et=2"));
        assertThat(Step.line(resolver.number("7").steps())).isEqualTo("7 → not listed → start language → fi");
        assertThat(Step.line(resolver.tag("et-EE").steps())).isEqualTo("et-EE → et");
        TextResolver texts = new TextResolver(product("fi* et>fi"), new LanguageTag("et"), new LanguageTag("en"));
        assertThat(Step.line(texts.of(
                                tag -> tag.value().equals("fi") ? FileText.plain("Tuuletus auki") : FileText.NONE,
                                FileText.plain("Vent open"),
                                true)
                        .steps()))
                .isEqualTo("et has none → fi: Tuuletus auki");
    }

    @Test
    void aStartThatIsLeftOpenIsTheSourceOrTheFirst() {
        List<ProductLanguage> all = product("fi* en").all();
        assertThat(ProductLanguages.of(all, null, new LanguageTag("en"), Map.of())
                        .start()
                        .value())
                .isEqualTo("en");
        assertThat(ProductLanguages.of(all, null, new LanguageTag("sv"), Map.of())
                        .start()
                        .value())
                .isEqualTo("fi");
        assertThat(start(all, new LanguageTag("fi"))).isEqualTo("fi");
    }

    private static String start(List<ProductLanguage> all, @Nullable LanguageTag chosen) {
        return ProductLanguages.of(all, chosen, new LanguageTag("en"), Map.of())
                .start()
                .value();
    }
}
