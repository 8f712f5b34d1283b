package mellow.core.merge;

import static mellow.core.merge.MergeFiles.ENGLISH;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.format.ReadOptions;
import mellow.core.format.registry.Formats;
import org.junit.jupiter.api.Test;

/** By which signs an entry that a file lost is found again among its new ones, and by which it is not. */
class SuccessionSignsTest {
    private static FileReading csv(String... lines) {
        return Formats.read(
                "texts.csv", String.join("\n", lines).getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC);
    }

    /** Heirs in a catalogue, as "gone>new" by key. */
    private static Set<String> heirs(FileReading base, FileReading file) {
        Map<EntryId, Integer> then = new HashMap<>();
        Map<EntryId, Integer> now = new LinkedHashMap<>();
        for (int i = 0; i < base.size(); i++) {
            then.put(base.id(i), i);
        }
        for (int i = 0; i < file.size(); i++) {
            now.put(file.id(i), i);
        }
        Succession found = Succession.of(
                base, file, i -> !now.containsKey(base.id(i)), i -> !then.containsKey(file.id(i)), ENGLISH);
        Set<String> heirs = new HashSet<>();
        for (int i = 0; i < base.size(); i++) {
            Integer heir = found.heirOf(base.id(i));
            if (heir != null) {
                heirs.add(base.id(i).key() + ">" + file.id(heir).key());
                assertThat(found.formerOf(heir)).isEqualTo(i);
            }
        }
        return heirs;
    }

    private static FileReading po(String... messages) {
        StringBuilder content = new StringBuilder("msgid \"\"\nmsgstr \"Language: de\\nX-Source-Language: en\\n\"\n");
        for (String message : messages) {
            String[] parts = message.split("\\|", -1);
            content.append('\n');
            if (parts.length > 2) {
                content.append("#| msgid \"").append(parts[2]).append("\"\n");
            }
            if (parts.length > 1 && !parts[1].isEmpty()) {
                content.append("msgctxt \"").append(parts[1]).append("\"\n");
            }
            content.append("msgid \"").append(parts[0]).append("\"\nmsgstr \"\"\n");
        }
        return Formats.read("de.po", content.toString().getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC);
    }

    @Test
    void signsOfWhoLivesOn() {
        // The file says so, whatever the two have in common; not when two claim it, nor in another context.
        assertThat(heirs(po("Stays put", "Dense fog"), po("Stays put", "All clear||Dense fog")))
                .containsExactly("Dense fog>All clear");
        assertThat(heirs(po("Stays put", "Dense fog"), po("Stays put", "All clear||Dense fog", "Calm sea||Dense fog")))
                .isEmpty();
        assertThat(heirs(po("Stays put", "Dense fog|sky"), po("Stays put", "All clear|sea|Dense fog")))
                .isEmpty();
        // A context of its own tells; one that others stand in does not.
        assertThat(heirs(po("Stays put", "Dense fog|sky"), po("Stays put", "All clear|sky")))
                .containsExactly("Dense fog>All clear");
        assertThat(heirs(po("Stays put|sky", "Dense fog|sky"), po("Stays put|sky", "All clear|sky")))
                .isEmpty();
        assertThat(heirs(po("Stays put", "Dense fog|sky", "Thick fog|sky"), po("Stays put", "All clear|sky")))
                .isEmpty();
        assertThat(heirs(po("Stays put", "Dense fog|sky"), po("Stays put", "All clear|sky", "Calm|sky")))
                .isEmpty();
        // Its own words in another context
        assertThat(heirs(po("Stays put", "Dense fog|sky"), po("Stays put", "Dense fog|sea")))
                .containsExactly("Dense fog>Dense fog");
        // Half of the words in common is enough, and less is not; between the same neighbours, or beside one of them
        assertThat(heirs(po("Aa", "abcd", "Zz"), po("Aa", "abxy", "Zz"))).containsExactly("abcd>abxy");
        assertThat(heirs(po("Aa", "abcd", "Zz"), po("Aa", "axyz", "Zz"))).isEmpty();
        assertThat(heirs(po("Aa", "abcd", "Zz"), po("Aa", "abcdefghi", "Zz"))).isEmpty();
        assertThat(heirs(po("Aa", "abcd", "Zz"), po("Aa", "abcdefgh", "Zz"))).containsExactly("abcd>abcdefgh");
        assertThat(heirs(po("Aa", "abcd", "Zz"), po("Aa", "abcx", "Mm", "Zz"))).isEqualTo(Set.of("abcd>abcx"));
        assertThat(heirs(po("Aa", "Kk", "abcd", "Zz"), po("Aa", "abcx", "Kk", "Mm", "Zz")))
                .isEmpty();
        assertThat(heirs(po("Aa", "abcd", "Kk", "Zz"), po("Kk", "Aa", "abcx", "Zz")))
                .containsExactly("abcd>abcx");
        assertThat(heirs(po("Aa", "abcd", "Kk"), po("Aa", "Mm", "abcx", "Kk"))).containsExactly("abcd>abcx");
        // Two that are equally alike: neither can be told.
        assertThat(heirs(po("Aa", "abcd", "Zz"), po("Aa", "abcx", "abcy", "Zz")))
                .isEmpty();
        assertThat(heirs(po("Aa", "abcx", "abcy", "Zz"), po("Aa", "abcd", "Zz")))
                .isEmpty();
        assertThat(heirs(po("Aa", "abcd", "Zz"), po("Aa", "abxy", "abcy", "Zz")))
                .containsExactly("abcd>abcy");
        // Where keys are names, another name is another thing, unless it says the same.
        assertThat(heirs(
                        csv("key,en,de", "a,Dense fog,x", "k,Stays,y"),
                        csv("key,en,de", "b,Dense fogs,x", "k,Stays,y")))
                .isEmpty();
        assertThat(heirs(
                        csv("key,en,de", "a,Dense fog,x", "k,Stays,y"), csv("key,en,de", "b,Dense fog,x", "k,Stays,y")))
                .containsExactly("a>b");
        assertThat(heirs(csv("key,en,de", "a,,x", "k,Stays,y"), csv("key,en,de", "b,,x", "k,Stays,y")))
                .isEmpty();
        assertThat(heirs(
                        csv("key,fi,de", "a,Dense fog,x", "k,Stays,y"), csv("key,en,de", "b,Dense fog,x", "k,Stays,y")))
                .isEmpty();
        assertThat(heirs(
                        csv("key,en,de", "a,Dense fog,x", "k,Stays,y"), csv("key,fi,de", "b,Dense fog,x", "k,Stays,y")))
                .isEmpty();
    }
}
