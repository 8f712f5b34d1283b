package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.Optional;
import mellow.core.format.registry.Formats;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Files of programs that look like another format at first sight. */
class DetectionTest {

    private static Optional<String> among(String path, String content) {
        return Formats.detectAmongOthers(path, content.getBytes(StandardCharsets.UTF_8))
                .map(FileFormat::name);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "strings.xml | <resources xmlns:xliff='x'><string name='a'>Up <xliff:g id='n'>1</xliff:g></string></resources> | android",
                "values/app.xml | <resources xmlns:xliff='urn:oasis:names:tc:xliff:document:1.2'><!-- <xliff version='1.2'> --><string name='a'>A</string></resources> | android",
                "res.xml | <?xml version='1.0'?> <!-- like <xliff > --> <resources><string name='a'>A</string></resources> | android",
                "a.xml | <!DOCTYPE tmx SYSTEM 'tmx14.dtd'> <tmx version='1.4'><header/></tmx> | tmx",
                "a.xml | <!DOCTYPE martif [ <!ELEMENT p ANY> ]> <martif type='TBX'><text/></martif> | tbx",
                "a.xml | <x:xliff xmlns:x='urn:oasis:names:tc:xliff:document:1.2' version='1.2'/> | xliff-1.2",
                "a.xlf | <xliff version='1.2'><file/></xliff> | xliff-1.2",
                "a.xml | <?xml version='1.0'?> <xliff version='2.0'><file/></xliff> | xliff-2",
                "de.json | {\"a\": \"A\"} | json",
                "sheet.txt | key,de | csv",
                "de.gmo.po | msgid \"a\" msgstr \"\" | po"
            })
    void isTheFormatOfItsContent(String path, String content, String format) {
        assertThat(among(path, content)).contains(format);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "button.d.ts.map | {\"version\": \"3\"}",
                "Makefile.in.in | NAME = value, other",
                "LICENSE | One, two; three",
                "main.js | --- a: b"
            })
    void codeIsNoTextAmongOtherFiles(String path, String content) {
        assertThat(among(path, content)).isEmpty();
    }
}
