package mellow.core.pseudo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import mellow.core.check.Checks;
import mellow.core.check.Finding;
import mellow.core.check.Ground;
import mellow.core.check.Kind;
import mellow.core.check.Measure;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.IcuMessage;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholders;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class PretendTest {

    private static final Placeholders SYNTAX = Placeholders.COMMON;

    private static final Pretend ACCENTS = Pretend.of(Pretend.ACCENTS).orElseThrow();
    private static final Pretend TURNED = Pretend.of(Pretend.RIGHT_TO_LEFT).orElseThrow();

    /** What texts are made of, with everything that must stay and everything that could be taken for something made. */
    private static final List<String> PIECES = List.of(
            "ramp",
            "Lower",
            " ",
            "  ",
            "the",
            "\n",
            "\r\n",
            "12",
            "{n}",
            "{0}",
            "%s",
            "%1$d",
            "%(count)d",
            "%{name}",
            "%%",
            "50 %",
            "${gate}",
            "{{ deck }}",
            "<b>",
            "</b>",
            "<br/>",
            "<a href=\"http://ostrel.example/a\">",
            "</a>",
            "#mark#",
            "#",
            "&amp;",
            "&#8217;",
            "& so",
            "\\n",
            "\\u00e9",
            "\\",
            "http://ostrel.example/x?y=1",
            "crew@ostrel.example",
            "é",
            "ŵ",
            "Ž",
            "·",
            "\u2060",
            "\u202E",
            "\u202C",
            "Ａ",
            "ｚ",
            "\u0325",
            "[",
            "]",
            "'",
            "''",
            "’",
            "😀",
            "ß",
            "甲板",
            "سلام",
            "{",
            "}",
            ",",
            "!",
            "…",
            "I",
            "www.ostrel.example",
            "@",
            "\t",
            "\u00A0",
            "%",
            "q",
            "x",
            "HH:mm",
            "yyyy");

    private static final List<String> MESSAGES = List.of(
            "{n, plural, one {# car} other {# cars}}",
            "{who, select, crew {the crew's} other {'{'them'}'}}",
            "{n, plural, =0 {nothing} one {{what} is} other {{what} are, all # of them}}",
            "{t, date, short}",
            "{n, selectordinal, one {#st} two {#nd} few {#rd} other {#th}}");

    private static List<String> texts(int many) {
        Random random = new Random(21);
        List<String> texts = new ArrayList<>();
        for (int i = 0; i < many; i++) {
            StringBuilder text = new StringBuilder();
            for (int piece = random.nextInt(9); piece >= 0; piece--) {
                text.append(
                        i % 5 == 0 && piece == 2
                                ? MESSAGES.get(random.nextInt(MESSAGES.size()))
                                : PIECES.get(random.nextInt(PIECES.size())));
            }
            texts.add(text.toString());
        }
        texts.addAll(MESSAGES);
        return texts;
    }

    private static List<Pretend> all() {
        List<Pretend> all = new ArrayList<>();
        for (Letters letters : Letters.values()) {
            for (int longer : new int[] {0, 35, 100}) {
                all.add(new Pretend(letters, longer, longer != 35, letters == Letters.PLAIN, 7));
                all.add(new Pretend(letters, longer, longer == 35, letters != Letters.PLAIN, 8));
            }
        }
        all.add(ACCENTS);
        all.add(TURNED);
        return all;
    }

    @Test
    void theSourceCanBeHadBack() {
        for (Pretend pretend : all()) {
            for (String text : texts(3_000)) {
                assertThat(pretend.source(pretend.of(text, SYNTAX), SYNTAX))
                        .as("%s of “%s”", pretend, text)
                        .isEqualTo(text);
            }
        }
    }

    @Test
    void placeholdersAreTheSame() {
        for (Pretend pretend : all()) {
            for (String text : texts(3_000)) {
                assertThat(SYNTAX.in(pretend.of(text, SYNTAX)).stream()
                                .filter(one -> one.kind() != Placeholder.Kind.ICU_ARGUMENT)
                                .map(Placeholder::identity)
                                .toList())
                        .as("%s of “%s”", pretend, text)
                        .isEqualTo(SYNTAX.in(text).stream()
                                .filter(one -> one.kind() != Placeholder.Kind.ICU_ARGUMENT)
                                .map(Placeholder::identity)
                                .toList());
            }
        }
    }

    @Test
    void noCheckStopsIt() {
        Ground ground = Ground.of(new LanguageTag("en"), Pretend.ACCENTS);
        List<Kind> kept = List.of(Kind.PLACEHOLDER, Kind.MARKUP, Kind.MESSAGE, Kind.FORMS);
        for (String text : texts(5_000)) {
            if (text.matches("(?s).*%(?![({]).*")) {
                // A lone per cent sign is wrong in some sources, and stays so.
                continue;
            }
            for (Pretend pretend : List.of(ACCENTS, TURNED)) {
                assertThat(Checks.blockers(
                                        measure(text), new TreeMap<>(Map.of("other", pretend.of(text, SYNTAX))), ground)
                                .stream()
                                .filter(finding -> kept.contains(finding.kind()))
                                .map(Finding::sentence))
                        .as("“%s”", text)
                        .isEmpty();
            }
        }
    }

    private static Measure measure(String text) {
        return new Measure(Shape.PLAIN, new TreeMap<>(Map.of("other", text)), 0, 0);
    }

    @Test
    void theSameSeedSaysTheSameAndAnotherSomethingElse() {
        Pretend one = new Pretend(Letters.ACCENTED, 60, true, false, 1);
        Pretend other = new Pretend(Letters.ACCENTED, 60, true, false, 2);
        String text = "Lower the ramp before the ferry leaves the quay";
        assertThat(one.of(text, SYNTAX)).isEqualTo(one.of(text, SYNTAX)).isNotEqualTo(other.of(text, SYNTAX));
        assertThat(one.of(text, SYNTAX)).hasSameSizeAs(other.of(text, SYNTAX));
    }

    @Test
    void aTextGrowsByWhatIsAskedAndAShortOneByMore() {
        for (int longer = 10; longer <= Pretend.MOST; longer += 10) {
            double before = Double.MAX_VALUE;
            for (int words = 1; words < 40; words++) {
                String text = "ramp ".repeat(words).trim();
                for (Letters letters : List.of(Letters.PLAIN, Letters.ACCENTED, Letters.WIDE)) {
                    Pretend pretend = new Pretend(letters, longer, false, false, words);
                    int grown = pretend.of(text, SYNTAX).length() - text.length();
                    assertThat(grown)
                            .isEqualTo(pretend.growth(text.length()))
                            .isGreaterThanOrEqualTo(text.length() * longer / 100);
                    assertThat(grown).isLessThanOrEqualTo(Math.max(4, (text.length() * longer * 4 + 99) / 100));
                }
                double share = (double) new Pretend(Letters.PLAIN, longer, false, false, 0).growth(text.length())
                        / text.length();
                assertThat(share)
                        .as("%d %% of %d characters", longer, text.length())
                        .isLessThanOrEqualTo(before + 0.06);
                before = share;
            }
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "14:05|14:05",
                "dd.MM.yyyy|dd.MM.yyyy",
                "%d.%m. at %H:%M|%d.%m. at %H:%M",
                "{n} %|{n} %",
                "— / —|— / —",
                "https://ostrel.example/deck|https://ostrel.example/deck",
                "&nbsp;|&nbsp;",
            })
    void whatHasNoWordsStaysAsItIs(String source, String made) {
        assertThat(ACCENTS.of(source, SYNTAX)).isEqualTo(made);
        assertThat(TURNED.of(source, SYNTAX)).isEqualTo(made);
    }

    @Test
    void branchesOfAMessageGrowEachByItself() {
        String made = ACCENTS.of("{n, plural, one {# car waits} other {# cars wait}} on deck", SYNTAX);
        assertThat(made).startsWith("[{n, plural, one {# çàř ŵàîťš·").contains("} öñ đéçķ");
        assertThat(IcuMessage.parse(made).error()).isNull();
        assertThat(made.chars().filter(c -> c == '·').count()).isEqualTo(6);
    }

    @Test
    void wordsThatRunFromRightToLeftAreTurnedBetweenPlaceholders() {
        assertThat(TURNED.of("Lower {n} ramps\nNow", SYNTAX))
                .isEqualTo("\u202ELower\u202C {n} \u202Eramps\u202C\n\u202ENow\u202C");
    }

    @Test
    void onlyTheTagsOfCldrMeanOne() {
        assertThat(Pretend.of(new LanguageTag("en-XA"))).isPresent();
        assertThat(Pretend.of(new LanguageTag("ar-XB"))).get().satisfies(pretend -> assertThat(pretend.mirrored())
                .isTrue());
        assertThat(Pretend.of(new LanguageTag("en-GB"))).isEmpty();
    }

    @Test
    void noTextGrowsWithoutBound() {
        assertThatThrownBy(() -> new Pretend(Letters.PLAIN, 301, false, false, 1))
                .isInstanceOf(IllegalArgumentException.class);
        assertThatThrownBy(() -> new Pretend(Letters.PLAIN, -1, false, false, 1))
                .isInstanceOf(IllegalArgumentException.class);
    }
}
