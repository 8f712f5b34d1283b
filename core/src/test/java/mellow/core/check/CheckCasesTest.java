package mellow.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.wordbook.AgreedTerm;
import org.junit.jupiter.api.DynamicTest;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestFactory;

/**
 * The cases of every kind, right and wrong side by side: {@code language | source | text | ok}, or the codes of what is found, and after {@code =>} the text as
 * the first mend leaves it. {@code plural} or {@code states} before the language says that both sides are forms. Other lines set what holds for the cases below
 * them: {@code max}, {@code lines}, {@code factor}, {@code term}, {@code pattern}, {@code forbid}. ␣ is a space, ¶ a line end.
 */
class CheckCasesTest {

    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final Pattern ESCAPE = Pattern.compile("\\\\u([0-9a-f]{4})");
    /** What nobody can look for in one text, or in any: AssetCheckTest. */
    private static final Set<Kind> WITHOUT_CASES =
            Set.of(Kind.LETTERS, Kind.HOLE, Kind.OTHERWISE, Kind.KEY, Kind.ASSET);

    /** One line of a case file with what was set above it. */
    private record Case(
            Kind kind, String line, Ground ground, Measure measure, SortedMap<String, String> text, String expected) {

        boolean right() {
            return expected.equals("ok");
        }
    }

    /** Reads a file line by line; keeps what is set. */
    private static final class Reader {
        private final Kind kind;
        private final List<AgreedTerm> terms = new ArrayList<>();
        private final List<String> patterns = new ArrayList<>();
        private final List<Case> cases = new ArrayList<>();
        private String forbidden = "";
        private double factor;
        private int max;
        private int lines;

        Reader(Kind kind) {
            this.kind = kind;
        }

        void line(String line) {
            String[] parts = line.split(" \\| ");
            if (parts.length == 4) {
                cases.add(read(line, parts));
            } else {
                set(line);
            }
        }

        private void set(String line) {
            String[] words = line.split(" ");
            if (words[0].startsWith("term")) {
                if (words[0].endsWith("!")) {
                    terms.clear();
                }
                Matcher term = Pattern.compile("term!? (.+?) =\\s*(.*?)\\s*(?:! (.+))?")
                        .matcher(line);
                assertThat(term.matches()).as(line).isTrue();
                terms.add(new AgreedTerm(
                        term.group(1),
                        term.group(2),
                        term.group(3) == null
                                ? List.of()
                                : List.of(term.group(3).split(", "))));
            } else if (words[0].equals("pattern")) {
                patterns.add(words[1]);
            } else if (words[0].equals("forbid")) {
                forbidden = words[1];
            } else {
                for (int i = 0; i < words.length; i += 2) {
                    double number = Double.parseDouble(words[i + 1]);
                    switch (words[i]) {
                        case "max" -> max = (int) number;
                        case "lines" -> lines = (int) number;
                        case "factor" -> factor = number;
                        default -> throw new IllegalArgumentException(line);
                    }
                }
            }
        }

        private Case read(String line, String[] parts) {
            String language = parts[0].strip();
            Shape shape = Shape.PLAIN;
            if (language.indexOf(' ') > 0) {
                shape = Shape.of(language.substring(0, language.indexOf(' '))).orElseThrow();
                language = language.substring(language.indexOf(' ') + 1);
            }
            Settings settings = Settings.of(Map.of(), patterns, forbidden, factor, "");
            Ground ground =
                    Ground.of(ENGLISH, new LanguageTag(language)).with(terms).with(settings);
            Measure measure = new Measure(shape, forms(shape, parts[1]), max, lines);
            return new Case(kind, line, ground, measure, forms(shape, parts[2]), parts[3].strip());
        }
    }

    private static SortedMap<String, String> forms(Shape shape, String words) {
        SortedMap<String, String> forms = new TreeMap<>();
        if (shape == Shape.PLAIN) {
            forms.put("other", spelled(words));
            return forms;
        }
        for (String form : words.split("; ")) {
            forms.put(form.substring(0, form.indexOf(':')), spelled(form.substring(form.indexOf(':') + 2)));
        }
        return forms;
    }

    private static String spelled(String words) {
        return ESCAPE.matcher(words.replace('␣', ' ').replace('¶', '\n'))
                .replaceAll(
                        match -> Matcher.quoteReplacement(Character.toString(Integer.parseInt(match.group(1), 16))));
    }

    private static List<Case> cases() {
        return Arrays.stream(Kind.values())
                .filter(kind -> !WITHOUT_CASES.contains(kind))
                .flatMap(kind -> {
                    Reader reader = new Reader(kind);
                    lines(kind)
                            .filter(line -> !line.isBlank() && !line.startsWith("#"))
                            .forEach(reader::line);
                    return reader.cases.stream();
                })
                .toList();
    }

    private static Stream<String> lines(Kind kind) {
        try (InputStream in = CheckCasesTest.class.getResourceAsStream(kind.word() + ".cases")) {
            assertThat(in).as("cases of " + kind.word()).isNotNull();
            return new String(in.readAllBytes(), StandardCharsets.UTF_8).lines().toList().stream();
        } catch (IOException cannot) {
            throw new UncheckedIOException(cannot);
        }
    }

    @TestFactory
    Stream<DynamicTest> everyCaseIsJudgedRight() {
        return cases().stream()
                .map(one -> DynamicTest.dynamicTest(one.kind.word() + ": " + one.line, () -> judge(one)));
    }

    private static void judge(Case one) {
        List<Finding> found = Checks.of(one.measure, one.text, one.ground).stream()
                .filter(finding -> finding.kind() == one.kind)
                .toList();
        String[] expected = one.expected.split(" => ");
        assertThat(found)
                .as(one.line + " " + found)
                .extracting(Finding::code)
                .containsExactlyInAnyOrder(one.right() ? new String[0] : expected[0].split(" "));
        if (expected.length > 1) {
            assertThat(found.stream().filter(finding -> finding.mend() != null).findFirst())
                    .as("a mend of " + one.line)
                    .hasValueSatisfying(
                            finding -> assertThat(finding.mend().text()).isEqualTo(spelled(expected[1])));
        }
    }

    @TestFactory
    Stream<DynamicTest> everyMendRemovesItsFindingAndMakesNoOther() {
        return cases().stream()
                .filter(one -> !one.right())
                .map(one -> DynamicTest.dynamicTest(one.kind.word() + ": " + one.line, () -> mend(one)));
    }

    private static void mend(Case one) {
        List<Finding> before = Checks.of(one.measure, one.text, one.ground);
        for (Finding finding : before) {
            if (finding.mend() != null) {
                SortedMap<String, String> mended = new TreeMap<>(one.text);
                mended.put(finding.form(), finding.mend().text());
                List<String> after = codes(Checks.of(one.measure, mended, one.ground));
                assertThat(after).hasSizeLessThan(before.size());
                List<String> left = new ArrayList<>(codes(before));
                assertThat(left.remove(finding.code() + finding.form())).isTrue();
                assertThat(left).containsAll(after);
            }
        }
    }

    private static List<String> codes(List<Finding> found) {
        return found.stream().map(finding -> finding.code() + finding.form()).toList();
    }

    @Test
    void thereAreEnoughOfBothInManyLanguages() {
        List<Case> cases = cases();
        long right = cases.stream().filter(Case::right).count();
        Set<String> languages = new HashSet<>();
        cases.forEach(one ->
                languages.add(one.line.substring(0, one.line.indexOf(" |")).replaceAll(".* ", "")));
        assertThat(cases).hasSizeGreaterThanOrEqualTo(400);
        assertThat(right).isGreaterThanOrEqualTo(cases.size() / 2);
        assertThat(languages).hasSizeGreaterThanOrEqualTo(25);
    }
}
