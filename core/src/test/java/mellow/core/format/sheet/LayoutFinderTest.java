package mellow.core.format.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import mellow.core.format.sheet.Column.Role;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LayoutFinderTest {

    private static List<List<String>> rows(String sheet) {
        return Arrays.stream(sheet.split("/", -1))
                .map(row -> List.of(row.split(",", -1)))
                .toList();
    }

    /** "row: KEY en de -" with a dash for a column left out. */
    private static String shown(SheetLayout layout) {
        return layout.headerRow() + ": "
                + layout.columns().stream()
                        .map(column -> column.language()
                                .map(Object::toString)
                                .orElse(
                                        column.role() == Role.IGNORED
                                                ? "-"
                                                : column.role().name()))
                        .collect(Collectors.joining(" "));
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            value = {
                "plain|key,en,de/a,b,c|0: KEY en de",
                "a title above|Panel texts,,/key,en,de/a,b,c|1: KEY en de",
                "two titles and a date|Panel,,/As of 2026-10-01,,/ID,English,Deutsch/a,b,c|2: KEY en de",
                "the first cell blank on purpose|,en,de/a,b,c|0: KEY en de",
                "keys found by their looks|Label,en/a.b,Ja/c.d,Nein|0: KEY en",
                "a first column of sentences is no key|Text,en/one two,Ja/three four,Nein|0: - en",
                "a first column with a word twice is no key|Label,en/a,Ja/a,Nein|0: - en",
                "everything a sheet may say|Key,Context,Section,Comment,Max chars,Where used,en|0: KEY CONTEXT SECTION NOTE LIMIT REFERENCE en",
                "the second note is left out|Key,Note,Comment,en|0: KEY NOTE - en",
                "id beside a key is Indonesian|Key,id,ms|0: KEY id ms",
                "id alone is the key|id,en,ms|0: KEY en ms",
                "spellings|KEY_ID,EN-us,pt_br,zh_Hant|0: KEY en-US pt-BR zh-Hant",
                "a table of language names has its header above|key,en,de/lang.de,German,Deutsch/lang.fi,Finnish,Finnisch|0: KEY en de",
                "columns that say nothing are left out|key,Status,en,Reviewed by|0: KEY - en -",
                "what is only called the source is English|key,Source text,de,fi|0: KEY en de fi",
                "a source beside English is not guessed at|key,source,en,de|0: KEY - en de",
                "a source that tells its language is in it|key,source (de),fi|0: KEY de fi",
                "only one source is taken|key,Original,Source,de|0: KEY en - de",
                "no header at all|a,b,c/1,2,3|-1: "
            })
    void finds(String what, String sheet, String layout) {
        assertThat(shown(LayoutFinder.find(rows(sheet))))
                .isEqualTo(layout == null ? "" : layout.strip().equals("-1:") ? "-1: " : layout);
    }

    @Test
    void aPersonMaySayWhichRowIsTheHeader() {
        assertThat(shown(LayoutFinder.withHeader(rows("English,German,Finnish/key,en,de/a,b,c"), 1)))
                .isEqualTo("1: KEY en de");
    }

    @Test
    void saysEverythingThatStandsAgainstALayout() {
        assertThat(LayoutFinder.find(rows("x,y/1,2")).flaws())
                .extracting(SheetLayout.Flaw::found)
                .containsExactly("no column is headed by a language");
        assertThat(LayoutFinder.find(rows("en,de,German/a b,b,c/a b,b,c")).flaws())
                .extracting(SheetLayout.Flaw::found)
                .containsExactly(
                        "the header has no column of keys", "the columns 2 (“de”) and 3 (“German”) are both de");
        SheetLayout twoKeys = new SheetLayout(
                0, List.of(Column.of("a", Role.KEY), Column.of("b", Role.KEY), Column.of("c", Role.IGNORED)));
        assertThat(twoKeys.flaws()).extracting(SheetLayout.Flaw::found).contains("2 columns are said to hold the key");
    }
}
