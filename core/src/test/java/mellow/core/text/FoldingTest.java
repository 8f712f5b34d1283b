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
    void letterByLetterGivesWhatNormalisingTheWholeGives() {
        int[] beside = {
            'e', 0x301, 0x3099, 0x309A, 0x0C8, 0x142, 0x626, 0x64B, 0x1161, 0xAC00, 0x9BE, 0x30CF, 0x4E00, 0x2026,
            0xFB01
        };
        for (int c = 1; c < Character.MIN_SURROGATE; c++) {
            for (int other : beside) {
                for (String text : new String[] {"" + (char) c + (char) other, "" + (char) other + (char) c}) {
                    assertThat(Folding.fold(text))
                            .as("U+%04X beside U+%04X", c, other)
                            .isEqualTo(Folding.foldTogether(text));
                }
            }
        }
    }

    @Test
    void marksWrittenApartGoToo() {
        assertThat(Folding.fold("e\u0301te\u0301")).isEqualTo("ete");
    }
}
