package mellow.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

class ShapeTest {

    private static final List<String> POLISH = List.of("one", "few", "many", "other");

    private static SortedMap<String, String> forms(String... namesAndTexts) {
        SortedMap<String, String> forms = new TreeMap<>();
        for (int i = 0; i < namesAndTexts.length; i += 2) {
            forms.put(namesAndTexts[i], namesAndTexts[i + 1]);
        }
        return forms;
    }

    @Test
    void aPlainTextHasOneForm() {
        assertThat(Shape.PLAIN.misfit(forms("other", "Rampe"), POLISH)).isEmpty();
        assertThat(Shape.PLAIN.misfit(forms("one", "Rampe"), POLISH))
                .hasValueSatisfying(s -> assertThat(s).contains("“one”"));
    }

    @Test
    void aPluralTextHasTheFormsOfItsLanguage() {
        assertThat(Shape.PLURAL.misfit(forms("one", "bilet", "few", "bilety", "many", "biletów"), POLISH))
                .isEmpty();
        assertThat(Shape.PLURAL.misfit(forms("two", "bilety", "other", "biletu"), POLISH))
                .hasValue("“two” is no plural form of this language; it has one, few, many, other.");
    }

    @Test
    void statesAreNumberedFromZero() {
        assertThat(Shape.STATES.misfit(forms("0", "off", "1", "on", "12", "fault"), POLISH))
                .isEmpty();
        for (String wrong : List.of("-1", "01", "64", "100", "on")) {
            assertThat(Shape.STATES.misfit(forms("0", "off", wrong, "x"), POLISH))
                    .as(wrong)
                    .isPresent();
        }
    }

    @Test
    void anAssetIsANameAndAFile() {
        assertThat(Shape.ASSET.misfit(forms("other", "ramp.png", "file", "12"), POLISH))
                .isEmpty();
        assertThat(Shape.ASSET.misfit(forms("other", "ramp.png", "size", "12"), POLISH))
                .isPresent();
    }

    @Test
    void formsWithoutTextAreNoText() {
        assertThat(Shape.PLURAL.misfit(forms("one", "", "other", ""), POLISH)).isPresent();
        assertThat(Shape.text(forms("one", "", "other", "biletu")).forms()).isEqualTo(Map.of("other", "biletu"));
    }

    @Test
    void namesAreReadBack() {
        for (Shape shape : Shape.values()) {
            assertThat(Shape.of(shape.word())).hasValue(shape);
        }
        assertThat(Shape.of("Plain")).isEmpty();
    }
}
