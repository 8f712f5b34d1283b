package mellow.core.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

class TextTest {

    @Test
    void aPlainTextHasOneForm() {
        Text plain = Text.plain("Ramp up");
        assertThat(plain.forms()).isEqualTo(Map.of(Text.OTHER, "Ramp up"));
        assertThat(plain.main()).isEqualTo("Ramp up");
        assertThatThrownBy(() -> Text.plain("")).hasMessage("an empty text is the absence of a text");
    }

    @Test
    void itsMainFormIsOtherOrElseTheLast() {
        assertThat(new Text(new TreeMap<>(Map.of("one", "car", "other", "cars", "two", "cars (two)"))).main())
                .isEqualTo("cars");
        assertThat(new Text(new TreeMap<>(Map.of("0", "Off", "1", "On"))).main())
                .isEqualTo("On");
        assertThatThrownBy(() -> new Text(new TreeMap<>())).hasMessage("a text needs at least one form");
    }

    @Test
    void itsFormsAreItsOwn() {
        SortedMap<String, String> forms = new TreeMap<>(Map.of("other", "Ramp"));
        Text text = new Text(forms);
        forms.put("other", "Door");
        assertThat(text.main()).isEqualTo("Ramp");
        assertThatThrownBy(() -> text.forms().put("other", "x")).isInstanceOf(UnsupportedOperationException.class);
    }
}
