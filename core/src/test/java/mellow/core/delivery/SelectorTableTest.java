package mellow.core.delivery;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.StringWriter;
import java.util.List;
import java.util.Map;
import mellow.core.delivery.SelectorTable.Row;
import org.junit.jupiter.api.Test;

/** Which number stands for which language, as a product's language switch reads it. */
class SelectorTableTest {

    @Test
    void numbersNamesDirectionsAndTheStart() throws IOException {
        StringWriter out = new StringWriter();
        SelectorTable.csv(
                List.of(
                        new Row(1, "fi", "suomi", "ltr", true),
                        new Row(null, "ar", "العربية", "rtl", false),
                        new Row(1031, "de", "Deutsch; \"kurz\"", "ltr", false),
                        new Row(4, "pt", "a\nb", "ltr", false)),
                ';',
                out);
        assertThat(out)
                .hasToString(
                        "number;tag;name;direction;start\r\n1;fi;suomi;ltr;1\r\n;ar;العربية;rtl;0\r\n1031;de;\"Deutsch; \"\"kurz\"\"\";ltr;0\r\n4;pt;\"a\nb\";ltr;0\r\n");
    }

    @Test
    void aNameIsQuotedWhereTheDelimiterNeedsIt() throws IOException {
        StringWriter out = new StringWriter();
        SelectorTable.csv(List.of(new Row(1, "de", "Deutsch; kurz", "ltr", false)), ',', out);
        assertThat(out.toString()).contains("1,de,Deutsch; kurz,ltr,0").doesNotContain("\"");
    }

    @Test
    void whatStopsARecipeTellsItsCodeAndItsValues() {
        UndeliverableException stopped =
                new UndeliverableException("same-file-name", "Two are called {name}.", Map.of("name", "a.json"));
        assertThat(stopped).hasMessage("Two are called a.json.");
        assertThat(stopped.code()).isEqualTo("same-file-name");
        assertThat(stopped.pattern()).isEqualTo("Two are called {name}.");
        assertThat(stopped.values()).containsEntry("name", "a.json");
    }
}
