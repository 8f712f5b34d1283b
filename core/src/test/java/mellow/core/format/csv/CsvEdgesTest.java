package mellow.core.format.csv;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import mellow.core.format.Aspect;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.FileReading.Field;
import mellow.core.format.Limits;
import mellow.core.format.Problem;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.charset.TextEncoding;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** Where the rules of separated text begin and end: limits to the last one, two bytes per character, rows cut short. */
class CsvEdgesTest {

    private static final TextEncoding UTF_8 = new TextEncoding(StandardCharsets.UTF_8, 0);

    private static CsvReading read(String content) {
        return read(content, CsvOptions.AUTOMATIC);
    }

    private static CsvReading read(String content, CsvOptions options) {
        return CsvFormat.read("deck.csv", content.getBytes(StandardCharsets.UTF_8), options);
    }

    private static List<String> sentences(CsvReading reading) {
        return reading.problems().stream().map(Problem::sentence).toList();
    }

    private static List<String> texts(CsvReading reading) {
        return IntStream.range(0, reading.size())
                .mapToObj(i -> reading.entry(i).key() + "=" + reading.entry(i).text(0))
                .toList();
    }

    private static String written(FilePatch patch) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        patch.writeTo(out);
        return out.toString(StandardCharsets.UTF_8);
    }

    static Stream<Arguments> told() {
        return Stream.of(
                Arguments.of("key,en\na,x\u0007y\n", "line 2: a control character: kept as they are"),
                Arguments.of("key,en\na,x\nb,\"\u0007\n\u0001\"\n", "line 3: 2 control characters, the first here"),
                Arguments.of("key,en\n\u0008a,x\u0007y\n", "line 2: 2 control characters, the first here"),
                Arguments.of("key,en,de\na\nb,x,y\n", "line 2: the row ends after 1 of 3 cells"),
                Arguments.of("key,en\na,x,over\n", "line 2: the row has 3 cells under 2 headings"),
                Arguments.of("key,en\n,lost\na,x\n", "line 2: a row without a key, left out"),
                Arguments.of("key,en,max length\na,x,many\n", "the limit “many” is no number of characters"),
                Arguments.of("key,en\na,\"x\" y\n", "cell 2 goes on after its closing quote"));
    }

    @ParameterizedTest
    @MethodSource("told")
    void whatIsOddIsTold(String content, String sentence) {
        CsvReading reading = read(content);
        assertThat(sentences(reading)).hasSize(1);
        assertThat(sentences(reading).get(0).replace("; ", ", ")).contains(sentence.replace(": kept as they are", ""));
        assertThat(reading.problemCount()).isEqualTo(1);
        assertThat(reading.blocked()).isFalse();
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "key,en\\na,x\\n\\n",
                "key,en,\\na,x,\\n",
                "key,en,,\\na,x\\n",
                "key,en,max length\\na,x,\\nb,y,12\\n",
                "key,en\\na,\"x\\ty\"\\n",
                "key,en\\na,x,, ,\\n"
            })
    void whatIsUsualIsNotTold(String content) {
        assertThat(sentences(read(content.replace("\\n", "\n").replace("\\t", "\t"))))
                .isEmpty();
    }

    private static CsvOptions within(long bytes, int entries, int textBytes, int columns) {
        return CsvOptions.AUTOMATIC
                .withDialect(CsvDialect.RFC_4180)
                .withEncoding(UTF_8)
                .withLimits(new Limits(bytes, entries, textBytes, columns));
    }

    @Test
    void aLimitIsTheLastThatMayBe() {
        String content = "key,en\na,12345\n";
        assertThat(texts(read(content, within(content.length(), 1, 6, 2)))).containsExactly("a=12345");
        assertThatThrownBy(() -> read(content, within(content.length() - 1, 1, 6, 2)))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining("the file has 0 MB");
        assertThat(texts(read(content, within(100, 1, 5, 2)))).containsExactly("a=12345");
        assertThatThrownBy(() -> read(content, within(100, 1, 4, 2)))
                .hasMessageContaining("line 2")
                .hasMessageContaining("a cell of 5 bytes")
                .hasMessageContaining("at most 4");
        assertThatThrownBy(() -> read(content, within(100, 1, 6, 1)))
                .hasMessageContaining("line 1")
                .hasMessageContaining("a row of more than 1 cells");
        // A hundred rows beside the entries: titles and the header.
        String rows = "key,en\n" + "a,b\n".repeat(101);
        assertThat(read(rows.substring(0, rows.length() - 8), within(9_000, 0, 6, 2))
                        .records()
                        .size())
                .isEqualTo(100);
        assertThatThrownBy(() -> read(rows, within(9_000, 0, 6, 2))).hasMessageContaining("more than 0 rows");
        assertThatThrownBy(() -> {
                    throw CsvFormat.tooLarge(new Problems("b.csv"), 300L << 20, 200L << 20);
                })
                .hasMessageContaining("300 MB")
                .hasMessageContaining("at most 200 MB");
    }

    @ParameterizedTest
    @CsvSource({"UTF-16LE", "UTF-16BE"})
    void twoBytesPerCharacterAreReadLikeOne(String name) throws IOException {
        Charset charset = Charset.forName(name);
        String content =
                "\uFEFFkey;en;de\r\na;\"x;\"\"y\"\"\";\"1\r\n2\"\r\n\r\nb;\u0007z;\"q\" r\r\nc;\t;\"\u0001\"\rd;'=1;\n";
        byte[] bytes = content.getBytes(charset);
        CsvReading reading = CsvFormat.read("deck.csv", bytes, CsvOptions.AUTOMATIC);
        assertThat(reading.charset()).isEqualTo(name);
        assertThat(reading.encoding().byteOrderMark()).isEqualTo(2);
        assertThat(reading.guarded()).isTrue();
        assertThat(texts(reading)).containsExactly("a=x;\"y\"", "b=\u0007z", "c=\t", "d==1");
        assertThat(reading.entry(0).text(1)).isEqualTo("1\n2");
        assertThat(reading.entry(1).text(1)).isEqualTo("q r");
        assertThat(IntStream.range(0, 4).map(i -> reading.entry(i).line())).containsExactly(2, 5, 6, 7);
        assertThat(sentences(reading)).hasSize(2).anyMatch(one -> one.contains("line 5") && one.contains("2 control"));
        FilePatch patch = reading.patch();
        patch.set(0, 0, "n;m");
        patch.set(0, 1, "3\n4");
        patch.insert(1, FileEntry.of("e").plain(List.of("f", "g")).build());
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        patch.writeTo(out);
        assertThat(out.toString(charset))
                .isEqualTo(content.replace("\"x;\"\"y\"\"\"", "\"n;m\"")
                        .replace("1\r\n2", "3\r\n4")
                        .replace("\" r\r\n", "\" r\r\ne;f;g\r\n"));
        // Half a character at the end is none.
        byte[] cut = Arrays.copyOf(("\uFEFFkey,en\na,x").getBytes(charset), 2 * 11 - 1);
        assertThatThrownBy(() -> CsvFormat.read("deck.csv", cut, CsvOptions.AUTOMATIC))
                .isInstanceOf(UnreadableFileException.class);
        assertThatThrownBy(
                        () -> CsvFormat.read("deck.csv", "\uFEFFkey,en\na,x\0".getBytes(charset), CsvOptions.AUTOMATIC))
                .hasMessageContaining("line 2, column 4")
                .hasMessageContaining("NUL");
    }

    @ParameterizedTest(name = "{0} -> {1}{2}")
    @CsvSource(
            delimiter = '!',
            quoteCharacter = '^',
            value = {
                "key,en\\na,x\\n!,!\"",
                "key;en\\na;x, y, z\\nb;x\\n!;!\"",
                "key\\ten\\na\\tx;y\\n!\\t!\"",
                "key|en\\na|x\\n!|!\"",
                // The most rows of one width count, not the widest row.
                "a,b,c,d\\nkey;en\\na;x\\nb;y\\n!;!\"",
                // Of two widths equally often the wider one.
                "key;en\\na;x,y,z\\n!;!\"",
                "'key','en'\\n'a','x'\\n!,!'",
                "'key';'en'\\n'a';'x'\\n!;!'",
                // Hardly more than half of the cells stand in apostrophes: they are letters.
                "'a',b\\n'c','d'\\ne,'f'\\ng,h\\n!,!\"",
                "key\\na\\n!,!\"",
                "sep=|\\nkey|en\\na|x,y\\n!|!\"",
                "SEP=;\\r\\nkey;en\\n!;!\"",
                // Not declared: a word, a quote, no end of line, a letter beyond ASCII.
                "sep=,en\\na;x,y\\n!,!\"",
                "sep=ä\\nkey;en\\na;x\\n!;!\"",
                "sep=\"\\nkey;en\\na;x\\n!;!\"",
                "sup=|\\nkey;en\\na;x\\n!;!\""
            })
    void findsDelimiterAndQuote(String content, String delimiter, char quote) {
        byte[] bytes = content.replace("\\n", "\n")
                .replace("\\r", "\r")
                .replace("\\t", "\t")
                .getBytes(StandardCharsets.UTF_8);
        assertThat(DialectDetector.detect(bytes, UTF_8))
                .isEqualTo(new CsvDialect(delimiter.replace("\\t", "\t").charAt(0), quote));
    }

    @Test
    void aDeclarationNeedsTheEndOfItsLine() {
        assertThat(DialectDetector.declared("sep=;".getBytes(StandardCharsets.UTF_8), UTF_8))
                .isEmpty();
        assertThat(DialectDetector.declared("sep=;\n".getBytes(StandardCharsets.UTF_8), UTF_8))
                .contains(new CsvDialect(';', '"'));
        assertThat(DialectDetector.declared(
                        "\uFEFFsep=;\n".getBytes(StandardCharsets.UTF_16LE),
                        new TextEncoding(StandardCharsets.UTF_16LE, 2)))
                .contains(new CsvDialect(';', '"'));
    }

    /** A quote that the end of the sample leaves open says nothing about the dialect. */
    @Test
    void theSampleMayEndWithinQuotes() {
        String content = "key;en\n" + "a;\"x,\n\"\n".repeat(40_000) + "b;\"" + "y,\n".repeat(2_000) + "\"\n";
        CsvReading reading = read(content);
        assertThat(reading.dialect()).isEqualTo(new CsvDialect(';', '"'));
        assertThat(reading.entry(reading.size() - 1).line()).isEqualTo(80_002);
    }

    @ParameterizedTest
    @CsvSource({
        "key\\r\\na, CRLF",
        "key\\na\\r\\n, LF",
        "key\\ra\\n, CR",
        "key, LF",
        "key\\r, CR",
        "\\nkey\\r, LF",
        "\\rkey\\n, CR"
    })
    void newLinesEndAsTheFirstDoes(String content, String end) {
        byte[] bytes = content.replace("\\r", "\r").replace("\\n", "\n").getBytes(StandardCharsets.UTF_8);
        assertThat(new String(DialectDetector.lineEnd(bytes, UTF_8), StandardCharsets.UTF_8)
                        .replace("\r", "CR")
                        .replace("\n", "LF"))
                .isEqualTo(end);
        assertThat(DialectDetector.lineEnd(
                        "\uFEFFk\r\n".getBytes(StandardCharsets.UTF_16BE),
                        new TextEncoding(StandardCharsets.UTF_16BE, 2)))
                .containsExactly(0, '\r', 0, '\n');
    }

    @Test
    void aRowThatSomebodyCallsTheHeader() {
        String content = "Deck texts,,\nkey,en,de\na,x,y\n";
        assertThat(texts(read(content, CsvOptions.AUTOMATIC.withHeaderRow(1)))).containsExactly("a=x");
        assertThat(read(content, CsvOptions.AUTOMATIC.withHeaderRow(2)).blocked())
                .isTrue();
        // A row that is not there is no choice.
        assertThat(texts(read(content, CsvOptions.AUTOMATIC.withHeaderRow(3)))).containsExactly("a=x");
        CsvReading declared = read("sep=;\n" + content.replace(',', ';'), CsvOptions.AUTOMATIC.withHeaderRow(1));
        assertThat(declared.layout().headerRow()).isEqualTo(1);
        assertThat(texts(declared)).containsExactly("a=x");
        assertThat(declared.firstRows(2)).containsExactly(List.of("Deck texts", "", ""), List.of("key", "en", "de"));
        assertThat(declared.firstRows(9)).hasSize(3);
        assertThat(declared.firstRows(0)).isEmpty();
    }

    @Test
    void aColumnThatNobodyNamedIsLeftOutAndTold() {
        CsvReading reading = read("sep=;\nDeck texts;;\nkey;en;remarks of the yard\na;x;soon\n");
        assertThat(sentences(reading))
                .singleElement()
                .asString()
                .contains("line 3")
                .contains("remarks of the yard");
        assertThat(reading.has(Field.NOTE)).isFalse();
        CsvReading whole = read("key,context,note,en,section,max length,where used\na,b,c,d,e,5,f\n");
        assertThat(Arrays.stream(Field.values()).allMatch(whole::has)).isTrue();
        assertThat(whole.has(Field.CONTEXT)).isTrue();
        assertThat(whole.keepsReturns()).isFalse();
        assertThat(read("key,en\na,b\n").has(Field.CONTEXT)).isFalse();
    }

    @Test
    void theSourceIsWhatSomebodySaidElseTheFirstOfSeveral() {
        assertThat(read("key,en\na,b\n").sourceLanguage()).isEmpty();
        CsvReading reading = read("key,de,en\na,b,c\n");
        assertThat(reading.sourceLanguage()).contains(new LanguageTag("de"));
        assertThat(reading.from(Optional.of(new LanguageTag("en"))).sourceLanguage())
                .contains(new LanguageTag("en"));
        assertThat(reading.from(Optional.of(new LanguageTag("fi"))).sourceLanguage())
                .contains(new LanguageTag("de"));
    }

    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '^',
            value = {"'=1,=1", "'-,-", "'@a,@a", "'+1,+1", "''=1,'=1", "'a,'a", "'tis,'tis", "',''", "=1,=1"})
    void aGuardIsAnApostropheBeforeWhatWouldRun(String cell, String text) {
        String shown = text.equals("''") ? "'" : text;
        assertThat(read("key,en\nz,'=0\na," + cell + "\n").entry(1).text(0)).isEqualTo(shown);
        assertThat(FormulaGuard.guarded(cell)).isEqualTo(!cell.equals(shown));
    }

    @Test
    void guardsAreLookedForInEveryColumnThatPeopleFill() {
        assertThat(read("key,en,de\na,x,'=1\n").guarded()).isTrue();
        assertThat(read("key,en,remarks of the yard\na,x,'=1\n").guarded()).isFalse();
        assertThat(read("key,en,de\na,x\n").guarded()).isFalse();
        assertThat(read("key,en,de\na,x,\n'=b,y,z\n").entry(1).key()).isEqualTo("=b");
    }

    @Test
    void rowsCutShortAreFilledWhereTheyEnd() throws IOException {
        FilePatch patch = read("key,en,de,fi\na\nb,\"x\"\nc,y\n").patch();
        patch.set(0, 2, "Luukku");
        patch.set(1, 0, "X");
        patch.set(1, 1, "Klappe");
        patch.set(2, 0, "Y, y");
        patch.set(2, 2, "z");
        patch.insert(2, FileEntry.of("d").plain(List.of("1", "2", "3")).build());
        assertThat(written(patch)).isEqualTo("key,en,de,fi\na,,,Luukku\nb,\"X\",Klappe\nc,\"Y, y\",,z\nd,1,2,3\n");
        FilePatch removed = read("key,en,de\na\nb,x,y\n").patch();
        removed.set(0, 1, "gone");
        removed.remove(0);
        removed.set(1, 0, "kept");
        assertThat(written(removed)).isEqualTo("key,en,de\nb,kept,y\n");
        FilePatch replaced = read("key,en,de\na,x,y\nb,x,y\n").patch();
        replaced.set(0, 1, "gone");
        replaced.remove(0);
        assertThat(written(replaced)).isEqualTo("key,en,de\nb,x,y\n");
    }

    @Test
    void rowsGoBelowAFileWhoseLastLineIsOpen() throws IOException {
        FilePatch first = read("key,en\na,x").patch();
        first.insert(-1, FileEntry.of("b").plain(List.of("y")).build());
        first.insert(0, FileEntry.of("c").plain(List.of("z")).build());
        assertThat(written(first)).isEqualTo("key,en\na,x\nb,y\nc,z");
        FilePatch blank = read("key,en\na,x\n\n").patch();
        blank.insert(-1, FileEntry.of("b").plain(List.of("'=y")).build());
        assertThat(written(blank)).isEqualTo("key,en\na,x\n\nb,''=y\n");
    }

    @Test
    void rowsThatAreNoEntries() {
        assertThat(CsvRow.of(Arrays.asList("=1", null, -3, "a,b", "5\"", 2.5)))
                .isEqualTo("'=1,,-3,\"a,b\",\"5\"\"\",2.5\r\n");
        assertThat(CsvRow.of(List.of())).isEqualTo("\r\n");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '^',
            value = {
                "a.csv|anything|85",
                "a.tsv|anything|85",
                "a.TAB|anything|85",
                "a.txt|key;en|45",
                "a.txt|words of a letter|0",
                "a|key,en|15",
                "a|{\"key\", 1|0",
                "a|<a>, b|0",
                "a||0"
            })
    void howLikelyAFileIsSeparatedText(String name, String content, int likelihood) {
        byte[] bytes = content == null ? new byte[0] : content.getBytes(StandardCharsets.UTF_8);
        assertThat(new CsvFileFormat()
                        .likelihood(new FileFormat.Sample(
                                name.toLowerCase(Locale.ROOT), name, bytes, content == null ? "" : content)))
                .isEqualTo(likelihood);
    }

    @Test
    void asAFormatAmongOthers() {
        CsvFileFormat format = new CsvFileFormat();
        assertThat(format.keeps()).contains(Aspect.values()[0]).doesNotContain(Aspect.STATE, Aspect.LINE_BREAKS);
        byte[] german = "key;de\na;Größe\n".getBytes(Charset.forName("windows-1252"));
        FileReading chosen =
                format.read("a.csv", german, ReadOptions.AUTOMATIC.spelled(Charset.forName("windows-1251")));
        assertThat(chosen.entry(0).text(0)).isEqualTo("GrцЯe");
        assertThatThrownBy(() -> format.read(
                        "a.csv",
                        "key,en,remarks of the yard,words\n".getBytes(StandardCharsets.UTF_8),
                        ReadOptions.AUTOMATIC))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining("there are no rows with keys");
    }
}
