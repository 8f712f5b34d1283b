package mellow.core.set;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a file of a new language is called among its siblings. */
class SetPathsTest {

    /** "tag=path" each; English is the source. */
    private static List<SetPaths> sets(String... files) {
        return SetPaths.of(Arrays.stream(files)
                .map(file -> file.split("="))
                .map(file -> new KnownFile(
                        file[1],
                        1,
                        new LanguageTag("en"),
                        Optional.of(file[0]).filter(tag -> !tag.equals("?")).map(LanguageTag::new)))
                .toList());
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "en=l/en.yml de=l/de.yml | cy | l/cy.yml",
                "en=l/en.yml pt-BR=l/pt_BR.yml | zh-Hant | l/zh_Hant.yml",
                "en=l/en.yml pt-BR=l/pt-br.yml | zh-Hant-TW | l/zh-hant-tw.yml",
                "en-US=l/en-US.json de-DE=l/de-DE.json fi-FI=l/fi-FI.json | cy | l/cy-GB.json",
                "en-US=l/en-US.json de-DE=l/de-DE.json | pt-BR | l/pt-BR.json",
                "en=m.properties de=m_de.properties | pt-BR | m_pt_BR.properties",
                "en=a/de/app.json de=a/de/x.json | fi | a/de/x.json",
                "en=res/values/s.xml de=res/values-de/s.xml | pt-BR | res/values-pt-rBR/s.xml",
                "en=res/values/s.xml de=res/values-de/s.xml | sr-Latn | res/values-b+sr+Latn/s.xml",
                "sr-Latn=po/sr@latin.po de=po/de.po | uz-Cyrl | po/uz@cyrillic.po",
                "en=de/LC_MESSAGES/x.po fi=fi/LC_MESSAGES/x.po et=et/LC_MESSAGES/x.po | pt-BR | pt_BR/LC_MESSAGES/x.po",
                "en=en/t_en.csv de=de/t_de.csv | fi | fi/t_fi.csv"
            })
    void followsTheOthers(String files, String tag, String path) {
        List<SetPaths> sets = sets(files.split(" "));
        assertThat(sets.isEmpty() ? path : sets.get(0).path(new LanguageTag(tag)))
                .isEqualTo(path);
    }

    @Test
    void knowsItsSourcesByTheBaseTheTemplateOrTheLanguage() {
        assertThat(sets("en=m.properties", "de=m_de.properties").get(0).source())
                .contains("m.properties");
        assertThat(sets("?=po/x.pot", "de=po/de.po", "fi=po/fi.po").get(0).source())
                .contains("po/x.pot");
        assertThat(sets("en=l/en.yml", "de=l/de.yml").get(0).source()).contains("l/en.yml");
        assertThat(sets("fi=po/fi.po", "de=po/de.po").get(0).source()).isEmpty();
    }

    @Test
    void filesThatAreNoSetAreNone() {
        assertThat(sets("?=ramp.csv")).isEmpty();
        assertThat(sets("de=agency/de.csv", "?=ramp.csv")).isEmpty();
    }
}
