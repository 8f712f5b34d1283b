package mellow.core.language;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class LanguageTagTest {

    @ParameterizedTest
    @CsvSource({
        "de, de",
        "DE, de",
        "en_US, en-US",
        "en-us, en-US",
        "pt_BR, pt-BR",
        "PT-br, pt-BR",
        "zh_hant_tw, zh-Hant-TW",
        "de_DE.UTF-8, de-DE",
        "sr@latin, sr-Latn",
        "sr_RS@latin, sr-Latn-RS",
        "es-419, es-419",
        "fil, fil",
        "sl-rozaj, sl-rozaj",
        "' fi ', fi"
    })
    void readsAnyCommonSpelling(String spelling, String canonical) {
        assertThat(LanguageTag.parse(spelling)).map(LanguageTag::value).contains(canonical);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "key",
                "max",
                "note",
                "English",
                "e",
                "en--US",
                "en_",
                "12",
                "qq",
                "xx-YY",
                "de DE",
                "en-US;q=0.8"
            })
    void refusesWhatIsNoTag(String spelling) {
        assertThat(LanguageTag.parse(spelling)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "German, de",
        "deutsch, de",
        "Suomi, fi",
        "Portuguese (Brazil), pt-BR",
        "Brazilian Portuguese, pt-BR",
        "português (Brasil), pt-BR",
        "German (de), de",
        "Japanese [ja], ja",
        "日本語, ja",
        "العربية, ar",
        "English (source), en",
        "en - English, en",
        "polski, pl",
        "EESTI, et"
    })
    void recognisesNamesInHeadings(String heading, String tag) {
        assertThat(LanguageNames.recognise(heading)).map(LanguageTag::value).contains(tag);
    }

    @ParameterizedTest
    @ValueSource(strings = {"Key", "Notes", "Deck 5", "Status", "", "(source)", "Text (long)"})
    void recognisesNoLanguageInOtherHeadings(String heading) {
        assertThat(LanguageNames.recognise(heading)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"pl, 'one,few,many,other'", "ar, 'zero,one,two,few,many,other'", "ja, other", "de, 'one,other'"})
    void knowsPluralCategories(String tag, String categories) {
        assertThat(String.join(",", Language.of(new LanguageTag(tag)).plurals().keySet()))
                .isEqualTo(categories);
    }

    @Test
    void knowsDirectionAndExamples() {
        Language arabic = Language.of(new LanguageTag("ar"));
        assertThat(arabic.rightToLeft()).isTrue();
        assertThat(arabic.script()).isEqualTo("Arab");
        assertThat(Language.of(new LanguageTag("pl")).plurals()).containsEntry("few", "2, 3, 4, 22");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "zh-Hans",
                "zh-Hant-TW",
                "sr-Latn",
                "es-419",
                "en-001",
                "ja-Jpan",
                "ca-valencia",
                "de-CH-1996",
                "pt-BR",
                "az-Cyrl-AZ"
            })
    void takesWhatIsRegistered(String tag) {
        assertThat(LanguageTag.parse(tag)).contains(new LanguageTag(tag));
    }

    @ParameterizedTest
    @ValueSource(strings = {"de-QX", "de-Qqqq", "de-999", "de-Abcd-DE"})
    void refusesScriptsAndRegionsThatAreNone(String tag) {
        assertThat(LanguageTag.parse(tag)).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({
        "de, true",
        "pt-BR, true",
        "zh-Hant-TW, true",
        "ca-valencia, true",
        "en-ending, false",
        "de-CH-1996, false",
        "en-x-quot, false",
        "de-u-co-phonebk, false"
    })
    void isPlainWithoutWhatOnlyItsWriterKnows(String tag, boolean plain) {
        assertThat(new LanguageTag(tag).plain()).isEqualTo(plain);
    }

    @Test
    void aVeryLongTagIsNoneAndTakesNoTime() {
        assertThat(LanguageTag.parse("de" + "-abcde".repeat(100_000))).isEmpty();
    }
}
