package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import mellow.core.format.registry.Formats;
import mellow.core.format.registry.Losses;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What cannot be written at all is refused by name, all of it at once. */
class LossesTest {

    private static EntryList list(FileEntry... entries) {
        return EntryList.of(
                Optional.of(WholeRecord.ENGLISH),
                List.of(WholeRecord.ENGLISH, new LanguageTag("de")),
                List.of(entries));
    }

    private static FileEntry plain(String key, String text) {
        return FileEntry.of(key).plain(List.of(text, text)).build();
    }

    @Test
    void allThatStandAgainstAFileAreNamedUpToAHundred() {
        List<FileEntry> entries = new ArrayList<>();
        for (int i = 0; i < 130; i++) {
            entries.add(FileEntry.of("lamp." + i)
                    .shape(i % 10 == 9 ? Shape.PLAIN : Shape.STATES)
                    .plain(List.of("on", "an"))
                    .build());
        }
        EntryList all = list(entries.toArray(FileEntry[]::new));
        FileFormat po = Formats.named("po").orElseThrow();
        Losses losses = Losses.of(po, all);
        assertThat(losses.refusedCount()).isEqualTo(117);
        assertThat(losses.refused()).hasSize(100).startsWith("lamp.0").doesNotContain("lamp.9");
        assertThatThrownBy(() -> Losses.write(po, all, OutputStream.nullOutputStream()))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("PO has no place for lamp.0")
                .hasMessageContaining("116 more: lamp.1, lamp.2")
                .hasMessageContaining("and 17 others");
    }

    @ParameterizedTest(name = "{0}: {1}")
    @CsvSource(
            delimiter = '|',
            value = {
                "csv | a blank key",
                "xlsx | a blank key",
                "ods | a blank key",
                "csv | a key with CR",
                "xlsx | a long text",
                "tbx | a control character",
                "tmx | a control character",
                "android | a control character in the key",
                "xliff-1.2 | a control character",
                "xliff-2 | a control character in the key",
                "json | a context",
                "po | a shape"
            })
    void whatAFormatCannotHoldIsRefusedWithASentence(String format, String what) {
        FileEntry entry =
                switch (what) {
                    case "a blank key" -> plain("  ", "A");
                    case "a key with CR" -> plain("a\rb", "A");
                    case "a long text" -> plain("a", "x".repeat(32_768));
                    case "a control character" -> plain("a", "ring\u0007");
                    case "a control character in the key" -> plain("ring\u0007", "A");
                    case "a context" -> plain("a", "A").in("On the bridge");
                    default -> plain("a", "A").copy().shape(Shape.STATES).build();
                };
        FileFormat known = Formats.named(format).orElseThrow();
        EntryList all = list(entry, plain("b", "B"));
        assertThatThrownBy(() -> Losses.write(known, all, OutputStream.nullOutputStream()))
                .isInstanceOf(UnwritableTextException.class)
                .message()
                .hasSizeGreaterThan(30)
                .endsWith(".");
        assertThat(Losses.of(known, all).refusedCount()).isEqualTo(1);
    }

    @Test
    void marksOfWhatIsNotTranslatedComeWithTheirNamespace() throws Exception {
        FileFormat android = Formats.named("android").orElseThrow();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        String text = "Up <xliff:g id=\"n\">1</xliff:g>, <x:y>words</x:y>";
        EntryList all = list(plain("a", "Deck <xliff:g id=\"n\">1</xliff:g>"), plain("b", text));
        android.write(all, out);
        FileReading read =
                android.read("strings.xml", out.toByteArray(), ReadOptions.AUTOMATIC.in(new LanguageTag("de")));
        assertThat(read.entry(0).text(0)).isEqualTo("Deck <xliff:g id=\"n\">1</xliff:g>");
        assertThat(read.entry(1).text(0)).isEqualTo(text);
        FilePatch patch = android.read(
                        "strings.xml",
                        "<resources><string name=\"a\">A</string></resources>".getBytes(StandardCharsets.UTF_8),
                        ReadOptions.AUTOMATIC)
                .patch();
        assertThatThrownBy(() -> patch.set(0, 0, "<xliff:g id=\"n\">1</xliff:g>"))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("namespace");
    }

    @Test
    void everyLanguageOfItsOwnFileIsLookedAt() {
        List<LanguageTag> languages = List.of(WholeRecord.ENGLISH, new LanguageTag("de"), new LanguageTag("fi"));
        EntryList all = EntryList.of(
                Optional.of(WholeRecord.ENGLISH),
                languages,
                List.of(
                        FileEntry.of("a").plain(List.of("A", "A", "A")).build(),
                        FileEntry.of("b").plain(List.of("B", "", "ring\u0007")).build()));
        Losses losses = Losses.of(Formats.named("xliff-1.2").orElseThrow(), all);
        assertThat(losses.refused()).containsExactly("b");
        assertThat(Losses.of(Formats.named("json").orElseThrow(), all).counts()).containsEntry(Aspect.UNTRANSLATED, 1);
    }

    @Test
    void aTagWithWhatXmlCannotHoldIsNoCode() throws Exception {
        for (String text : List.of("<g id=\"1\" ctype=\"a\rb\">x</g>", "<pc id=\"1\" disp=\"a\rb\"/>")) {
            for (String format : List.of("xliff-1.2", "xliff-2", "tmx")) {
                FileFormat known = Formats.named(format).orElseThrow();
                ByteArrayOutputStream out = new ByteArrayOutputStream();
                known.write(list(plain("a", text)), out);
                StandardRules.check(format, out.toByteArray());
                FileReading read = known.read("t", out.toByteArray(), ReadOptions.AUTOMATIC.in(new LanguageTag("de")));
                assertThat(read.entry(0).text(1)).as(format).isEqualTo(text);
            }
        }
        FileFormat first = Formats.named("xliff-1.2").orElseThrow();
        assertThat(Losses.of(first, list(plain("a", "<g id=\"\u0007\">x</g>"))).refused())
                .containsExactly("a");
    }

    @Test
    void theLongestCellIsWritten() throws Exception {
        FileFormat xlsx = Formats.named("xlsx").orElseThrow();
        Losses.write(xlsx, list(plain("a", "x".repeat(32_767))), OutputStream.nullOutputStream());
    }
}
