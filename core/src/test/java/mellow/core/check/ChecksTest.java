package mellow.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ChecksTest {

    private static final Ground POLISH = Ground.of(new LanguageTag("en"), new LanguageTag("pl"));
    private static final Ground GERMAN = Ground.of(new LanguageTag("en"), new LanguageTag("de"));

    private static SortedMap<String, String> forms(String... pairs) {
        SortedMap<String, String> forms = new TreeMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            forms.put(pairs[i], pairs[i + 1]);
        }
        return forms;
    }

    private static List<String> found(Measure measure, SortedMap<String, String> text) {
        return Checks.of(measure, text, POLISH).stream()
                .map(finding -> finding.code() + " " + finding.form()
                        + (finding.start() < 0 ? "" : " " + finding.start() + "-" + finding.end()))
                .toList();
    }

    @ParameterizedTest(name = "[{index}] {0} → {1}: {4}")
    @CsvSource(
            delimiter = '|',
            ignoreLeadingAndTrailingWhitespace = true,
            value = {
                "Ramp {n}      | Rampe {n}      | 0  | 0 | ",
                "Ramp {n}      | Rampe          | 0  | 0 | placeholder-missing other",
                "Ramp          | Rampe {n}      | 0  | 0 | placeholder-extra other 6-9",
                "{a} and {b}   | {b} und {a}    | 0  | 0 | ",
                "%s of %s      | %2$s von %1$s  | 0  | 0 | ",
                "%s of %s      | %s             | 0  | 0 | placeholder-missing other",
                "<b>Up</b>     | <b>Hoch</b>    | 0  | 0 | ",
                "<b>Up</b>     | Hoch</b>       | 0  | 0 | tag-missing other",
                "100 % safe    | 100 % sicher   | 0  | 0 | ",
                "Up            | Aufwärts       | 8  | 0 | ",
                "Up            | Aufwärts!      | 8  | 0 | too-long other 8-9;ending-differs other 8-9",
                "Up            | 🚢🚢           | 2  | 0 | ",
                "Up            | 🚢🚢🚢         | 2  | 0 | too-long other 4-6",
                "Up            | A~B            | 0  | 1 | too-many-lines other",
                "Up            | A~B            | 0  | 2 | other-lines other",
                "Up~Down       | A~B            | 0  | 2 | ",
                "Up~Down       | A B            | 0  | 0 | other-lines other",
                "Up_           | Hoch_          | 0  | 0 | ",
                "Up_           | Hoch           | 0  | 0 | outer-space other 4-4",
                "Up            | _Hoch          | 0  | 0 | outer-space other 0-1",
                "Up            | Hoch_          | 0  | 0 | outer-space other 4-5",
                "{n, plural, one {# car} other {# cars}} | {n, plural, one {# auto} few {# auta} many {# aut} other {# auta}} | 0 | 0 | ",
                "{n, plural, one {# car} other {# cars}} | {n, plural, one {# auto} other {# aut} | 0 | 0 | message-broken other 38-38",
                "Up            | Up              | 1  | 0 | too-long other 1-2",
            })
    void aPlainTextBesideItsSource(String source, String text, int maxLength, int maxLines, String codes) {
        Measure measure = new Measure(Shape.PLAIN, forms("other", spelled(source)), maxLength, maxLines);
        assertThat(String.join(";", found(measure, forms("other", spelled(text)))))
                .isEqualTo(codes == null ? "" : codes);
    }

    private static String spelled(String cell) {
        return cell.replace('~', '\n').replace('_', ' ');
    }

    @Test
    void onlyTheMainFormOfAPluralNeedsTheNumber() {
        Measure measure = new Measure(Shape.PLURAL, forms("one", "{n} car", "other", "{n} cars"), 0, 0);
        assertThat(found(
                        measure, forms("one", "jedno auto", "few", "{n} auta", "many", "{n} aut", "other", "{n} auta")))
                .isEmpty();
        assertThat(found(measure, forms("one", "auto {m}", "few", "x", "many", "x", "other", "auta")))
                .containsExactly(
                        "placeholder-missing few",
                        "placeholder-missing many",
                        "placeholder-extra one 5-8",
                        "placeholder-missing other");
        assertThat(Checks.of(measure, forms("other", "{n} auta"), POLISH))
                .extracting(Finding::sentence)
                .containsExactly("Without a text: one, few, many.");
    }

    @Test
    void statesAreHeldAgainstTheirOwnSource() {
        Measure measure = new Measure(Shape.STATES, forms("0", "Off", "1", "On at {v}"), 0, 0);
        assertThat(found(measure, forms("0", "Aus", "1", "An bei {v}"))).isEmpty();
        assertThat(found(measure, forms("0", "Aus {v}"))).containsExactly("placeholder-extra 0 4-7", "form-missing 1");
    }

    @Test
    void assetsAndNothingAreFine() {
        Measure measure = new Measure(Shape.ASSET, forms("other", "sign.png", "file", "1"), 3, 0);
        assertThat(found(measure, forms("other", "schild {n}.png", "file", "2")))
                .isEmpty();
        assertThat(found(new Measure(Shape.PLAIN, forms("other", "{n}"), 0, 0), new TreeMap<>(Map.of())))
                .isEmpty();
    }

    /** Every placeholder of one text against every one of the other would take minutes. */
    @Test
    void thousandsOfPlaceholdersTakeNoTime() {
        StringBuilder few = new StringBuilder();
        StringBuilder many = new StringBuilder();
        for (int i = 0; i < 20_000; i++) {
            few.append("{a").append(i).append("} ");
            many.append("{b").append(i).append("} ");
        }
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> {
            List<Finding> found = Checks.blockers(
                    new Measure(Shape.PLAIN, new TreeMap<>(Map.of("other", few.toString())), 0, 0),
                    new TreeMap<>(Map.of("other", many.toString())),
                    GERMAN);
            assertThat(found).hasSizeBetween(2, 120);
        });
    }

    @Test
    void blockersAreThoseOfAllFindings() {
        Measure measure = new Measure(Shape.PLAIN, new TreeMap<>(Map.of("other", "%d cars left")), 12, 1);
        for (String text : List.of("%d Autos", "Autos", "%d Autos an Bord", "%d\nAutos", " %d %s")) {
            var forms = new TreeMap<>(Map.of("other", text));
            assertThat(Checks.blockers(measure, forms, GERMAN))
                    .as(text)
                    .isEqualTo(Checks.of(measure, forms, GERMAN).stream()
                            .filter(finding -> finding.severity() == Finding.Severity.BLOCKER)
                            .toList());
        }
    }

    /** Sentences and places as people see them; ␣ is a space, ¶ a line end. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            nullValues = "-",
            value = {
                "Up|Hoch|-",
                "Up|␣Hoch|The text begins with a space, other than the source. 0-1",
                "Up|Hoch␣␣|The text ends with a space, other than the source. 4-6",
                "␣Up|Hoch|The text begins without a space, other than the source. 0-0",
                "Up␣|Hoch|The text ends without a space, other than the source. 4-4",
                "␣Up␣|␣Hoch␣|-",
                "Up|␣|The text begins with a space, other than the source. 0-1",
                "Up¶down|Hoch|The source has 2 lines, this text 1. -1--1",
                "Up|Hoch¶runter|The source has one line, this text 2. -1--1",
                "Up|Hoch¶¶x|3 lines, and 2 are allowed. -1--1",
                "Up|Ganz weit oben|14 characters, and 12 are allowed. 12-14",
                "Up {a}|Hoch|The placeholder {a} is missing. -1--1",
                "Up|Hoch {a}|{a} is not in the source. 5-8",
            })
    void sentencesAndPlaces(String source, String text, String expected) {
        Measure measure = new Measure(Shape.PLAIN, forms("other", read(source)), 12, 2);
        List<String> told = Checks.of(measure, forms("other", read(text)), GERMAN).stream()
                .map(finding -> finding.sentence() + " " + finding.start() + "-" + finding.end())
                .toList();
        assertThat(told).isEqualTo(expected == null ? List.of() : List.of(expected));
    }

    private static String read(String shown) {
        return shown.replace('␣', ' ').replace('¶', '\n');
    }

    @Test
    void oneLineTooManyIsSaidInTheSingular() {
        Measure measure = new Measure(Shape.PLAIN, forms("other", "Up"), 0, 1);
        assertThat(Checks.blockers(measure, forms("other", "Hoch\nrunter"), GERMAN))
                .extracting(Finding::sentence)
                .containsExactly("2 lines, and one is allowed.");
        assertThat(Checks.blockers(measure, forms("other", "Hoch"), GERMAN)).isEmpty();
    }

    @Test
    void aTextOfWhichNoSourceIsKnownHasNothingTooMuch() {
        assertThat(Checks.blockers(
                        new Measure(Shape.PLAIN, forms("other", ""), 0, 0), forms("other", "Hoch {n}"), GERMAN))
                .isEmpty();
        assertThat(Checks.blockers(new Measure(Shape.PLAIN, forms(), 0, 0), forms("other", "Hoch {n}"), GERMAN))
                .isEmpty();
    }

    @Test
    void aMessageThatCannotBeReadSaysWhere() {
        Measure measure = new Measure(Shape.PLAIN, forms("other", "{n, plural, one {a} other {b}}"), 0, 0);
        assertThat(Checks.blockers(measure, forms("other", "{n, plural, one {a}"), GERMAN))
                .singleElement()
                .satisfies(finding -> {
                    assertThat(finding.code()).isEqualTo("message-broken");
                    assertThat(finding.sentence()).startsWith("The message cannot be read at character 20: ");
                    assertThat(finding.start()).isEqualTo(19);
                    assertThat(finding.end()).isEqualTo(19);
                });
    }
}
