package mellow.core.memory;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SimilarityTest {

    @ParameterizedTest(name = "{0} ~ {1}: {2} to {3} %")
    @CsvSource({
        "Ramp up, Ramp up, 100, 100",
        "Ramp up, Ramp Up, 95, 99",
        "Ramp {n} up, Ramp {m} up, 95, 99",
        "Ramp {n} up, Ramp up, 60, 85",
        "Ramp blocked by vehicle, Door blocked by vehicle, 75, 90",
        "Ramp blocked, Ramp blocked at hinge, 50, 65",
        "Ramp, Lifeboat drill at nine, 0, 25",
        "'', Ramp, 0, 0",
        "船, 船, 100, 100",
        "船倉, 船室, 50, 50",
        "Deck 5 is closed, Deck 12 is closed, 97, 99",
        "Deck 5 is closed, Deck 5.5 is closed, 97, 99",
        "5 and 6, 5.6 and, 68, 68",
        "Ramp {n} up, Ramp %s up, 96, 97",
        "<b>Ramp</b> up, {b}Ramp{c} up, 92, 95",
    })
    void likeness(String one, String other, int least, int most) {
        assertThat(Similarity.to(one).percent(other)).isBetween(least, most);
    }

    @Test
    void seesTheWordsInsideMessages() {
        Similarity cars = Similarity.to("{n, plural, one {# car waits} other {# cars wait}}");
        assertThat(cars.percent("{n, plural, one {# harbour is closed} other {# harbours are closed}}"))
                .as("the same argument and other words")
                .isLessThan(50);
        assertThat(cars.percent("{m, plural, one {# car waits} other {# cars wait}}"))
                .isBetween(97, 99);
        assertThat(cars.percent("{n, plural, one {# car waits} few {} other {# cars wait}}"))
                .as("its branches are part of the argument")
                .isBetween(97, 99);
        assertThat(cars.percent("{n,plural,one{# car waits}other{# cars wait}}"))
                .as("syntax is nothing")
                .isEqualTo(99);
        assertThat(Similarity.to("{n, plural, other {{who} waits}}").percent("{n, plural, other {{whom} waits}}"))
                .isBetween(97, 99);
        assertThat(Similarity.to("{d, date} is free").percent("{d, time} is free"))
                .isBetween(97, 99);
    }

    @Test
    void longTextsAreComparedByTheirBeginnings() {
        String long1 = "ramp ".repeat(1000);
        assertThat(Similarity.to(long1).percent(long1 + "down")).isEqualTo(99);
        assertThat(Similarity.to(long1).percent("ramp ".repeat(300))).isEqualTo(75);
    }

    @Test
    void isTheSameBothWaysAndHundredOnlyForEqualTexts() {
        Random random = new Random(11);
        for (int i = 0; i < 500; i++) {
            String one = text(random);
            String other = random.nextInt(10) == 0 ? one : text(random);
            int likeness = Similarity.to(one).percent(other);
            assertThat(likeness).isEqualTo(Similarity.to(other).percent(one)).isBetween(0, 100);
            assertThat(likeness == 100).as(one + " ~ " + other).isEqualTo(one.equals(other));
        }
    }

    private static String text(Random random) {
        String[] parts = {"ramp ", "Ramp ", "{n} ", "%s ", "<b>", "船", " ", "up"};
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(8); i > 0; i--) {
            text.append(parts[random.nextInt(parts.length)]);
        }
        return text.toString();
    }
}
