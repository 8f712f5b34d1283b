package mellow.core.delivery;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** How files are named. */
class FilePatternTest {

    private static String name(String pattern, String tag) {
        return new FilePattern(pattern)
                .name(new FilePattern.Fill(
                        "ramp-panel",
                        "alarms",
                        "Deck/2",
                        new LanguageTag(tag),
                        3,
                        15,
                        "up",
                        "po/old names/de.po",
                        "json"));
    }

    @ParameterizedTest
    @CsvSource(
            textBlock =
                    """
                    {tag}.json,              pt-BR,      pt-BR.json
                    {tag_}.json,             pt-BR,      pt_BR.json
                    {language}.json,         pt-BR,      pt.json
                    values-{tag-r}/s.xml,    pt-BR,      values-pt-rBR/s.xml
                    values-{tag-r}/s.xml,    de,         values-de/s.xml
                    values-{tag-r}/s.xml,    sr-Latn,    values-b+sr+Latn/s.xml
                    values-{tag-r}/s.xml,    es-419,     values-b+es+419/s.xml
                    values-{tag-r}/s.xml,    he,         values-iw/s.xml
                    values-{tag-r}/s.xml,    id,         values-in/s.xml
                    values-{tag-r}/s.xml,    yi,         values-ji/s.xml
                    {selector}.csv,          fi,         3.csv
                    {product}/{number}.{ext}, fi,        ramp-panel/15.json
                    {table}/{section}.po,    fi,         alarms/Deck-2.po
                    {key}_{language}.png,    fi,         up_fi.png
                    game/{path},             fi,         game/po/old names/de.po
                    plain.csv,               fi,         plain.csv
                    """)
    void placesAreFilled(String pattern, String tag, String name) {
        assertThat(name(pattern, tag)).isEqualTo(name);
    }

    @ParameterizedTest
    @CsvSource(
            textBlock =
                    """
                    {tag}/{key}.{ext},                       icons/bell,    de/icons/bell.png
                    media/{key}_{tag}.{ext},                 icons/bell,    media/icons/bell_de.png
                    {folder}/{tag}/{name}.{ext},             signs/exit,    signs/de/exit.png
                    {folder}/{tag}/{name}.{ext},             a/b/exit,      a/b/de/exit.png
                    {folder}/{tag}/{name}.{ext},             exit,          de/exit.png
                    res/drawable-{tag-r}-{folder}/{name}.{ext}, hdpi/logo,  res/drawable-de-hdpi/logo.png
                    res/drawable-{tag-r}-{folder}/{name}.{ext}, logo,       res/drawable-de/logo.png
                    all/{folder}{name}_{tag}.{ext},          logo,          all/logo_de.png
                    {key}_{tag}.{ext},                       logo@2x,       logo_de@2x.png
                    {key}_{tag}.{ext},                       icons/a@1.5x,  icons/a_de@1.5x.png
                    {tag}.lproj/{key},                       logo@3x,       de.lproj/logo@3x
                    {key}_{tag}.{ext},                       ann@2xl,       ann@2xl_de.png
                    {key}_{tag}.{ext},                       a//b,          a/-/b_de.png
                    {key}_{tag}.{ext},                       /a,            -/a_de.png
                    {key}_{tag}.{ext},                       a/,            a/_de.png
                    {key}_{tag}.{ext},                       ../../a,       -/-/a_de.png
                    {folder}/{tag}/{name}.{ext},             ../a,          -/de/a.png
                    {key}_{tag}.{ext},                       a/./b,         a/-/b_de.png
                    {key}_{tag}.{ext},                       a. /b,         a-/b_de.png
                    {key}_{tag}.{ext},                       a\\b:c,        a-b-c_de.png
                    """)
    void filesOfEntriesLieWhereTheirKeysSay(String pattern, String key, String name) {
        assertThat(new FilePattern(pattern)
                        .name(new FilePattern.Fill(
                                "panel", "signs", "", new LanguageTag("de"), null, 1, key, "", "png")))
                .isEqualTo(name);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "../{tag}.json",
                "/{tag}.json",
                "a//{tag}",
                "{tag}/",
                "con.txt",
                "a/NUL",
                "LPT1.{tag}",
                "a:b",
                "a\\b",
                "what?",
                "end.",
                "end ",
                "",
                "a/./b",
                "tab\tin.json",
                "{tags}.json",
                "{}",
                "{TAG}"
            })
    void namesThatNotEveryFileSystemTakesAreRefused(String pattern) {
        assertThatThrownBy(() -> name(pattern, "de")).isInstanceOf(UndeliverableException.class);
    }

    @Test
    void aNameOfOnePartMayBeLongAndNotTooLong() {
        assertThatCode(() -> name("x".repeat(255), "de")).doesNotThrowAnyException();
        assertThatThrownBy(() -> name("ä".repeat(128), "de")).isInstanceOf(UndeliverableException.class);
    }

    @Test
    void aPlaceThatTheFileHasNothingForIsNamed() {
        FilePattern.Fill several = new FilePattern.Fill("p", "t", "", null, null, 1, "", "", "csv");
        assertThatThrownBy(() -> new FilePattern("{tag}.csv").name(several))
                .hasMessage("The name “{tag}.csv” has a place {tag}, and the file is of several languages.");
        FilePattern.Fill unnumbered = new FilePattern.Fill("p", "t", "", new LanguageTag("de"), null, 1, "", "", "csv");
        assertThatThrownBy(() -> new FilePattern("{selector}.csv").name(unnumbered))
                .hasMessage("The name “{selector}.csv” has a place {selector}, and de has no number.");
    }

    @Test
    void twoFilesOfOneNameAreRefusedWhateverTheCase() {
        FilePattern.Names names = new FilePattern.Names();
        names.take("de/Texts.json");
        assertThatThrownBy(() -> names.take("DE/texts.json"))
                .hasMessageContaining("“DE/texts.json” and “de/Texts.json”");
        assertThatThrownBy(() -> names.take("de/Texts.json")).hasMessageContaining("Two files would be called");
        assertThatThrownBy(() -> names.take("de/texts.json/more.json")).hasMessageContaining("a file and a folder");
        assertThatThrownBy(() -> names.take("DE")).hasMessageContaining("a file and a folder");
        names.take("de/texts2.json");
        names.take("de.json");
        names.take("a\u0308.json");
        assertThatThrownBy(() -> names.take("\u00e4.json")).isInstanceOf(UndeliverableException.class);
    }
}
