package mellow.core.placeholder;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Messages as ICU's MessageFormat defines them: quoting, branches, styles; what is wrong with others, and where. */
class IcuMessageTest {

    private static String told(String message) {
        IcuMessage parsed = IcuMessage.parse(message);
        String arguments = parsed.arguments().stream()
                .map(one -> one.name() + ":" + one.type() + String.join("/", one.selectors()) + "@" + one.start() + "-"
                        + one.end())
                .collect(Collectors.joining(" "));
        return parsed.error() == null ? arguments : "! " + parsed.errorAt() + " " + parsed.error();
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            emptyValue = "",
            value = {
                "Up|``",
                "{n}|n:@0-3",
                "{ n }|n:@0-5",
                "a{n}b{m}|n:@1-4 m:@5-8",
                "{n,number}|n:number@0-10",
                "{n , number , #,##0}|n:number@0-20",
                "{d, date, yyyy'}'mm}|d:date@0-20",
                "{d, date, {x}y}|d:date@0-15",
                "{d, date, 'it''s'}x|d:date@0-18",
                "{n, plural, one {a} other {b}}|n:pluralone/other@0-30",
                "{n,plural,offset:1 =0{a}other{b}}|n:plural=0/other@0-33",
                "{n,plural,offset: 1 other{b}}|n:pluralother@0-29",
                "{s, select, a {x {n}} other {y}}|s:selecta/other@0-32 n:@17-20",
                "'{n}'|``",
                "''{n}''|n:@2-5",
                "'{n''}' {m}|m:@8-11",
                "it's {n}|n:@5-8",
                "'{n|``",
                "{n, plural, other {'#' {m}}}|n:pluralother@0-28 m:@23-26",
                "'#' {n}|n:@4-7",
                "{s, select, other {'# {n}}}|s:selectother@0-27 n:@22-25",
                "}|! 0 “}” that closes nothing",
                "a}|! 1 “}” that closes nothing",
                "{|! 1 an argument's name is missing",
                "{n|! 2 “,” or “}” is missing after “n”",
                "{n, plural}|! 10 the branches of “n” are missing",
                "{n, plural, one {a}}|! 19 the argument “n” has no branch “other”",
                "{n, plural, other {a} other {b}}|! 22 the branch “other” twice",
                "{n, plural, some {a} other {b}}|! 12 “some”, which is no branch of a plural",
                "{s, select, =1 {a} other {b}}|! 12 “=1”, which is no branch of a select",
                "{n, plural, one a other {b}}|! 16 “{” is missing after the branch “one”",
                "{n, plural, other {a}|! 21 “}” is missing for the argument “n”",
                "{n, plural, other {a|! 20 a branch without its closing “}”",
                "{n, thing}|! 0 “thing”, which is no type of argument",
                "{01}|! 0 “01”, which is no argument's name",
                "{n, number, x|! 13 “}” is missing for the argument “n”",
            })
    void messages(String message, String expected) {
        assertThat(told(message)).isEqualTo(expected);
    }

    @Test
    void branchesNestSoDeepAndNoDeeper() {
        String deep = "{s, select, other {".repeat(50) + "x" + "}}".repeat(50);
        assertThat(IcuMessage.parse(deep).error()).isNull();
        String deeper = "{s, select, other {".repeat(51) + "x" + "}}".repeat(51);
        assertThat(IcuMessage.parse(deeper).error()).startsWith("branches nested deeper than ");
    }

    @Test
    void argumentsAreToldInTheOrderOfTheirPlaces() {
        assertThat(told("{s, select, a {{x}} other {{y}}} {z}"))
                .isEqualTo("s:selecta/other@0-32 x:@15-18 y:@27-30 z:@33-36");
    }
}
