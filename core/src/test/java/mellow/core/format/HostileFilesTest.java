package mellow.core.format;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import mellow.core.format.registry.Formats;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Files made to do harm: a clear sentence or a safe read, in the time of an ordinary file. */
class HostileFilesTest {

    private static final int DEEP = 100_000;
    private static final Limits SMALL = new Limits(10_000_000, 100, 50_000, 400);

    private static FileReading read(String name, String content) {
        return Assertions.assertTimeoutPreemptively(
                Duration.ofSeconds(30),
                () -> Formats.read(name, content.getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC));
    }

    @ParameterizedTest
    @CsvSource({
        "a.json, '{\"a\":', values nested deeper than 200",
        "b.json, '{\"a\":[', values nested deeper than 200",
        "a.yml, '[', values nested deeper than 200",
        "b.yml, '- ', values nested deeper than 200",
        "a.xlf, <xliff version=\"1.2\">, elements nested deeper than 200",
        "a.xml, <resources><string name=\"a\">, elements nested deeper than 200"
    })
    void aHundredThousandLevels(String name, String level, String sentence) {
        assertThatThrownBy(() -> read(
                        name,
                        (name.startsWith("b.yml") ? "a:\n" : name.equals("a.yml") ? "a: " : "") + level.repeat(DEEP)))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining(sentence);
    }

    @Test
    void indentedLevels() {
        StringBuilder levels = new StringBuilder();
        for (int i = 0; i < 2_000; i++) {
            levels.append(" ".repeat(i)).append("k:\n");
        }
        assertThatThrownBy(() -> read("a.yml", levels.toString())).hasMessageContaining("nested deeper than 200");
    }

    @Test
    void bracketsOfAPluralExpression() {
        String po = "msgid \"\"\nmsgstr \"Language: de\\nPlural-Forms: nplurals=2; plural=" + "(".repeat(DEEP)
                + "n;\\n\"\n\nmsgid \"a b\"\nmsgstr \"x\"\n";
        FileReading reading = read("a.po", po);
        assertThat(reading.problems().get(0).sentence()).contains("an expression nested deeper than 100");
        assertThat(reading.size()).isEqualTo(1);
    }

    @Test
    void aliasesAreNeverFollowed() {
        StringBuilder bomb = new StringBuilder("a: &a [x, x]\n");
        for (char c = 'b'; c < 'z'; c++) {
            char before = (char) (c - 1);
            bomb.append(c)
                    .append(": &")
                    .append(c)
                    .append(" [*")
                    .append(before)
                    .append(", *")
                    .append(before)
                    .append("]\n");
        }
        assertThat(read("a.yml", bomb.toString()).size()).isEqualTo(1);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "a.json|{\"a\": \"%s\"}",
                "a.yml|a: \"%s\"",
                "b.yml|a: %s",
                "c.yml|a: |\n  %s",
                "a.properties|a=%s",
                "a.po|msgid \"a b\"\nmsgstr \"%s\"",
                "a.xlf|<xliff version=\"1.2\"><file source-language=\"en\"><body><trans-unit id=\"a\"><source>%s</source></trans-unit></body></file></xliff>",
                "strings.xml|<resources><string name=\"a\">%s</string></resources>",
                "a.csv|key,en\na,%s\n"
            })
    void aTextOverTheLimitIsNamedWithItsLine(String pattern) {
        String[] parts = pattern.split("\\|", 2);
        byte[] file = parts[1].replace("%s", "x".repeat(60_000)).getBytes(StandardCharsets.UTF_8);
        assertThatThrownBy(() -> Formats.read(parts[0], file, ReadOptions.AUTOMATIC.within(SMALL)))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining("line ");
    }

    @ParameterizedTest
    @ValueSource(strings = {"a.json", "a.yml", "a.properties", "a.po", "a.csv"})
    void oneEntryTooMany(String name) {
        StringBuilder file = new StringBuilder(name.endsWith("json") ? "{" : name.endsWith("csv") ? "key,en\n" : "");
        for (int i = 0; i <= 250; i++) {
            file.append(
                    switch (name) {
                        case "a.json" -> (i == 0 ? "" : ",") + "\"k" + i + "\":\"x\"";
                        case "a.yml" -> "k" + i + ": x\n";
                        case "a.properties" -> "k" + i + "=x\n";
                        case "a.po" -> "msgid \"k " + i + "\"\nmsgstr \"x\"\n\n";
                        default -> "k" + i + ",x\n";
                    });
        }
        file.append(name.endsWith("json") ? "}" : "");
        byte[] bytes = file.toString().getBytes(StandardCharsets.UTF_8);
        assertThatThrownBy(() -> Formats.read(name, bytes, ReadOptions.AUTOMATIC.within(SMALL)))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining("100");
    }

    /** Values that are no entries take memory as well. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {"a.json|{\"k\":[|0,|0]}", "a.yml|k:|\\n - 0|''", "a.yml|k: [|0,|0]", "a.yml|k: [|a: b,|a: b]"})
    void moreValuesThanEntriesCanHave(String name, String start, String value, String end) {
        String file = start + value.replace("\\n", "\n").repeat(5000) + end;
        assertThatThrownBy(() ->
                        Formats.read(name, file.getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC.within(SMALL)))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining("more than 400 values");
    }

    /** Work that grows with the square of the length would take hours here. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "{\"a\": \"",
                "a: \"",
                "a: '",
                "a: [",
                "a=\\",
                "msgid \"",
                "<xliff version=\"1.2\"><!--",
                "<xliff version=\"1.2\"><![CDATA[",
                "<a b='",
                "key,en\n\"",
                "&",
                "msgid \"x\"\nmsgstr \"\"\n\"",
                "a: >\n"
            })
    void aLongLineThatNeverEnds(String start) {
        String line = start + "& ' <x [{,: - ".repeat(200_000);
        for (FileFormat format : Formats.all()) {
            Assertions.assertTimeoutPreemptively(Duration.ofSeconds(30), () -> {
                try {
                    format.read("a.txt", line.getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC);
                } catch (UnreadableFileException refused) {
                    assertThat(refused.getMessage().length()).isLessThan(600);
                }
            });
        }
    }

    /** A tag with many attributes, or many namespaces in one or one in each of many elements. */
    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 3})
    void thousandsOfAttributesAndNamespaces(int kind) {
        StringBuilder xml = new StringBuilder("<xliff version=\"1.2\" xmlns=\"urn:oasis:names:tc:xliff:document:1.2\"");
        for (int i = 0; i < 40_000; i++) {
            switch (kind) {
                case 0 -> xml.append(" a").append(i).append("='x'");
                case 1 -> xml.append(" xmlns:n").append(i).append("='u'");
                default -> xml.append(i == 0 ? ">" : "");
            }
            if (kind == 2) {
                xml.append("<n").append(i).append(":a xmlns:n").append(i).append("='u'/>");
            }
            if (kind == 3) {
                // Not one "<" after it: whoever looks for the next one reads to the end each time.
                xml.append(i == 0 ? "<file" : " b" + i + "='" + "y".repeat(40) + "'");
            }
        }
        String whole = xml + (kind < 2 ? ">" : kind == 3 ? "></file>" : "") + "</xliff>";
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> {
            try {
                Formats.read("a.xlf", whole.getBytes(StandardCharsets.UTF_8), ReadOptions.AUTOMATIC);
            } catch (UnreadableFileException refused) {
                assertThat(refused.getMessage().length()).isLessThan(600);
            }
        });
    }

    @Test
    void twoOfManyAttributesWithOneName() {
        StringBuilder xml = new StringBuilder("<xliff version=\"1.2\"");
        for (int i = 0; i < 100; i++) {
            xml.append(" a").append(i).append("='x'");
        }
        assertThatThrownBy(() -> read("a.xlf", xml + " a7='y'></xliff>")).hasMessageContaining("“a7” twice");
        assertThatThrownBy(() -> read("a.xlf", "<xliff xmlns:a='u' xmlns:a='v' version='1.2'></xliff>"))
                .hasMessageContaining("“xmlns:a” twice");
    }

    @Test
    void aPrefixIsKnownInsideItsElementAndNotBehindIt() {
        String inside =
                "<xliff version=\"1.2\"><file source-language=\"en\"><body><trans-unit id=\"a\"><source>x</source><note xmlns:n='u'><n:b>y</n:b></note></trans-unit></body></file></xliff>";
        assertThat(read("a.xlf", inside).size()).isEqualTo(1);
        assertThatThrownBy(() -> read("a.xlf", inside.replace("</note>", "</note><n:c/>")))
                .hasMessageContaining("the prefix “n” without a namespace");
    }

    /** What a file cannot hold can be spelled in it. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "a.json|{\"k\": \"a\\u0000b\"}",
                "a.json|{\"a\\u0000b\": \"x\"}",
                "a.json|{\"k\": \"a\\ud800b\"}",
                "a.yml|k: \"a\\0b\"",
                "a.yml|k: \"a\\x00b\"",
                "a.properties|k=a\\u0000b",
                "a.properties|k=a\\uDC00b",
                "a.po|msgid \"a b\"\nmsgstr \"a\\000b\"",
                "strings.xml|<resources><string name=\"k\">a\\u0000b</string></resources>"
            })
    void escapesThatSpellWhatNoTextCanHold(String file) {
        String[] parts = file.split("\\|", 2);
        assertThatThrownBy(() -> KeepableEntries.require(parts[0], read(parts[0], parts[1]), 100_000))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageStartingWith(parts[0]);
    }

    @Test
    void whatCannotBeKeptIsNamedWithItsLine() {
        FileReading reading = read("a.properties", "one=x\ntwo=" + "y".repeat(50) + "\n");
        KeepableEntries.require("a.properties", reading, 50);
        assertThatThrownBy(() -> KeepableEntries.require("a.properties", reading, 49))
                .hasMessage(
                        "a.properties, line 2: a text of “two” is 50 characters long, and at most 49 can be kept; expected another text there.");
    }

    @Test
    void aCompiledCatalogueThatPointsOutside() {
        byte[] file = new byte[40];
        ByteBuffer.wrap(file)
                .order(ByteOrder.LITTLE_ENDIAN)
                .putInt(0x950412de)
                .putInt(0)
                .putInt(1)
                .putInt(28)
                .putInt(0x7FFFFFF0);
        assertThatThrownBy(() -> Formats.read("a.mo", file, ReadOptions.AUTOMATIC))
                .hasMessageContaining("cut off");
    }

    @Test
    void aFileOfNoKnownFormat() {
        assertThatThrownBy(() -> Formats.read("a.bin", new byte[] {1, 2, 3}, ReadOptions.AUTOMATIC))
                .hasMessage(
                        "a.bin: this is of no known format; expected one of mo, ods, xlsx, xliff-1.2, xliff-2, tmx, tbx, android, po, ledger-json, json, yaml, properties, csv.");
    }
}
