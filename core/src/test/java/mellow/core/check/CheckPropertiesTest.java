package mellow.core.check;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholders;
import mellow.core.text.Shape;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What holds for every text, tried on made-up ones. */
class CheckPropertiesTest {

    private static final int TEXTS = 2_000;
    private static final List<String> WORDS = List.of(
            "ramp",
            "Gate",
            "boarding",
            "closes",
            "in",
            "the",
            "bilge",
            "12",
            "3.5",
            "deck",
            "—",
            "now",
            "Ωmega",
            "100",
            "(low)");
    private static final List<String> PLACEHOLDERS = List.of(
            "{n}",
            "{gate}",
            "{0}",
            "%s",
            "%1$d",
            "%d",
            "%%",
            "%(name)s",
            "%{count}",
            "{{user}}",
            "${price}",
            "#key#",
            "%@",
            "%1",
            "<b>",
            "</b>",
            "<br/>");
    private static final List<String> LANGUAGES = List.of("de", "pl", "ar", "ja", "fr", "tr", "ru", "th", "el", "hy");

    private static Measure plain(String source) {
        return new Measure(Shape.PLAIN, new TreeMap<>(Map.of("other", source)), 0, 0);
    }

    private static SortedMap<String, String> text(String words) {
        return new TreeMap<>(Map.of("other", words));
    }

    private static Ground ground(Random random) {
        return Ground.of(new LanguageTag("en"), new LanguageTag(LANGUAGES.get(random.nextInt(LANGUAGES.size()))));
    }

    /** Words and placeholders in any order. */
    private static String made(Random random, boolean tags) {
        List<String> parts = new ArrayList<>();
        int length = 1 + random.nextInt(8);
        for (int i = 0; i < length; i++) {
            List<String> from = random.nextInt(3) == 0 ? PLACEHOLDERS : WORDS;
            String part = from.get(random.nextInt(from.size()));
            if (tags || !part.startsWith("<")) {
                parts.add(part);
            }
        }
        return parts.isEmpty() ? "ramp" : String.join(" ", parts);
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void aCopyOfTheSourceNeverStops(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < TEXTS; i++) {
            String source = made(random, true);
            assertThat(Checks.blockers(plain(source), text(source), ground(random)))
                    .as(source)
                    .isEmpty();
        }
    }

    @ParameterizedTest
    @ValueSource(longs = {4, 5, 6})
    void aPlaceholderTakenOutOfAPlainTextAlwaysStops(long seed) {
        Random random = new Random(seed);
        int tried = 0;
        for (int i = 0; i < TEXTS; i++) {
            String source = made(random, false);
            for (Placeholder one : Placeholders.COMMON.in(source)) {
                String without = source.substring(0, one.start()) + source.substring(one.end());
                assertThat(Checks.blockers(plain(source), text(without), ground(random)))
                        .as(source + " → " + without)
                        .anyMatch(finding -> finding.kind() == Kind.PLACEHOLDER);
                tried++;
            }
        }
        assertThat(tried).isGreaterThan(TEXTS / 4);
    }

    @ParameterizedTest
    @ValueSource(longs = {7, 8, 9})
    void aMendRemovesItsFindingAndMakesNoOther(long seed) {
        Random random = new Random(seed);
        int mends = 0;
        for (int i = 0; i < TEXTS; i++) {
            String source = made(random, true);
            String words = damaged(made(random, true), source, random);
            if (words.isEmpty()) {
                continue;
            }
            Ground ground = ground(random);
            List<Finding> before = Checks.of(plain(source), text(words), ground);
            for (Finding finding : before) {
                if (finding.mend() != null) {
                    mends++;
                    List<String> left = codes(before);
                    left.remove(finding.code());
                    List<String> after =
                            codes(Checks.of(plain(source), text(finding.mend().text()), ground));
                    after.forEach(code -> assertThat(left.remove(code))
                            .as(source + " → " + words + " → " + finding.mend() + " has " + code)
                            .isTrue());
                }
            }
        }
        assertThat(mends).isGreaterThan(TEXTS / 10);
    }

    private static List<String> codes(List<Finding> found) {
        return new ArrayList<>(found.stream().map(Finding::code).toList());
    }

    /** A text with what people do to texts. */
    private static String damaged(String other, String source, Random random) {
        return switch (random.nextInt(8)) {
            case 0 -> source.replace("{", "{ ");
            case 1 -> source.replace("%s", "% s").replace("%d", "％d");
            case 2 -> " " + source;
            case 3 -> source.replaceFirst(" ", "  ");
            case 4 -> source.replace("</b>", "");
            case 5 -> source.replace("gate", "tor").replace("<b>", "< b>");
            case 6 -> source + "\u0007";
            default -> other;
        };
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{",
                "%",
                "<",
                "<a ",
                "</b>",
                "<b>",
                "\"",
                "Ã",
                "1 ",
                "1.",
                "a a ",
                "\u202A",
                "„",
                "“",
                "#x#",
                "http://",
                "'",
                "\n",
                "{a,plural,",
                "{n} ",
                "% ",
                "＜b",
                "x@y.z ",
                "i ",
                "\u0007",
                "\uD83D"
            })
    void aHundredThousandOfAnythingTakeNoTime(String part) {
        String source = part.repeat(100_000 / part.length());
        String words = "x" + part.repeat(90_000 / part.length());
        Ground ground = Ground.of(new LanguageTag("en"), new LanguageTag("de"));
        org.junit.jupiter.api.Assertions.assertTimeoutPreemptively(java.time.Duration.ofSeconds(60), () -> {
            Checks.of(plain(source), text(words), ground);
            Checks.of(plain("Ramp <b>{n}</b> http://a.example 5"), text(words), ground);
            Checks.of(plain(source), text("Rampe"), ground);
            Checks.ofSource(plain(source), "key", ground);
        });
    }
}
