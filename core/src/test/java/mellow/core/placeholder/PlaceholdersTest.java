package mellow.core.placeholder;

import static org.assertj.core.api.Assertions.assertThat;

import com.ibm.icu.text.MessagePattern;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PlaceholdersTest {

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            value = {
                "nothing here | ",
                "%s and %d | %1$s %2$d",
                "%2$s of %1$d | %2$s %1$d",
                "%-5.2f%% of %05d | %1$f %2$d",
                "%i is %d | %1$d %2$d",
                "%ld and %lld | %1$ld %2$lld",
                "%@ in %1$@ | %1$@ %1$@",
                "100 % der | ",
                "50% off | ",
                "5 %d | %1$d",
                "%*d | %1$d",
                "%(name)s has %(n)05d | %(name)s %(n)d",
                "{0} of {1} | {0} {1}",
                "{name}, { name } | {name} {name}",
                "{} and {a b} | ",
                "{{name}} and {{ count }} | {{name}} {{count}}",
                "{{{raw}}} | {{raw}}",
                "${name} and ${a.b} | ${name} ${a.b}",
                "<b>x</b><br/> | <b> </b> <br/>",
                "<a href=~~x~~>y</a> | <a> </a>",
                "<g id=\"1\">x</g> <x id=\"2\"/> | <g 1> </g> <x 2/>",
                "a < b > c | ",
                "#deck# and #1 | #deck#",
                "#deck#ramp# | #deck#",
                "{n, plural, one {# car} other {# cars}} | {n,plural}",
                "{g, select, f {her {x}} other {his {x}}} | {g,select} {x} {x}",
                "{d, date, short} at {t, time} | {d,date} {t,time}",
                "{n, plural, one {<b>#</b>} other {{n} %s}} | {n,plural} <b> </b> {n}"
            })
    void whatIsFound(String text, String identities) {
        List<String> expected = identities == null ? List.of() : List.of(identities.split(" (?=[%{$<#])"));
        assertThat(Placeholders.COMMON.in(text))
                .extracting(Placeholder::identity)
                .isEqualTo(expected);
        for (Placeholder placeholder : Placeholders.COMMON.in(text)) {
            assertThat(text.substring(placeholder.start(), placeholder.end())).isEqualTo(placeholder.spelled());
        }
    }

    @Test
    void patternsOfATableCountFirst() {
        Placeholders own = Placeholders.with(List.of("\\[\\[[a-z]+\\]\\]", "\\{[A-Z]+:\\d\\}"));
        assertThat(own.in("[[ramp]] {DECK:3} {0}"))
                .extracting(Placeholder::identity)
                .containsExactly("[[ramp]]", "{DECK:3}", "{0}");
    }

    @ParameterizedTest(name = "{0} / {1}")
    @CsvSource(
            delimiter = '|',
            value = {
                "%s of %d | %2$d/%1$s | | ",
                "%s of %d | %d/%s | %s,%d | %d,%s",
                "%s and %s | %s | %s | ",
                "{0} | {0} {0} | | {0}",
                "{name} | {nome} | {name} | {nome}",
                "<b>x</b> | x | <b>,</b> | ",
                "<x id=\"1\"/><x id=\"2\"/> | <x id=\"2\"/><x id=\"1\"/> | | ",
                "{n, plural, one {{a} car} other {{a} cars}} | {n, plural, one {{a}} few {{a}} many {{a}} other {{a}}} | | ",
                "{n, plural, one {#} other {#}} | # | {n, plural, one {#} other {#}} | ",
                "50% off | 50 % weg | | "
            })
    void whatATranslationLacks(String source, String translation, String missing, String extra) {
        Placeholders.Difference difference = Placeholders.COMMON.compare(source, translation);
        assertThat(String.join(",", difference.missing())).isEqualTo(missing == null ? "" : missing);
        assertThat(String.join(",", difference.extra())).isEqualTo(extra == null ? "" : extra);
        assertThat(difference.none()).isEqualTo(missing == null && extra == null);
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            value = {
                "{n, plural, one {x}} | the argument “n” has no branch “other” | 19",
                "{n, plural, one {x} one {y} other {z}} | the branch “one” twice | 20",
                "{n, plural, lots {x} other {z}} | “lots”, which is no branch of a plural | 12",
                "{n, plural, one {x other {z}} | the argument “n” has no branch “other” | 29",
                "{n, nonsense} | “nonsense”, which is no type | 0",
                "{n | “,” or “}” is missing after “n” | 2",
                "a } b | “}” that closes nothing | 2",
                "{} | an argument's name is missing | 1",
                "{a b} | “,” or “}” is missing after “a” | 3"
            })
    void whereAMessageIsBroken(String pattern, String error, int at) {
        IcuMessage message = IcuMessage.parse(pattern);
        assertThat(message.error()).contains(error);
        assertThat(message.errorAt()).isEqualTo(at);
        assertThat(message.typed()).isFalse();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "It''s {n, plural, =0 {none} one {'#' is # car} other {# cars}}",
                "'{quoted}' {a}",
                "{n, plural, offset:1 one {x} other {y}}",
                "{g, select, female {{n, plural, one {her # car} other {her # cars}}} other {x}}",
                "{n, number, #,##0.00}",
                "{n, selectordinal, one {#st} other {#th}}",
                "{0, date, yyyy-MM-dd}",
                "{ n , plural , other { } }",
                "don't {a}",
                "{a}'{'",
                "{日本}",
                "{n, spellout}",
                "{n, plural, offset: 2 other {#}}"
            })
    void soundMessagesAreThoseOfIcu(String pattern) {
        assertThat(IcuMessage.parse(pattern).error()).isNull();
        assertThat(names(new MessagePattern(pattern)))
                .isEqualTo(IcuMessage.parse(pattern).arguments().stream()
                        .map(IcuMessage.Argument::name)
                        .toList());
    }

    private static List<String> names(MessagePattern pattern) {
        return IntStream.range(0, pattern.countParts())
                .mapToObj(pattern::getPart)
                .filter(part -> part.getType() == MessagePattern.Part.Type.ARG_NAME
                        || part.getType() == MessagePattern.Part.Type.ARG_NUMBER)
                .map(pattern::getSubstring)
                .toList();
    }

    /** Whatever ICU refuses, we do not take for a sound message; whatever we refuse, ICU need not (its types are open). */
    @Test
    void nothingThatIcuRefusesIsSound() {
        Random random = new Random(5);
        String[] pieces = {
            "{",
            "}",
            "n",
            ",",
            " plural",
            " select",
            ",",
            "one",
            "other",
            " ",
            "'",
            "#",
            "{x}",
            "=1",
            "{n, plural, other {",
            "a"
        };
        int sound = 0;
        for (int i = 0; i < 20_000; i++) {
            StringBuilder pattern = new StringBuilder();
            for (int j = random.nextInt(9); j >= 0; j--) {
                pattern.append(pieces[random.nextInt(pieces.length)]);
            }
            if (IcuMessage.parse(pattern.toString()).typed()) {
                sound++;
                assertThat(names(new MessagePattern(pattern.toString())))
                        .as(pattern.toString())
                        .isNotEmpty();
            }
        }
        assertThat(sound).isPositive();
    }
}
