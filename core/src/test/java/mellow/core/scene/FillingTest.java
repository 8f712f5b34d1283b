package mellow.core.scene;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.Placeholders;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FillingTest {

    private static Filling fill(Map<String, String> forms, Map<String, String> values, String language) {
        return Filling.of(new TreeMap<>(forms), "", values, new LanguageTag(language), false, Placeholders.COMMON);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "Ramp {n} is open|n|2|en|Ramp 2 is open",
                "Tank %1$s is %2$d %% full|2|75|en|Tank %1$s is 75 % full",
                "%d cars|1|12345|de|12.345 cars",
                "%d cars|1|1234|en|1234 cars",
                "%s km|1|0.1234567|de|0,1234567 km",
                "<b>{a}</b> and %s|2|9|en|<b>{a}</b> and 9",
                "%% of %s|1|75|en|% of 75",
                "100 %% of {n}|n|75|en|100 %% of 75",
                "%(count)d cars|count|5|en|5 cars",
                "%{name} boards|name|Aino|en|Aino boards",
                "${gate}: {{gate}}|gate|B|en|B: B",
                "#gate#|gate|B|en|B",
                "<b>{n}</b>|n|3|en|<b>3</b>",
                "المنحدر {n}|n|14|ar-EG|المنحدر ١٤",
                "{n, plural, one {# car} other {# cars}}|n|1|en|1 car",
                "{n, plural, one {# auto} few {# auta} other {# aut}}|n|3|pl|3 auta",
                "{n, plural, one {# car} other {# cars}}|m|1|en|{n, plural, one {# car} other {# cars}}",
                "{n, number} cars|n|many|en|{n, number} cars",
                "no placeholder|n|1|en|no placeholder",
            })
    void valuesStandWhereThePlaceholdersWere(String text, String name, String value, String language, String filled) {
        assertThat(fill(Map.of("other", text), Map.of(name, value), language).text())
                .isEqualTo(filled);
    }

    @Test
    void whatHasNoValueIsTold() {
        assertThat(fill(Map.of("other", "{a} and {b}"), Map.of("a", "1"), "en"))
                .isEqualTo(new Filling("1 and {b}", "other", "", List.of("{b}")));
        assertThat(fill(Map.of("other", "{n, plural, other {{who} has #, {who}!}}"), Map.of("n", "1"), "en")
                        .lacking())
                .as("once, however often it stands there")
                .containsExactly("{who}");
    }

    @Test
    void theNumberChoosesTheFormAndAStateIsOne() {
        Map<String, String> polish =
                Map.of("one", "{n} auto", "few", "{n} auta", "many", "{n} aut", "other", "{n} auta");
        assertThat(fill(polish, Map.of("n", "5"), "pl")).isEqualTo(new Filling("5 aut", "many", "n", List.of()));
        assertThat(fill(polish, Map.of(), "pl").form()).isEqualTo("other");
        assertThat(fill(Map.of("0", "closed", "1", "open"), Map.of("lamp", "1"), "en")
                        .text())
                .isEqualTo("open");
        assertThat(fill(Map.of("few", "{n} auta", "one", "{n} auto"), Map.of("n", "5"), "pl")
                        .form())
                .as("a language that lacks the form shows what it has")
                .isEqualTo("few");
        assertThat(Filling.of(
                                new TreeMap<>(polish),
                                "few",
                                Map.of("n", "5"),
                                new LanguageTag("pl"),
                                false,
                                Placeholders.COMMON)
                        .form())
                .isEqualTo("few");
    }

    @Test
    void aTextIsCountedByItsOwnValueAndNotByAnotherOfTheScene() {
        Map<String, String> polish = Map.of("one", "{n} auto", "few", "{n} auta", "many", "{n} aut");
        assertThat(fill(polish, Map.of("angle", "14", "n", "3"), "pl"))
                .isEqualTo(new Filling("3 auta", "few", "n", List.of()));
        assertThat(fill(Map.of("one", "a car", "other", "cars"), Map.of("n", "1"), "en"))
                .as("a form may leave its number out")
                .isEqualTo(new Filling("a car", "one", "n", List.of()));
        assertThat(fill(
                        Map.of("other", "{n, plural, one {# auto} few {# auta} other {# aut}}"),
                        Map.of("n", "3"),
                        "pl"))
                .isEqualTo(new Filling("3 auta", "few", "n", List.of()));
    }

    @Test
    void aPlaceMayKeepItsDigits() {
        assertThat(Filling.of(
                                new TreeMap<>(Map.of("other", "{n}")),
                                "",
                                Map.of("n", "14"),
                                new LanguageTag("ar-EG"),
                                true,
                                Placeholders.COMMON)
                        .text())
                .isEqualTo("14");
    }
}
