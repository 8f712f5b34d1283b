package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FileNamesTest {

    @ParameterizedTest
    @CsvSource({
        "de.json, de, ''",
        "de-DE.yml, de-DE, ''",
        "de_DE.yml, de-DE, ''",
        "zh-Hant-TW.json, zh-Hant-TW, ''",
        "pt-BR/deck.json, pt-BR, deck",
        "i18n/fi.json, fi, i18n",
        "strings_fi.properties, fi, strings",
        "Messages_pt_BR.properties, pt-BR, Messages",
        "messages.sr.xlf, sr, messages",
        "messages.sr-Latn.xlf, sr-Latn, messages",
        "deck-side.de.json, de, deck-side",
        "app_zh_Hans_CN.properties, zh-Hans-CN, app",
        "locale/fi/LC_MESSAGES/app.po, fi, app",
        "locale/fi/LC_MESSAGES/fi.po, fi, locale",
        "values-pt-rBR/strings.xml, pt-BR, strings",
        "res/values-fi/strings.xml, fi, strings",
        "values-b+sr+Latn/strings.xml, sr-Latn, strings",
        "values-de-land/strings.xml, de, strings",
        "values-mcc310-mnc004-pt-rBR/strings.xml, pt-BR, strings",
        "fr.lproj/menu.strings, fr, menu",
        "C:\\texts\\de\\deck.po, de, deck"
    })
    void aNameTellsLanguageAndTable(String path, String language, String table) {
        assertThat(FileNames.language(path)).map(Object::toString).contains(language);
        assertThat(FileNames.table(path)).isEqualTo(table);
    }

    @ParameterizedTest
    @CsvSource({
        "strings.xml, strings",
        "values/strings.xml, strings",
        "values-night/strings.xml, strings",
        "values-v21/strings.xml, strings",
        "values-mcc310-mnc004/strings.xml, strings",
        "messages.properties, messages",
        "app.po, app",
        "ramp-panel.csv, ramp-panel",
        "src/web/app.json, app",
        "deck_up.yml, deck_up",
        "x.po, x"
    })
    void wordsOfTwoLettersAreNotAlwaysLanguages(String path, String table) {
        assertThat(FileNames.language(path)).isEmpty();
        assertThat(FileNames.table(path)).isEqualTo(table);
    }

    @Test
    void aPathOfNothingButLanguagesIsLookedAtInFewWays() {
        assertThat(LanguagePart.of("de/".repeat(300) + "de.de.de".repeat(100) + ".json"))
                .hasSizeLessThan(64);
        assertThat(LanguagePart.of("de_".repeat(300) + "de.json")).hasSizeLessThan(64);
    }
}
