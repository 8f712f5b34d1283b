package mellow.core.format.po;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import java.util.stream.Stream;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What a change writes into a catalogue, line by line, and what a new one says. */
class PoWritingTest {
    private static final LanguageTag ENGLISH = new LanguageTag("en");
    private static final LanguageTag GERMAN = new LanguageTag("de");
    private static final LanguageTag POLISH = new LanguageTag("pl");
    private static final String HEADER =
            "msgid \"\"\nmsgstr \"\"\n\"Language: de\\n\"\n\"Plural-Forms: nplurals=2; plural=(n != 1);\\n\"\n";

    private static PoReading read(String content) {
        return (PoReading)
                new PoFormat().read("deck.po", content.getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC);
    }

    private static String patched(String content, Consumer<FilePatch> change) throws IOException {
        FilePatch patch = read(content).patch();
        change.accept(patch);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        patch.writeTo(out);
        return out.toString(StandardCharsets.UTF_8);
    }

    private static FileText forms(String... formsAndTexts) {
        return FileText.of(
                new TreeMap<>(Map.of(formsAndTexts[0], formsAndTexts[1], formsAndTexts[2], formsAndTexts[3])));
    }

    static Stream<Arguments> messages() {
        FileText pencilled = FileText.plain("Tür auf").in(FileState.PENCILLED);
        FileText settled = FileText.plain("Tür auf").in(FileState.SETTLED);
        return Stream.of(
                Arguments.of(
                        "a text",
                        1,
                        FileText.plain("Tür auf"),
                        "msgid \"Open\"\nmsgstr \"Auf\"\n",
                        "msgid \"Open\"\nmsgstr \"Tür auf\"\n"),
                Arguments.of(
                        "a text of lines",
                        1,
                        FileText.plain("Tür\nauf"),
                        "msgid \"Open\"\nmsgstr \"Auf\" \n",
                        "msgid \"Open\"\nmsgstr \"\"\n\"Tür\\n\"\n\"auf\" \n"),
                Arguments.of(
                        "the same text keeps its spelling",
                        1,
                        FileText.plain("Auf"),
                        "msgid \"Open\"\nmsgstr \"\"\n\"A\"\n\"uf\"\n",
                        "msgid \"Open\"\nmsgstr \"\"\n\"A\"\n\"uf\"\n"),
                Arguments.of(
                        "the source",
                        0,
                        FileText.plain("Opened"),
                        "msgid \"Open\"\nmsgstr \"Auf\"\n",
                        "msgid \"Opened\"\nmsgstr \"Auf\"\n"),
                Arguments.of(
                        "a doubt",
                        1,
                        pencilled,
                        "#. on deck\nmsgid \"Open\"\nmsgstr \"Auf\"\n",
                        "#. on deck\n#, fuzzy\nmsgid \"Open\"\nmsgstr \"Tür auf\"\n"),
                Arguments.of(
                        "a doubt among flags",
                        1,
                        pencilled,
                        "#, c-format\nmsgid \"Open\"\nmsgstr \"Auf\"\n",
                        "#, fuzzy, c-format\nmsgid \"Open\"\nmsgstr \"Tür auf\"\n"),
                Arguments.of(
                        "a doubt that is there",
                        1,
                        pencilled,
                        "#, fuzzy\nmsgid \"Open\"\nmsgstr \"Auf\"\n",
                        "#, fuzzy\nmsgid \"Open\"\nmsgstr \"Tür auf\"\n"),
                Arguments.of(
                        "no doubt",
                        1,
                        settled,
                        "#, fuzzy\nmsgid \"Open\"\nmsgstr \"Auf\"\n",
                        "msgid \"Open\"\nmsgstr \"Tür auf\"\n"),
                Arguments.of(
                        "no doubt among flags",
                        1,
                        settled,
                        "#, c-format, fuzzy,no-wrap\nmsgid \"Open\"\nmsgstr \"Auf\"\n",
                        "#, c-format, no-wrap\nmsgid \"Open\"\nmsgstr \"Tür auf\"\n"),
                Arguments.of(
                        "no doubt in the second line of flags",
                        1,
                        settled,
                        "#, no-wrap\n#, fuzzy\nmsgid \"Open\"\nmsgstr \"Auf\"\n",
                        "#, no-wrap\nmsgid \"Open\"\nmsgstr \"Tür auf\"\n"),
                Arguments.of(
                        "a text that says nothing of doubts",
                        1,
                        FileText.plain("Tür auf"),
                        "#, fuzzy\nmsgid \"Open\"\nmsgstr \"Auf\"\n",
                        "#, fuzzy\nmsgid \"Open\"\nmsgstr \"Tür auf\"\n"),
                Arguments.of(
                        "no text has no doubt",
                        1,
                        FileText.NONE.in(FileState.PENCILLED),
                        "msgid \"Open\"\nmsgstr \"Auf\"\n",
                        "msgid \"Open\"\nmsgstr \"\"\n"),
                Arguments.of(
                        "untranslated",
                        1,
                        FileText.NONE.in(FileState.UNTRANSLATED),
                        "#, fuzzy\nmsgid \"Open\"\nmsgstr \"Auf\"\n",
                        "msgid \"Open\"\nmsgstr \"\"\n"),
                Arguments.of(
                        "plural",
                        1,
                        forms("one", "Boot", "other", "Boote"),
                        "msgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"\"\nmsgstr[1] \"\"\n",
                        "msgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"Boot\"\nmsgstr[1] \"Boote\"\n"),
                Arguments.of(
                        "a form that was not there",
                        1,
                        forms("one", "Boot", "other", "Boote"),
                        "msgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"\"\n",
                        "msgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"Boot\"\nmsgstr[1] \"Boote\"\n"),
                Arguments.of(
                        "a form too many",
                        1,
                        forms("one", "Boot", "other", "Boote"),
                        "msgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"\"\nmsgstr[1] \"\"\nmsgstr[2] \"\"\n\"x\"\n",
                        "msgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"Boot\"\nmsgstr[1] \"Boote\"\n"),
                Arguments.of(
                        "the source's forms",
                        0,
                        forms("one", "ship", "other", "ships"),
                        "msgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"\"\nmsgstr[1] \"\"\n",
                        "msgid \"ship\"\nmsgid_plural \"ships\"\nmsgstr[0] \"\"\nmsgstr[1] \"\"\n"),
                Arguments.of(
                        "the source's only form",
                        0,
                        FileText.plain("ships"),
                        "msgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"\"\nmsgstr[1] \"\"\n",
                        "msgid \"ships\"\nmsgid_plural \"ships\"\nmsgstr[0] \"\"\nmsgstr[1] \"\"\n"));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("messages")
    void aChangeWritesOnlyWhatChanged(String what, int language, FileText text, String before, String after)
            throws IOException {
        String around = "\n#. stays\nmsgid \"Shut\"\nmsgstr \"Zu\"\n";
        assertThat(patched(HEADER + "\n" + before + around, patch -> patch.set(0, language, text)))
                .isEqualTo(HEADER + "\n" + after + around);
        String windows = (HEADER + "\n" + before + around).replace("\n", "\r\n");
        assertThat(patched(windows, patch -> patch.set(0, language, text)))
                .isEqualTo((HEADER + "\n" + after + around).replace("\n", "\r\n"));
    }

    @Test
    void aFormThatTheHeaderHasNoPlaceFor() {
        String content = HEADER + "\nmsgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"\"\nmsgstr[1] \"\"\n";
        assertThatThrownBy(() -> patched(content, patch -> patch.set(0, 1, forms("few", "Boote", "other", "Boote"))))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("no place for the form “few” of boat");
        String one = content.replace("nplurals=2; plural=(n != 1)", "nplurals=1; plural=0")
                .replace("\nmsgstr[1] \"\"", "");
        assertThat(read(one).forms(0, 1)).contains(Set.of("other"));
        assertThat(read(content).forms(0, 1)).contains(Set.of("one", "other"));
        assertThat(read(content).forms(0, 0)).contains(Set.of("one", "other"));
        assertThat(read(HEADER + "\nmsgid \"a b\"\nmsgstr \"\"\n").forms(0, 1)).isEmpty();
    }

    @Test
    void messagesComeAndGo() throws IOException {
        String content = HEADER + "\nmsgid \"A b\"\nmsgstr \"\"\n\nmsgid \"C d\"\nmsgstr \"\"\n# open";
        FileEntry added = FileEntry.of("E f")
                .note("two\nlines")
                .reference("deck plan.c:4")
                .reference("ramp.c:5")
                .flags(List.of("c-format", "fuzzy"))
                .context("ramp")
                .plain(List.of("E f", "g"))
                .build();
        assertThat(patched(content, patch -> {
                    patch.remove(0);
                    patch.insert(1, added);
                }))
                .isEqualTo(
                        HEADER
                                + "\nmsgid \"C d\"\nmsgstr \"\"\n\n#. two\n#. lines\n#: \u2068deck plan.c:4\u2069\n#: ramp.c:5\n#, c-format\nmsgctxt \"ramp\"\nmsgid \"E f\"\nmsgstr \"g\"\n# open");
        assertThat(patched(content, patch -> patch.insert(-1, added)))
                .startsWith(content.replace("# open", "") + "\n#. two\n")
                .endsWith("msgstr \"g\"\n# open");
        assertThat(patched(HEADER, patch -> patch.insert(-1, added))).startsWith(HEADER + "\n#. two\n");
    }

    @Test
    void aCopyForAnotherLanguageSaysWhoseItIs() throws IOException {
        String content =
                """
                #, fuzzy
                msgid ""
                msgstr ""
                "Project-Id-Version: deck\\n"
                "language: de\\n"
                "Language-Team: Deutsch\\n"
                "Last-Translator: Jorun\\n"
                "PO-Revision-Date: 2026\\n"
                "Content-Type: text/plain; charset=CHARSET\\n"

                #~ msgid "Gone"
                #~ msgstr "Weg"

                msgid "Open up"
                msgstr ""
                #~ last""";
        assertThat(patched(content, patch -> patch.rename(POLISH, "pl")))
                .isEqualTo(
                        """
                msgid ""
                msgstr ""
                "Project-Id-Version: deck\\n"
                "Language: pl\\n"
                "Language-Team: \\n"
                "Last-Translator: \\n"
                "PO-Revision-Date: \\n"
                "Content-Type: text/plain; charset=UTF-8\\n"
                "Plural-Forms: %s\\n"


                msgid "Open up"
                msgstr ""
                """
                                .formatted(PluralForms.of(Optional.of(POLISH)).header()));
        assertThat(patched("msgid \"Open up\"\nmsgstr \"\"\n", patch -> patch.rename(POLISH, "pl")))
                .isEqualTo("msgid \"Open up\"\nmsgstr \"\"\n");
    }

    private static EntryList list(List<LanguageTag> languages, LanguageTag source, FileEntry... entries) {
        return EntryList.of(Optional.ofNullable(source), languages, List.of(entries));
    }

    private static String written(EntryList entries) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        new PoFormat().write(entries, out);
        return out.toString(StandardCharsets.UTF_8);
    }

    @Test
    void aNewCatalogueSaysWhatItIs() throws IOException {
        FileEntry sentence =
                FileEntry.of("Open up").plain(List.of("Open up", "Öffnen")).build();
        assertThat(written(list(List.of(ENGLISH, GERMAN), ENGLISH, sentence)))
                .isEqualTo(
                        """
                msgid ""
                msgstr ""
                "MIME-Version: 1.0\\n"
                "Content-Type: text/plain; charset=UTF-8\\n"
                "Content-Transfer-Encoding: 8bit\\n"
                "Language: de\\n"
                "Plural-Forms: nplurals=2; plural=(n == 1) ? 0 : 1;\\n"
                "X-Source-Language: en\\n"

                msgid "Open up"
                msgstr "Öffnen"
                """);
        // The source may stand second, and then needs no mention that it is first.
        FileEntry other =
                FileEntry.of("Open up").plain(List.of("Öffnen", "Open up")).build();
        assertThat(written(list(List.of(GERMAN, ENGLISH), ENGLISH, other)))
                .isEqualTo(written(list(List.of(ENGLISH, GERMAN), ENGLISH, sentence)));
        assertThat(written(list(List.of(ENGLISH, GERMAN), null, sentence)))
                .isEqualTo(written(list(List.of(ENGLISH, GERMAN), ENGLISH, sentence)));
        FileEntry keyed = FileEntry.of("ramp.open")
                .context("door")
                .plain(List.of("Open up", "Öffnen"))
                .build();
        assertThat(written(list(List.of(ENGLISH, new LanguageTag("pt-BR")), ENGLISH, keyed)))
                .contains("\"Language: pt_BR\\n\"", "\"X-Mellow-Key: msgctxt\\n\"")
                .endsWith("\n\nmsgctxt \"\"\n\"ramp.open\\n\"\n\"door\"\nmsgid \"Open up\"\nmsgstr \"Öffnen\"\n");
        // A template has no language, so no forms; a text without a source is spelled by its key.
        assertThat(written(list(
                        List.of(ENGLISH),
                        ENGLISH,
                        FileEntry.of("Open up").plain(List.of("Open up")).build())))
                .contains("\"Language: \\n\"", "\"X-Source-Language: en\\n\"")
                .doesNotContain("Plural-Forms", "X-Mellow-Key")
                .endsWith("\n\nmsgid \"Open up\"\nmsgstr \"\"\n");
        assertThat(written(list(
                        List.of(GERMAN),
                        null,
                        FileEntry.of("Open up").plain(List.of("Öffnen")).build())))
                .contains("\"Language: de\\n\"")
                .doesNotContain("X-Source-Language", "X-Mellow-Key")
                .endsWith("\n\nmsgid \"Open up\"\nmsgstr \"Öffnen\"\n");
        assertThat(written(list(List.of(ENGLISH, LanguageTag.UNDETERMINED), ENGLISH, sentence)))
                .contains("\"Language: \\n\"")
                .doesNotContain("Plural-Forms");
    }

    @Test
    void formsOfANewCatalogueAreThoseOfItsLanguage() throws IOException {
        FileEntry boats = FileEntry.of("boat")
                .shape(Shape.PLURAL)
                .texts(List.of(
                        forms("one", "boat", "other", "boats"),
                        FileText.plain("łodzi").in(FileState.PENCILLED)))
                .build();
        assertThat(written(list(List.of(ENGLISH, POLISH), ENGLISH, boats)))
                .doesNotContain("X-Mellow-Key")
                .endsWith(
                        "\n\n#, fuzzy\nmsgid \"boat\"\nmsgid_plural \"boats\"\nmsgstr[0] \"\"\nmsgstr[1] \"\"\nmsgstr[2] \"\"\n");
        assertThat(written(list(List.of(ENGLISH, new LanguageTag("ja")), ENGLISH, boats)))
                .endsWith("msgid_plural \"boats\"\nmsgstr[0] \"łodzi\"\n");
        FileEntry only = FileEntry.of("boats")
                .shape(Shape.PLURAL)
                .texts(List.of(FileText.plain("boats"), FileText.NONE.in(FileState.PENCILLED)))
                .build();
        assertThat(written(list(List.of(ENGLISH, POLISH), ENGLISH, only)))
                .doesNotContain("fuzzy", "X-Mellow-Key")
                .contains("msgid \"boats\"\nmsgid_plural \"boats\"\n");
        assertThatThrownBy(() -> written(list(List.of(ENGLISH, POLISH, GERMAN), ENGLISH)))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("there are 3");
        assertThatThrownBy(() -> written(list(
                        List.of(ENGLISH, POLISH),
                        ENGLISH,
                        FileEntry.of("horn")
                                .shape(Shape.ASSET)
                                .texts(List.of(FileText.plain("a"), FileText.NONE))
                                .build())))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("no place for horn");
    }
}
