package mellow.core.format.csv;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.StringWriter;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.sheet.Column;
import mellow.core.format.sheet.Column.Role;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class CsvWritingTest {

    private static final List<String> PIECES = List.of(
            "a", "Größe", " ", ",", ";", "\"", "\"\"", "\n", "\t", "=", "'", "+", "ش", "船", "🚢", "", "'=", "|");

    private static CsvReading read(String content, String charset) {
        return CsvFormat.read("deck.csv", content.getBytes(Charset.forName(charset)), CsvOptions.AUTOMATIC);
    }

    private static String written(FilePatch patch, String charset) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        patch.writeTo(out);
        return out.toString(Charset.forName(charset));
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            value = {
                "a bare cell stays bare|a;x;y|z|a;x;z",
                "a quoted cell stays quoted|a;x;\"y\"|z|a;x;\"z\"",
                "quotes come when needed|a;x;y|p;q|a;x;\"p;q\"",
                "quotes are doubled|a;x;y|5\" pipe|a;x;\"5\"\" pipe\"",
                "a text is emptied|a;x;y|''|a;x;",
                "a short row is filled up|a;x|z|a;x;z",
                "a very short row is filled up|a|z|a;;z",
                "an empty cell is filled|a;x;|z|a;x;z"
            })
    void changesOnlyTheCell(String rule, String row, String text, String expected) throws Exception {
        String before = "Title;;\r\nkey;en;de\r\n" + row + "\r\nb;Deck;\"Deck\"\r\n";
        FilePatch patch = read(before, "windows-1252").patch();
        patch.set(0, 1, text);
        assertThat(written(patch, "windows-1252"))
                .isEqualTo("Title;;\r\nkey;en;de\r\n" + expected + "\r\nb;Deck;\"Deck\"\r\n");
    }

    @Test
    void addsAndRemovesRowsAndKeepsTheRest() throws Exception {
        FilePatch patch = read("key,en\na,x\n\nb,y\nc,z", "UTF-8").patch();
        patch.remove(1);
        patch.insert(0, FileEntry.of("a2").plain(List.of("x2")).build());
        patch.insert(-1, FileEntry.of("d").plain(List.of("w")).build());
        assertThat(written(patch, "UTF-8")).isEqualTo("key,en\na,x\na2,x2\n\nc,z\nd,w");
    }

    @Test
    void anEmptyFirstCellOfANewRowKeepsItsPlace() throws Exception {
        FilePatch patch = read("Note,key,en\n,a,x\n", "UTF-8").patch();
        patch.insert(0, FileEntry.of("b").plain(List.of("y")).build());
        assertThat(written(patch, "UTF-8")).isEqualTo("Note,key,en\n,a,x\n,b,y\n");
    }

    @Test
    void fillsAShortLastRowAndAddsAfterIt() throws Exception {
        FilePatch patch = read("key,en,de\na,x,y\nb", "UTF-8").patch();
        patch.set(1, 1, "z");
        patch.insert(1, FileEntry.of("c").plain(List.of("u", "v")).build());
        assertThat(written(patch, "UTF-8")).isEqualTo("key,en,de\na,x,y\nb,,z\nc,u,v");
    }

    @Test
    void refusesAnUnspellableCharacterByName() {
        FilePatch patch = read("key;de\na;Größe\n", "windows-1252").patch();
        assertThatThrownBy(() -> patch.set(0, 0, "łódź"))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("text of a has the character “ł”, which windows-1252");
    }

    @Test
    void keepsTheLineBreaksThatACellHad() throws Exception {
        FilePatch patch = read("key,en\r\na,\"x\r\ny\"\r\n", "UTF-8").patch();
        patch.set(0, 0, "p\nq");
        assertThat(written(patch, "UTF-8")).isEqualTo("key,en\r\na,\"p\r\nq\"\r\n");
    }

    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '~',
            value = {"=1+1, '=1+1", "'=x, ''=x", "-5 °C, '-5 °C", "plain, plain", "'tis, 'tis", "@home, '@home"})
    void guardsFormulasAndGivesThemBack(String text, String guarded) {
        assertThat(FormulaGuard.guard(text)).isEqualTo(guarded);
        assertThat(FormulaGuard.unguard(guarded)).isEqualTo(text);
    }

    /** A formula may stand in any column that people fill. */
    @Test
    void guardsEveryColumnAndGivesItBack() throws Exception {
        List<Column> columns = List.of(
                Column.of("Key", Role.KEY),
                Column.of("Context", Role.CONTEXT),
                Column.of("Section", Role.SECTION),
                Column.of("Note", Role.NOTE),
                Column.of("Reference", Role.REFERENCE),
                Column.text("en", new LanguageTag("en")));
        StringWriter out = new StringWriter();
        CsvWriter writer = new CsvWriter(out, CsvDialect.RFC_4180, columns, true);
        writer.header();
        FileEntry hostile = FileEntry.of("=1+1")
                .context("@SUM(A1)")
                .section("+x")
                .note("-2+3")
                .reference("=HYPERLINK(A1)")
                .plain(List.of("plain"))
                .build();
        writer.entry(hostile);
        assertThat(out.toString().lines().skip(1)).containsExactly("'=1+1,'@SUM(A1),'+x,'-2+3,'=HYPERLINK(A1),plain");
        CsvReading reading = read(out.toString(), "UTF-8");
        assertThat(reading.guarded()).isTrue();
        assertThat(reading.entry(0))
                .usingRecursiveComparison()
                .ignoringFields("line")
                .isEqualTo(hostile);
        FilePatch patch = reading.patch();
        patch.insert(0, FileEntry.of("-n").note("=2").plain(List.of("x")).build());
        CsvReading again = read(written(patch, "UTF-8"), "UTF-8");
        assertThat(again.id(1).key()).isEqualTo("-n");
        assertThat(again.entry(1).note()).isEqualTo("=2");
    }

    /** Random records, written fresh and read again, are the same records. */
    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
    void freshWritingLosesNothing(long seed) throws Exception {
        Random random = new Random(seed);
        List<Column> columns = List.of(
                Column.of("Key", Role.KEY),
                Column.of("Context", Role.CONTEXT),
                Column.of("Section", Role.SECTION),
                Column.of("Note", Role.NOTE),
                Column.of("Limit", Role.LIMIT),
                Column.of("Reference", Role.REFERENCE),
                Column.text("en", new LanguageTag("en")),
                Column.text("pt-BR", new LanguageTag("pt-BR")));
        List<FileEntry> entries = new ArrayList<>();
        for (int i = 0; i < 200; i++) {
            entries.add(FileEntry.of("k" + i + randomText(random))
                    .context(randomText(random))
                    .note(randomText(random))
                    .reference(randomText(random))
                    .section(randomText(random))
                    .maxLength(random.nextInt(90))
                    .plain(List.of(randomText(random), randomText(random)))
                    .build());
        }
        // A first text with a guard makes the file a guarded one, as a fresh file with any such text is.
        entries.set(0, FileEntry.of("k0").plain(List.of("=1", "x")).build());
        CsvDialect dialect = new CsvDialect(",;\t".charAt(random.nextInt(3)), '"');
        StringWriter out = new StringWriter();
        CsvWriter writer = new CsvWriter(out, dialect, columns, true);
        writer.header();
        for (FileEntry entry : entries) {
            writer.entry(entry);
        }
        CsvReading reading = read(out.toString(), "UTF-8");
        assertThat(reading.dialect()).isEqualTo(dialect);
        assertThat(reading.size()).isEqualTo(entries.size());
        for (int i = 0; i < entries.size(); i++) {
            FileEntry e = entries.get(i);
            assertThat(reading.entry(i))
                    .usingRecursiveComparison()
                    .ignoringFields("line")
                    .isEqualTo(e);
        }
    }

    /** Random edits written in place: reading gives exactly the edits, and lines without edits are the same bytes. */
    @ParameterizedTest
    @ValueSource(longs = {11, 12, 13, 14, 15, 16})
    void inPlaceWritingTouchesOnlyWhatChanged(long seed) throws Exception {
        Random random = new Random(seed);
        StringBuilder content = new StringBuilder("key;en;de;ja\n");
        for (int i = 0; i < 120; i++) {
            content.append("key.").append(i);
            for (int language = 0; language < random.nextInt(4); language++) {
                String word = "w" + random.nextInt(99);
                content.append(';').append(random.nextInt(3) == 0 ? "\"" + word + "; \"\"x\"\"\"" : word);
            }
            content.append('\n');
        }
        CsvReading before = read(content.toString(), "UTF-8");
        FilePatch patch = before.patch();
        String[][] expected = new String[before.size()][];
        boolean[] touched = new boolean[before.size()];
        for (int i = 0; i < before.size(); i++) {
            expected[i] = before.entry(i).texts().stream().map(FileText::main).toArray(String[]::new);
            if (random.nextInt(5) == 0) {
                int language = random.nextInt(3);
                expected[i][language] = randomText(random) + "!";
                touched[i] = true;
                patch.set(i, language, expected[i][language]);
            }
        }
        String after = written(patch, "UTF-8");
        CsvReading again = CsvFormat.read(
                "deck.csv",
                after.getBytes(StandardCharsets.UTF_8),
                CsvOptions.AUTOMATIC.withDialect(before.dialect()).withLayout(before.layout()));
        assertThat(again.size()).isEqualTo(before.size());
        List<String> linesBefore = content.toString().lines().toList();
        List<String> linesAfter = after.lines().toList();
        for (int i = 0; i < before.size(); i++) {
            assertThat(again.entry(i).texts())
                    .extracting(FileText::main)
                    .as("entry %d", i)
                    .containsExactly(expected[i]);
            if (!touched[i]) {
                assertThat(linesAfter).contains(linesBefore.get(i + 1));
            }
        }
    }

    private static String randomText(Random random) {
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(6); i > 0; i--) {
            text.append(PIECES.get(random.nextInt(PIECES.size())));
        }
        return text.toString();
    }
}
