package mellow.core.text;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FoldingTest {

    @ParameterizedTest
    @CsvSource({
        "käyttöönotto, kayttoonotto",
        "Łódź żółw, Lodz zolw",
        "Søren smørrebrød, Soren smorrebrod",
        "Straße, Strasse",
        "ação São, acao Sao",
        "Œuvre æther, OEuvre aether",
        "Ελληνικά, Ελληνικα",
        "ёлка, елка",
        "مُحَمَّد, محمد",
        "الـــــسلام, السلام",
        "ﬁle, file",
        "Ｄｅｃｋ, Deck",
        "ガギグ, ガギグ",
        "한국어, 한국어",
    })
    void accentsGoAndLettersStay(String text, String folded) {
        assertThat(Folding.fold(text)).isEqualTo(folded);
    }

    @Test
    void whatHasNoAccentsIsTheSameObject() {
        String plain = "Ramp up";
        String kana = "ランプを上げる";
        assertThat(Folding.fold(plain)).isSameAs(plain);
        assertThat(Folding.fold(kana)).isSameAs(kana);
    }

    @Test
    void marksWrittenApartGoToo() {
        assertThat(Folding.fold("e\u0301te\u0301")).isEqualTo("ete");
    }
}
