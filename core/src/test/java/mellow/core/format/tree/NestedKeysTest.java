package mellow.core.format.tree;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.json.JsonFormat;
import mellow.core.format.yaml.YamlFormat;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.junit.jupiter.api.Test;

/** Fresh files with a level for each part of a key. */
class NestedKeysTest {

    private static final LanguageTag DE = new LanguageTag("de");

    private static EntryList list(String... keysAndTexts) {
        List<FileEntry> entries = new ArrayList<>();
        for (int i = 0; i < keysAndTexts.length; i += 2) {
            entries.add(FileEntry.of(keysAndTexts[i])
                    .texts(List.of(FileText.plain(keysAndTexts[i + 1])))
                    .build());
        }
        return EntryList.of(Optional.empty(), List.of(DE), entries);
    }

    private static String json(EntryList list, int indent, boolean ascii) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        JsonFormat.nested(list, indent, ascii, out);
        return out.toString(StandardCharsets.UTF_8);
    }

    private static String yaml(EntryList list) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        YamlFormat.nested(list, out);
        return out.toString(StandardCharsets.UTF_8);
    }

    @Test
    void levelsStandWhereTheyCameFirst() throws IOException {
        EntryList list =
                list("ramp.up", "Hoch", "deck", "Deck \"1\"\n\t", "ramp.down.slow", "Runter", "a..b", "x", "hole", "");
        assertThat(json(list, 2, false))
                .isEqualTo(
                        """
                        {
                          "ramp": {
                            "up": "Hoch",
                            "down": {
                              "slow": "Runter"
                            }
                          },
                          "deck": "Deck \\"1\\"\\n\\t",
                          "a..b": "x"
                        }
                        """);
        assertThat(yaml(list))
                .isEqualTo(
                        """
                        ramp:
                          up: "Hoch"
                          down:
                            slow: "Runter"
                        deck: "Deck \\"1\\"\\n\\t"
                        a..b: "x"
                        """);
        assertThat(json(list(), 2, false)).isEqualTo("{}\n");
        assertThat(yaml(list())).isEqualTo("{}\n");
    }

    @Test
    void readingGivesTheKeysBack() throws IOException {
        List<FileEntry> entries = List.of(
                FileEntry.of("cars.left")
                        .shape(Shape.PLURAL)
                        .texts(List.of(FileText.of(Map.of("one", "{n} Auto", "other", "{n} Autos"))))
                        .build(),
                FileEntry.of("lamp")
                        .shape(Shape.STATES)
                        .texts(List.of(FileText.of(Map.of("0", "aus", "1", "an"))))
                        .build(),
                FileEntry.of("sign.emoji")
                        .texts(List.of(FileText.plain(" 😀 it's <b>")))
                        .build());
        EntryList list = EntryList.of(Optional.empty(), List.of(DE), entries);
        for (String written : List.of(json(list, 4, true), yaml(list))) {
            boolean isJson = written.startsWith("{");
            FileReading read = (isJson ? new JsonFormat() : new YamlFormat())
                    .read(
                            isJson ? "de.json" : "de.yml",
                            written.getBytes(StandardCharsets.UTF_8),
                            ReadOptions.AUTOMATIC.in(DE));
            List<String> keys = new ArrayList<>();
            for (int i = 0; i < read.size(); i++) {
                keys.add(
                        read.entry(i).key() + " " + read.entry(i).texts().get(0).forms());
            }
            assertThat(keys)
                    .as(written)
                    .containsExactly(
                            "cars.left {one={n} Auto, other={n} Autos}",
                            "lamp {0=aus, 1=an}",
                            "sign.emoji {other= 😀 it's <b>}");
        }
        assertThat(json(list, 0, true)).contains("\\ud83d\\ude00");
    }

    @Test
    void aTextWhereALevelIsNeededIsRefusedWithBothKeys() {
        assertThatThrownBy(() -> json(list("ramp", "Rampe", "ramp.up", "Hoch"), 2, false))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("“ramp.up”")
                .hasMessageContaining("“ramp”");
        assertThatThrownBy(() -> yaml(list("ramp.up", "Hoch", "ramp", "Rampe")))
                .isInstanceOf(UnwritableTextException.class);
    }
}
