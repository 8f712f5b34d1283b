package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;

/** Files of nested keys in place: new keys where they belong, no empty object left behind, another language at the root. */
class NestedPatchTest {

    private static FileReading read(String name, String text) {
        return Formats.read(name, text.getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC);
    }

    private static FileEntry entry(String key, String text) {
        return FileEntry.of(key).plain(List.of(text)).build();
    }

    private static String written(FilePatch patch) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        patch.writeTo(out);
        return out.toString(StandardCharsets.UTF_8);
    }

    private static int index(FileReading file, String key) {
        for (int i = 0; i < file.size(); i++) {
            if (file.id(i).key().equals(key)) {
                return i;
            }
        }
        throw new AssertionError(key);
    }

    private static final String YAML =
            "de:\n  deck:\n    up: Hoch\n    # Zum Ufer\n    down: Runter\n  quay:\n    name:\n      long: Kai\n  stop: Halt\n";

    @Test
    void newKeysShareTheObjectsThatTheyNeed() throws IOException {
        FileReading file = read("de.yml", YAML);
        FilePatch patch = file.patch();
        patch.insert(0, entry("deck.mid", "Mitte"));
        patch.insert(3, entry("bridge.bell.one", "Eins"));
        patch.insert(3, entry("bridge.bell.two", "Zwei"));
        patch.insert(3, entry("bridge.horn", "Horn"));
        assertThat(written(patch))
                .isEqualTo(
                        "de:\n  deck:\n    up: Hoch\n    mid: \"Mitte\"\n    # Zum Ufer\n    down: Runter\n  quay:\n    name:\n      long: Kai\n  stop: Halt\n"
                                + "  bridge:\n    bell:\n      one: \"Eins\"\n      two: \"Zwei\"\n    horn: \"Horn\"\n");
    }

    @Test
    void noEmptyObjectStaysBehind() throws IOException {
        FileReading file = read("de.yml", YAML);
        FilePatch patch = file.patch();
        patch.remove(index(file, "quay.name.long"));
        patch.remove(index(file, "deck.up"));
        assertThat(written(patch)).isEqualTo("de:\n  deck:\n    # Zum Ufer\n    down: Runter\n  stop: Halt\n");
    }

    @Test
    void theSameInJson() throws IOException {
        FileReading file = read("de.json", "{\n  \"deck\": {\n    \"up\": \"Hoch\"\n  },\n  \"stop\": \"Halt\"\n}\n");
        FilePatch patch = file.patch();
        patch.remove(index(file, "deck.up"));
        patch.insert(1, entry("bridge.bell.one", "Eins"));
        assertThat(written(patch))
                .isEqualTo(
                        "{\n  \"stop\": \"Halt\",\n  \"bridge\": {\n    \"bell\": {\n      \"one\": \"Eins\"\n    }\n  }\n}\n");
    }

    @Test
    void aFlatFileStaysFlatAndSentencesAreNotTakenApart() throws IOException {
        FileReading flat = read("de.json", "{\n  \"deck.up\": \"Hoch\"\n}\n");
        FilePatch patch = flat.patch();
        patch.insert(0, entry("deck.down", "Runter"));
        assertThat(written(patch)).isEqualTo("{\n  \"deck.up\": \"Hoch\",\n  \"deck.down\": \"Runter\"\n}\n");
        FilePatch sentence = read("de.yml", YAML).patch();
        sentence.insert(0, entry("Are you sure..", "Sicher?"));
        assertThat(written(sentence)).contains("  \"Are you sure..\": \"Sicher?\"\n");
    }

    @Test
    void aFileThatShowsNoHabitDoesAsItsSiblingsDo() throws IOException {
        FilePatch patch = read("fi.yml", "fi:\n  stop: Seis\n").patch();
        patch.like(List.of(read("de.yml", YAML)));
        patch.insert(0, entry("deck.up", "Yl\u00f6s"));
        assertThat(written(patch)).isEqualTo("fi:\n  stop: Seis\n  deck:\n    up: \"Yl\u00f6s\"\n");
    }

    @Test
    void aKeyBelowATextHasNoPlace() {
        FilePatch patch = read("de.yml", YAML).patch();
        patch.insert(0, entry("stop.now", "Jetzt"));
        assertThatThrownBy(() -> written(patch))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("\u201cstop\u201d")
                .hasMessageContaining("stop.now");
    }

    @Test
    void theRootNamesAnotherLanguageInTheFilesOwnQuotes() throws IOException {
        FilePatch quoted = read("a.yml", "'no':\n  stop: Stopp\n").patch();
        quoted.rename(new LanguageTag("de"), "de");
        assertThat(written(quoted)).isEqualTo("'de':\n  stop: Stopp\n");
        FilePatch plain = read("a.yml", "de:\n  stop: Halt\n").patch();
        plain.rename(new LanguageTag("no"), "no");
        assertThat(written(plain)).isEqualTo("\"no\":\n  stop: Halt\n");
        FilePatch json = read("a.json", "{\"de\": {\"stop\": \"Halt\"}}").patch();
        json.rename(new LanguageTag("pt-BR"), "pt_BR");
        assertThat(written(json)).isEqualTo("{\"pt_BR\": {\"stop\": \"Halt\"}}");
    }

    @Test
    void aFormThatTheLanguageHasNoUseForGoes() throws IOException {
        FilePatch patch = read("a.yml", "de:\n  days:\n    one: ein Tag\n    other: \"%{n} Tage\"\n")
                .patch();
        patch.set(0, 0, FileText.of(Map.of("other", "%{n}\u65e5")));
        assertThat(written(patch)).isEqualTo("de:\n  days:\n    other: \"%{n}\u65e5\"\n");
        FilePatch json = read("a.json", "{\n  \"d_one\": \"Tag\",\n  \"d_other\": \"{n} Tage\"\n}\n")
                .patch();
        json.set(0, 0, FileText.of(Map.of("other", "\u65e5", "few", "x")));
        assertThat(written(json)).isEqualTo("{\n  \"d_other\": \"\u65e5\",\n  \"d_few\": \"x\"\n}\n");
    }

    @Test
    void aControlCharacterIsNeverWrittenAsItIs() throws IOException {
        for (String text : List.of("\u0007ring", "ring\u0007", "\u0085x", "x\u2028y", "\uFEFFx", "x\uFFFE")) {
            for (String before : List.of("Halt", "'Halt'", "\"Halt\"", "|\n    Halt\n", ">\n    Halt\n")) {
                FilePatch patch = read("a.yml", "de:\n  stop: " + before + "\n  next: Weiter\n")
                        .patch();
                patch.set(0, 0, text);
                String out = written(patch);
                assertThat(out).as(before).doesNotContain(text);
                assertThat(read("a.yml", out).entry(0).text(0)).as(out).isEqualTo(text);
            }
        }
    }
}
