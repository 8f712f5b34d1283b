package mellow.core.format.csv;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.format.Limits;
import mellow.core.format.Problem;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.charset.TextEncoding;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

class CsvReadingTest {

    private static CsvReading read(String content) {
        return read(content.getBytes(StandardCharsets.UTF_8));
    }

    private static CsvReading read(byte[] content) {
        return CsvFormat.read("deck.csv", content, CsvOptions.AUTOMATIC);
    }

    private static List<String> shown(CsvReading reading) {
        return IntStream.range(0, reading.size())
                .mapToObj(reading::entry)
                .map(entry -> entry.key() + "="
                        + String.join(
                                "/", entry.texts().stream().map(FileText::main).toList()))
                .toList();
    }

    private static List<String> languages(CsvReading reading) {
        return reading.languages().stream().map(LanguageTag::value).toList();
    }

    /** Named by the rule each shows: RFC 4180 by its section, then the habits around it. */
    static Stream<Arguments> cases() {
        return Stream.of(
                Arguments.of("§2.1 a record per line, CRLF", "key,en\r\na,x\r\nb,y\r\n", List.of("a=x", "b=y")),
                Arguments.of("§2.2 the last line may lack its end", "key,en\r\na,x", List.of("a=x")),
                Arguments.of("§2.4 spaces are part of a cell", "key,en\r\na, x \r\n", List.of("a= x ")),
                Arguments.of("§2.5 cells may be quoted", "key,en\r\n\"a\",\"x\"\r\n", List.of("a=x")),
                Arguments.of("§2.6 delimiter within quotes", "key,en\r\na,\"x, y\"\r\n", List.of("a=x, y")),
                Arguments.of(
                        "§2.6 line break within quotes reads as LF", "key,en\r\na,\"x\r\ny\"\r\n", List.of("a=x\ny")),
                Arguments.of(
                        "§2.7 a doubled quote is a quote",
                        "key,en\r\na,\"say \"\"ahoy\"\"\"\r\n",
                        List.of("a=say \"ahoy\"")),
                Arguments.of("§2.7 an empty quoted cell", "key,en,de\r\na,\"\",x\r\n", List.of("a=/x")),
                Arguments.of("§2.7 a cell of one quote", "key,en\r\na,\"\"\"\"\r\n", List.of("a=\"")),
                Arguments.of("LF line ends", "key,en\na,x\nb,y\n", List.of("a=x", "b=y")),
                Arguments.of("CR line ends", "key,en\ra,x\rb,y\r", List.of("a=x", "b=y")),
                Arguments.of("mixed line ends", "key,en\r\na,x\nb,y\rc,z", List.of("a=x", "b=y", "c=z")),
                Arguments.of("blank lines are no rows", "key,en\n\na,x\n\n\nb,y\n\n", List.of("a=x", "b=y")),
                Arguments.of("semicolons", "key;en;de\na;x, y;z\n", List.of("a=x, y/z")),
                Arguments.of("tabs", "key\ten\tde\na\tx, y\tz; w\n", List.of("a=x, y/z; w")),
                Arguments.of("bars", "key|en\na|x\nb|y\n", List.of("a=x", "b=y")),
                Arguments.of("a sep= line declares the delimiter", "sep=;\nkey;en\na;x,y\n", List.of("a=x,y")),
                Arguments.of("apostrophes as quotes", "'key','en'\n'a','x, y'\n'b','z'\n", List.of("a=x, y", "b=z")),
                Arguments.of(
                        "apostrophes in words are letters", "key,en\na,it's\nb,'tis\n", List.of("a=it's", "b='tis")),
                Arguments.of("byte-order mark", "\uFEFFkey,en\na,x\n", List.of("a=x")),
                Arguments.of("blank first heading is the key", ",en,de\na,x,y\n", List.of("a=x/y")),
                Arguments.of(
                        "an unnamed column of keys is found by its looks",
                        "Label;en\nramp.up;Ramp up\nramp.down;Ramp down\n",
                        List.of("ramp.up=Ramp up", "ramp.down=Ramp down")),
                Arguments.of(
                        "a title above the header",
                        "Ramp panel texts 2026;;\n;;\nkey;en;de\na;x;y\n",
                        List.of("a=x/y")),
                Arguments.of(
                        "keys with spaces stay as they are",
                        "key,en\nramp is up,x\n lead,y\n",
                        List.of("ramp is up=x", " lead=y")),
                Arguments.of("of a key typed twice the last counts", "key,en\na,x\nb,y\na,z\n", List.of("b=y", "a=z")),
                Arguments.of(
                        "equal keys in two contexts are two entries",
                        "key,context,en\na,door,x\na,hatch,y\n",
                        List.of("a=x", "a=y")),
                Arguments.of("a short row ends in empty cells", "key,en,de\na,x\nb,y,z\n", List.of("a=x/", "b=y/z")),
                Arguments.of("cells over the headings are left out", "key,en\na,x,,over\nb,y\n", List.of("a=x", "b=y")),
                Arguments.of("a row without key is left out", "key,en\n,lost\nb,y\n", List.of("b=y")),
                Arguments.of("a row of empty cells is no row", "key,en\n,\nb,y\n", List.of("b=y")),
                Arguments.of(
                        "text after a closing quote belongs to the cell",
                        "key,en\na,\"x\" y\nb,z\n",
                        List.of("a=x y", "b=z")),
                Arguments.of(
                        "a quote inside a bare cell is a character",
                        "key,en\na,5\" pipe\nb,z\n",
                        List.of("a=5\" pipe", "b=z")),
                Arguments.of("id is the key where nothing else is", "ID,en,de\na,x,y\n", List.of("a=x/y")),
                Arguments.of("id is Indonesian beside a key", "key,en,id\na,x,y\n", List.of("a=x/y")),
                Arguments.of("guards against formulas are removed", "key,en\na,'=1+1\nb,y\n", List.of("a==1+1", "b=y")),
                Arguments.of(
                        "right-to-left text and emoji pass through", "key,ar\na,مرحبا 🚢\n", List.of("a=مرحبا 🚢")));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("cases")
    void reads(String rule, String content, List<String> entries) {
        assertThat(shown(read(content))).as(visible(content)).isEqualTo(entries);
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("cases")
    void writesTheSameBytesWhenNothingChanged(String rule, String content, List<String> entries) throws Exception {
        byte[] bytes = content.getBytes(StandardCharsets.UTF_8);
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        read(bytes).patch().writeTo(out);
        assertThat(out.toByteArray()).as(visible(content)).isEqualTo(bytes);
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource({
        "windows-1252, Größe der Tür €",
        "windows-1250, Załączyć łódź",
        "UTF-16LE, Größe der Tür €",
        "UTF-16BE, Größe 船",
        "UTF-8, 船が着く"
    })
    void findsTheCharacterSet(String charset, String text) {
        String line = "k;" + text + " " + text + "\r\n";
        byte[] bytes = ("key;de\r\n" + line.replace("k;", "a;") + line).getBytes(Charset.forName(charset));
        CsvReading reading = read(bytes);
        assertThat(reading.encoding().charset().name()).isEqualTo(charset);
        assertThat(reading.entry(1).text(0)).isEqualTo(text + " " + text);
    }

    @Test
    void utf16WithMarkIsScannedInUnits() throws Exception {
        // U+2C22 holds the byte of a comma, U+0A0D those of line ends: neither may be taken for one.
        byte[] bytes = "\uFEFFkey,en,ja\r\na,\u2C22\u0A0D,\"船,\n\"\r\n".getBytes(StandardCharsets.UTF_16LE);
        CsvReading reading = read(bytes);
        assertThat(shown(reading)).containsExactly("a=\u2C22\u0A0D/船,\n");
        assertThat(reading.dialect().delimiter()).isEqualTo(',');
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            value = {
                "pt_BR and DE|key,en,pt_BR,DE|en pt-BR de",
                "names in English|Key,English,German,Brazilian Portuguese|en de pt-BR",
                "own names|Key,English,Deutsch,suomi,日本語|en de fi ja",
                "names with tags|Key,English (source),Polish [pl]|en pl"
            })
    void headingsAreTagsOrNames(String rule, String header, String tags) {
        assertThat(languages(read(header + "\na,b,c,d\n"))).containsExactly(tags.split(" "));
    }

    @Test
    void readsEverythingElseASheetMaySay() {
        FileEntry entry =
                read("Key;Context;Section;Note;Max length;Where used;en\na;door;Bow ramp;in the cabin;28;ramp.scr:41;Open\n")
                        .entry(0);
        assertThat(entry)
                .isEqualTo(FileEntry.of("a")
                        .line(2)
                        .context("door")
                        .note("in the cabin")
                        .reference("ramp.scr:41")
                        .section("Bow ramp")
                        .maxLength(28)
                        .plain(List.of("Open"))
                        .build());
    }

    @Test
    void saysBothLinesOfAKeyTypedTwice() {
        assertThat(read("key,en\na,x\nb,\"1\n2\"\na,z\n").problems())
                .extracting(Problem::sentence)
                .containsExactly(
                        "deck.csv, line 5: the key “a” was typed before, in line 2; this one, the last, counts.");
    }

    @ParameterizedTest(name = "lines that end with {0}")
    @CsvSource({"CRLF", "LF", "CR"})
    void countsLinesWhateverTheyEndWith(String end) {
        String lineEnd = end.replace("CR", "\r").replace("LF", "\n");
        CsvReading reading = read("key,en||a,\"x|y\"|b,z|".replace("|", lineEnd));
        assertThat(reading.entry(0).line()).isEqualTo(3);
        assertThat(reading.entry(1).line()).isEqualTo(5);
    }

    static Stream<Arguments> refused() {
        return Stream.of(
                Arguments.of("empty", new byte[0], "the file is empty"),
                Arguments.of("only blank lines", "\n\n\r\n".getBytes(StandardCharsets.UTF_8), "only blank lines"),
                Arguments.of(
                        "a picture", new byte[] {(byte) 0x89, 'P', 'N', 'G', 13, 10, 26, 10, 0, 0}, "a PNG picture"),
                Arguments.of("a workbook", new byte[] {'P', 'K', 3, 4, 20, 0}, "a workbook"),
                Arguments.of(
                        "NUL",
                        "key,en\na,x\0y\n".getBytes(StandardCharsets.UTF_8),
                        "deck.csv, line 2, column 4: found".replace("found", "a NUL character")),
                Arguments.of(
                        "quote never closed",
                        "key,en\na,x\nb,\"y\nc,z\n".getBytes(StandardCharsets.UTF_8),
                        "line 3, column 3: a quote opens a cell in line 3"),
                Arguments.of(
                        "invalid byte in UTF-8",
                        bytes("key,de\na,Größe Höhe ü ö ä\nb,", 0xE4, "\n"),
                        "line 3, column 3: the byte E4 at offset 34 is no character in UTF-8"),
                Arguments.of(
                        "UTF-8 mark, other bytes",
                        bytes("\uFEFFkey,de\na,", 0xFC, "\n"),
                        "line 2, column 3: the byte FC"));
    }

    private static byte[] bytes(String before, int invalid, String after) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.writeBytes(before.getBytes(StandardCharsets.UTF_8));
        out.write(invalid);
        out.writeBytes(after.getBytes(StandardCharsets.UTF_8));
        return out.toByteArray();
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("refused")
    void refusesWithOneSentence(String what, byte[] content, String sentence) {
        assertThatThrownBy(() -> read(content))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining(sentence);
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '|',
            value = {
                "no key column|en,de\\nx y,z\\nx y,w\\n|deck.csv, line 1: the header has no column of keys",
                "no language|key,text\\na,b\\n|no column is headed by a language",
                "a language twice|key,en,de,German\\na,b,c,d\\n|the columns 3 (“de”) and 4 (“German”) are both de",
                "no rows|key,en,de\\n|there are no rows with keys"
            })
    void blocksUntilTheLayoutIsCorrected(String what, String content, String sentence) {
        CsvReading reading = read(content.replace("\\n", "\n"));
        assertThat(reading.blocked()).isTrue();
        assertThat(reading.problems().get(0).sentence()).contains(sentence);
    }

    @Test
    void limitsAreToldByName() {
        Limits small = new Limits(100, 3, 20, 5);
        assertThatThrownBy(() -> CsvFormat.read("big.csv", new byte[200], CsvOptions.AUTOMATIC.withLimits(small)))
                .hasMessageContaining("at most 0 MB");
        assertThatThrownBy(() -> CsvFormat.read(
                        "b.csv",
                        ("key,en\na," + "x".repeat(30)).getBytes(StandardCharsets.UTF_8),
                        CsvOptions.AUTOMATIC.withLimits(small)))
                .hasMessageContaining("a cell of 30 bytes");
        assertThatThrownBy(() -> CsvFormat.read(
                        "b.csv",
                        "key,en\n1,2,3,4,5,6\n".getBytes(StandardCharsets.UTF_8),
                        CsvOptions.AUTOMATIC.withLimits(small)))
                .hasMessageContaining("wrong delimiter");
    }

    @Test
    void aPersonsChoiceWinsOverTheGuess() {
        byte[] bytes = "key;de\na;Größe\n".getBytes(StandardCharsets.ISO_8859_1);
        CsvReading reading = CsvFormat.read(
                "a.csv",
                bytes,
                CsvOptions.AUTOMATIC.withEncoding(new TextEncoding(Charset.forName("windows-1251"), 0)));
        assertThat(reading.entry(0).text(0)).isEqualTo("GrцЯe");
        assertThat(CsvFormat.read("a.csv", bytes, CsvOptions.AUTOMATIC.withDialect(new CsvDialect(',', '"')))
                        .blocked())
                .isTrue();
    }

    private static String visible(String content) {
        return content.replace("\r", "␍").replace("\n", "␊\n").replace("\t", "␉");
    }
}
