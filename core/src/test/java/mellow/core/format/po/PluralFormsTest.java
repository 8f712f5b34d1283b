package mellow.core.format.po;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.ibm.icu.text.PluralRules;
import com.ibm.icu.util.ULocale;
import java.util.Optional;
import java.util.function.IntUnaryOperator;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PluralFormsTest {

    /** The expression in a fresh catalogue gives every number the category that CLDR gives it. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "en", "de", "fr", "es", "pl", "ru", "cs", "ar", "ja", "lt", "lv", "sl", "ga", "cy", "mt", "pt-BR", "fi",
                "et", "he", "ro", "gd", "is", "mk", "br", "da", "fil", "kw", "sh", "dsb", "be", "uk", "hr", "tzm", "gv"
            })
    void whatWeWriteAgreesWithCldr(String language) {
        PluralForms forms = PluralForms.of(Optional.of(new LanguageTag(language.equals("sh") ? "sr" : language)));
        PluralRules rules = PluralRules.forLocale(ULocale.forLanguageTag(language.equals("sh") ? "sr" : language));
        IntUnaryOperator form = PluralExpression.parse(forms.expression());
        for (int n = 0; n <= 1_500; n++) {
            assertThat(forms.categories().get(form.applyAsInt(n)))
                    .as("%s %d", language, n)
                    .isEqualTo(rules.select(n));
        }
        assertThat(forms.categories().get(form.applyAsInt(1_000_000))).isEqualTo(rules.select(1_000_000));
        assertThat(PluralForms.parse(
                                forms.header(), Optional.of(new LanguageTag(language.equals("sh") ? "sr" : language)))
                        .categories())
                .as("reading it again")
                .isEqualTo(forms.categories());
    }

    @ParameterizedTest
    @CsvSource({
        "n, 7, 7",
        "n != 1, 1, 0",
        "n>1 ? 2 : 3, 1, 3",
        "n%10==1 && n%100!=11 ? 0 : 1, 21, 0",
        "n%10==1 && n%100!=11 ? 0 : 1, 11, 1",
        "n==1 || n==2, 2, 1",
        "!n, 0, 1",
        "!!n, 5, 1",
        "2+3*4, 0, 14",
        "(2+3)*4-1, 0, 19",
        "7/2, 0, 3",
        "n<=3, 3, 1",
        "n>=3, 2, 0",
        "1 ? 2 : 0 ? 3 : 4, 0, 2",
        "n/0, 5, -1"
    })
    void expressionsAreThoseOfC(String expression, int n, int value) {
        assertThat(PluralExpression.parse(expression).applyAsInt(n)).isEqualTo(value);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "n +", "n !~ 1", "(n", "n ? 1", "m", "n = 1", "1 2"})
    void whatIsNoExpression(String expression) {
        assertThatThrownBy(() -> PluralExpression.parse(expression)).isInstanceOf(IllegalArgumentException.class);
    }

    @Test
    void aFormWithoutACategoryOfItsOwnStaysUnnamed() {
        PluralForms forms =
                PluralForms.parse("nplurals=3; plural=n==0 ? 0 : n==1 ? 1 : 2;", Optional.of(new LanguageTag("en")));
        assertThat(forms.categories()).containsExactly("", "one", "other");
    }
}
