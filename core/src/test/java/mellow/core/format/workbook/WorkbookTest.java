package mellow.core.format.workbook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.Problem;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** What other programs put into workbooks, and what they find in ours. */
class WorkbookTest {

    private static final FileFormat XLSX = new XlsxFormat();
    private static final FileFormat ODS = new OdsFormat();
    private static final String HEADER =
            "<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>Key</t></is></c><c r=\"B1\" t=\"inlineStr\"><is><t>en</t></is></c></row>";
    private static final String ODS_HEADER = odsRow("Key", "en");

    private static byte[] zip(Map<String, String> parts) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipOutputStream zip = new ZipOutputStream(out)) {
            for (Map.Entry<String, String> part : parts.entrySet()) {
                zip.putNextEntry(new ZipEntry(part.getKey()));
                zip.write(part.getValue().getBytes(StandardCharsets.UTF_8));
            }
        } catch (IOException impossible) {
            throw new AssertionError(impossible);
        }
        return out.toByteArray();
    }

    private static Map<String, String> unzip(byte[] bytes) throws IOException {
        Map<String, String> parts = new LinkedHashMap<>();
        try (ZipInputStream zip = new ZipInputStream(new ByteArrayInputStream(bytes))) {
            for (ZipEntry entry = zip.getNextEntry(); entry != null; entry = zip.getNextEntry()) {
                parts.put(entry.getName(), new String(zip.readAllBytes(), StandardCharsets.UTF_8));
            }
        }
        return parts;
    }

    /** A workbook of one sheet with these rows, and shared strings "zero", "one two" (rich, with a phonetic hint). */
    private static Map<String, String> xlsx(String rows) {
        Map<String, String> parts = new LinkedHashMap<>();
        parts.put("[Content_Types].xml", "<Types/>");
        parts.put(
                "xl/workbook.xml",
                "<workbook xmlns:r=\"urn:r\"><sheets><sheet name=\"Deck\" r:id=\"a\"/></sheets></workbook>");
        parts.put(
                "xl/_rels/workbook.xml.rels",
                "<Relationships><Relationship Id=\"a\" Target=\"worksheets/s.xml\"/></Relationships>");
        parts.put(
                "xl/sharedStrings.xml",
                "<sst><si><t>zero</t></si><si><r><rPr/><t xml:space=\"preserve\">one </t></r><r><t>two</t></r><rPh><t>x</t></rPh></si></sst>");
        parts.put(
                "xl/worksheets/s.xml",
                "<worksheet><cols><col width=\"9\"/></cols><sheetData>" + HEADER + rows + "</sheetData></worksheet>");
        return parts;
    }

    private static String odsRow(String... cells) {
        StringBuilder row = new StringBuilder("<table:table-row>");
        for (String cell : cells) {
            row.append("<table:table-cell office:value-type=\"string\"><text:p>")
                    .append(cell)
                    .append("</text:p></table:table-cell>");
        }
        return row.append("</table:table-row>").toString();
    }

    private static Map<String, String> ods(String rows) {
        Map<String, String> parts = new LinkedHashMap<>();
        parts.put("mimetype", "application/vnd.oasis.opendocument.spreadsheet");
        parts.put(
                "content.xml",
                "<office:document-content xmlns:office=\"o\" xmlns:table=\"t\" xmlns:text=\"x\"><office:body><office:spreadsheet>"
                        + "<table:table table:name=\"Deck\">" + ODS_HEADER + rows
                        + "</table:table></office:spreadsheet></office:body></office:document-content>");
        return parts;
    }

    private static FileReading read(FileFormat format, Map<String, String> parts) {
        return format.read("deck.zip", zip(parts), ReadOptions.AUTOMATIC);
    }

    private static List<String> shown(FileReading reading) {
        List<String> shown = new ArrayList<>();
        for (int i = 0; i < reading.size(); i++) {
            FileEntry entry = reading.entry(i);
            shown.add(entry.key() + "="
                    + String.join(
                            "|",
                            entry.texts().stream()
                                    .map(text -> text.main().replace("\n", "¶"))
                                    .toList()));
        }
        return shown;
    }

    private static String cell(String reference, String attributes, String inner) {
        return "<c r=\"" + reference + "\" " + attributes + ">" + inner + "</c>";
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '~',
            value = {
                "a shared string ~ t=\"s\" ~ <v>0</v> ~ zero ~ false",
                "a rich shared string without its phonetic hint ~ t=\"s\" ~ <v>1</v> ~ one two ~ false",
                "a shared string that does not exist ~ t=\"s\" ~ <v>9</v> ~ '' ~ false",
                "an inline string ~ t=\"inlineStr\" ~ <is><t>Ramp</t></is> ~ Ramp ~ false",
                "an inline string of runs ~ t=\"inlineStr\" ~ <is><r><t>Ra</t></r><r><t>mp</t></r></is> ~ Ramp ~ false",
                "an escaped character ~ t=\"inlineStr\" ~ <is><t>a_x0041_b_x0042_</t></is> ~ aAbB ~ false",
                "an escaped escape ~ t=\"inlineStr\" ~ <is><t>_x005F_x0041_</t></is> ~ _x0041_ ~ false",
                "a number ~ '' ~ <v>1.5</v> ~ 1.5 ~ true",
                "a number of type n ~ t=\"n\" ~ <v>44000</v> ~ 44000 ~ true",
                "a truth value ~ t=\"b\" ~ <v>1</v> ~ TRUE ~ true",
                "an error ~ t=\"e\" ~ <v>#REF!</v> ~ #REF! ~ true",
                "a formula of words ~ t=\"str\" ~ <f>A1</f><v>Key</v> ~ Key ~ true",
                "a styled empty cell ~ s=\"4\" ~ '' ~ '' ~ false",
                "a cell without a value ~ t=\"n\" ~ '' ~ '' ~ false",
                "white space that is kept ~ t=\"inlineStr\" ~ <is><t xml:space=\"preserve\">  a b </t></is> ~ '  a b ' ~ false",
                "an inline string without its phonetic hint ~ t=\"inlineStr\" ~ <is><t>a</t><rPh><t>b</t></rPh></is> ~ a ~ false",
                "character references ~ t=\"inlineStr\" ~ <is><t>&#xFC; &amp; &lt;b&gt;</t></is> ~ ü & <b> ~ false",
                "a line break ~ t=\"inlineStr\" ~ <is><t>a&#10;b</t></is> ~ a¶b ~ false",
                "an escape of four digits only ~ t=\"inlineStr\" ~ <is><t>_x41_ _x00g1_</t></is> ~ _x41_ _x00g1_ ~ false",
                "CDATA ~ t=\"inlineStr\" ~ <is><t><![CDATA[a < b]]></t></is> ~ a < b ~ false",
                "a number with an exponent ~ '' ~ <v>1E3</v> ~ 1E3 ~ true",
                "a truth value that is false ~ t=\"b\" ~ <v>0</v> ~ FALSE ~ true",
                "a formula of a number ~ '' ~ <f>1+1</f><v>2</v> ~ 2 ~ true"
            })
    void cellsOfXlsx(String rule, String attributes, String inner, String text, boolean warned) {
        String row = "<row r=\"2\">" + cell("A2", "t=\"inlineStr\"", "<is><t>k</t></is>")
                + cell("B2", attributes, inner) + "</row>";
        FileReading reading = read(XLSX, xlsx(row));
        assertThat(reading.entry(0).text(0).replace("\n", "¶")).isEqualTo(text);
        assertThat(reading.problems()).hasSize(warned ? 1 : 0);
        if (warned) {
            assertThat(reading.problems().get(0).severity()).isEqualTo(Problem.Severity.WARNING);
            assertThat(reading.problems().get(0).sentence()).contains("line 2: cell B2 of sheet “Deck” is a");
        }
    }

    @ParameterizedTest(name = "{0}")
    @CsvSource(
            delimiter = '~',
            value = {
                "a paragraph ~ office:value-type=\"string\" ~ <text:p>Ramp</text:p> ~ Ramp ~ false",
                "paragraphs are lines ~ office:value-type=\"string\" ~ <text:p>a</text:p><text:p/><text:p>b</text:p> ~ a¶¶b ~ false",
                "runs of spaces ~ office:value-type=\"string\" ~ <text:p>a<text:s text:c=\"3\"/>b<text:s/></text:p> ~ 'a   b ' ~ false",
                "white space collapses ~ office:value-type=\"string\" ~ <text:p>  a \t b</text:p> ~ a b ~ false",
                "tabs and breaks ~ office:value-type=\"string\" ~ <text:p>a<text:tab/>b<text:line-break/>c</text:p> ~ 'a\tb¶c' ~ false",
                "spans and links ~ office:value-type=\"string\" ~ <text:p>a<text:span>b</text:span><text:a>c</text:a></text:p> ~ abc ~ false",
                "a comment of the cell is none of its text ~ office:value-type=\"string\" ~ <office:annotation><text:p>x</text:p></office:annotation><text:p>a</text:p> ~ a ~ false",
                "a number as it is shown ~ office:value-type=\"float\" office:value=\"1.5\" ~ <text:p>1,50</text:p> ~ 1,50 ~ true",
                "a date as it is shown ~ office:value-type=\"date\" ~ <text:p>11/23/26</text:p> ~ 11/23/26 ~ true",
                "a formula ~ table:formula=\"of:=A1\" office:value-type=\"string\" ~ <text:p>x</text:p> ~ x ~ true",
                "an empty cell ~ '' ~ '' ~ '' ~ false",
                "an empty paragraph ~ office:value-type=\"string\" ~ <text:p/> ~ '' ~ false",
                "a text that only the attribute has not ~ office:value-type=\"string\" office:string-value=\"x\" ~ <text:p>a</text:p> ~ a ~ false",
                "character references ~ office:value-type=\"string\" ~ <text:p>&#xFC; &amp; &lt;b&gt;</text:p> ~ ü & <b> ~ false",
                "spans within spans ~ office:value-type=\"string\" ~ <text:p><text:span>a<text:span>b</text:span></text:span>c</text:p> ~ abc ~ false",
                "a space at each end of a span ~ office:value-type=\"string\" ~ <text:p>a<text:span> b </text:span>c</text:p> ~ a b c ~ false",
                "a line break of the file within a paragraph ~ office:value-type=\"string\" ~ <text:p>a&#10;b</text:p> ~ a b ~ false",
                "a style changes nothing ~ office:value-type=\"string\" table:style-name=\"ce1\" ~ <text:p text:style-name=\"P1\">a</text:p> ~ a ~ false",
                "a percentage as it is shown ~ office:value-type=\"percentage\" office:value=\"0.5\" ~ <text:p>50 %</text:p> ~ 50 % ~ true",
                "a currency as it is shown ~ office:value-type=\"currency\" ~ <text:p>3,00 €</text:p> ~ 3,00 € ~ true",
                "a time as it is shown ~ office:value-type=\"time\" ~ <text:p>12:30</text:p> ~ 12:30 ~ true",
                "a truth value as it is shown ~ office:value-type=\"boolean\" ~ <text:p>TRUE</text:p> ~ TRUE ~ true"
            })
    void cellsOfOds(String rule, String attributes, String inner, String text, boolean warned) {
        String row =
                "<table:table-row><table:table-cell office:value-type=\"string\"><text:p>k</text:p></table:table-cell><table:table-cell "
                        + attributes + ">" + inner + "</table:table-cell></table:table-row>";
        FileReading reading = read(ODS, ods(row));
        assertThat(reading.entry(0).text(0).replace("\n", "¶")).isEqualTo(text);
        assertThat(reading.problems()).hasSize(warned ? 1 : 0);
    }

    @Test
    void rowsAndCellsThatAreLeftOut() {
        String rows = "<row r=\"4\">" + cell("B4", "t=\"s\"", "<v>0</v>") + "</row><row r=\"7\">"
                + cell("A7", "t=\"s\"", "<v>0</v>") + "</row>";
        FileReading reading = read(XLSX, xlsx(rows));
        assertThat(shown(reading)).containsExactly("zero=");
        assertThat(reading.entry(0).line()).isEqualTo(7);
        assertThat(reading.problems().get(0).sentence()).contains("line 4: a row without a key in sheet “Deck”");
    }

    @Test
    void severalSheetsAreSectionsAndLanguagesAddUp() {
        Map<String, String> parts = xlsx(
                "<row r=\"2\">" + cell("A2", "t=\"s\"", "<v>0</v>") + cell("B2", "t=\"s\"", "<v>1</v>") + "</row>");
        parts.put(
                "xl/workbook.xml",
                "<workbook xmlns:r=\"urn:r\"><sheets><sheet name=\"Deck\" r:id=\"a\"/><sheet name=\"Notes\" r:id=\"c\"/><sheet name=\"Bridge\" r:id=\"b\"/></sheets></workbook>");
        parts.put(
                "xl/_rels/workbook.xml.rels",
                "<Relationships><Relationship Id=\"a\" Target=\"worksheets/s.xml\"/><Relationship Id=\"b\" Target=\"/xl/t.xml\"/><Relationship Id=\"c\" Target=\"n.xml\"/></Relationships>");
        parts.put(
                "xl/n.xml",
                "<worksheet><sheetData><row r=\"1\">" + cell("A1", "t=\"s\"", "<v>1</v>")
                        + "</row></sheetData></worksheet>");
        parts.put(
                "xl/t.xml",
                "<worksheet><sheetData>" + HEADER.replace(">en<", ">fi<") + "<row r=\"2\">"
                        + cell("A2", "t=\"inlineStr\"", "<is><t>b</t></is>") + cell("B2", "t=\"s\"", "<v>0</v>")
                        + "</row></sheetData></worksheet>");
        FileReading reading = read(XLSX, parts);
        assertThat(reading.languages()).containsExactly(new LanguageTag("en"), new LanguageTag("fi"));
        assertThat(shown(reading)).containsExactly("zero=one two|", "b=|zero");
        assertThat(reading.entry(0).section()).isEqualTo("Deck");
        assertThat(reading.entry(1).section()).isEqualTo("Bridge");
    }

    @Test
    void xlsxInPlaceKeepsEverythingElse() throws Exception {
        String rows = "<row r=\"2\" ht=\"30\">" + cell("A2", "t=\"s\"", "<v>0</v>")
                + cell("B2", "s=\"7\" t=\"s\"", "<v>1</v>") + cell("D2", "", "<f>1+1</f><v>2</v>") + "</row>"
                + "<row r=\"3\">" + cell("A3", "t=\"inlineStr\"", "<is><t>k3</t></is>") + cell("D3", "", "<v>5</v>")
                + "</row>";
        Map<String, String> parts = xlsx(rows);
        parts.put("xl/charts/chart1.xml", "<chart/>");
        FileReading reading = read(XLSX, parts);
        FilePatch patch = reading.patch();
        patch.set(0, 0, "New <text> & \"more\"\n two");
        patch.set(1, 0, "Filled");
        patch.insert(-1, FileEntry.of("k9").plain(List.of("Nine")).build());
        Map<String, String> after = unzip(written(patch));
        assertThat(after.keySet()).containsExactlyElementsOf(parts.keySet());
        for (String part : parts.keySet()) {
            if (!part.equals("xl/worksheets/s.xml")) {
                assertThat(after.get(part)).isEqualTo(parts.get(part));
            }
        }
        String sheet = after.get("xl/worksheets/s.xml");
        assertThat(sheet)
                .contains(
                        "<cols><col width=\"9\"/></cols>",
                        "<row r=\"2\" ht=\"30\">",
                        "<c r=\"D2\" ><f>1+1</f><v>2</v></c>")
                .contains(
                        "<c r=\"B2\" s=\"7\" t=\"inlineStr\"><is><t xml:space=\"preserve\">New &lt;text> &amp; \"more\"\n two</t></is></c>")
                .contains("<c r=\"B3\" t=\"inlineStr\"><is><t xml:space=\"preserve\">Filled</t></is></c><c r=\"D3\"");
        assertThat(shown(read(XLSX, after))).containsExactly("zero=New <text> & \"more\"¶ two", "k3=Filled", "k9=Nine");
    }

    @Test
    void odsInPlaceSplitsRepeatedCells() throws Exception {
        String rows =
                "<table:table-row table:style-name=\"ro1\"><table:table-cell office:value-type=\"string\"><text:p>k</text:p></table:table-cell>"
                        + "<table:table-cell table:style-name=\"ce2\" table:number-columns-repeated=\"1022\"/></table:table-row>"
                        + "<table:table-row table:number-rows-repeated=\"1048573\"><table:table-cell table:number-columns-repeated=\"1024\"/></table:table-row>";
        FileReading reading = read(ODS, ods(rows));
        FilePatch patch = reading.patch();
        patch.set(0, 0, "Ramp  up\n & more");
        patch.insert(0, FileEntry.of("l").plain(List.of("Two")).build());
        byte[] bytes = written(patch);
        Map<String, String> after = unzip(bytes);
        assertThat(after.get("content.xml"))
                .contains(
                        "<table:table-cell table:style-name=\"ce2\" office:value-type=\"string\"><text:p>Ramp<text:s text:c=\"2\"/>up</text:p>")
                .contains("<table:table-cell table:number-columns-repeated=\"1021\" table:style-name=\"ce2\"/>")
                .contains("table:number-rows-repeated=\"1048573\"");
        assertThat(shown(ODS.read("a.ods", bytes, ReadOptions.AUTOMATIC)))
                .containsExactly("k=Ramp  up¶ & more", "l=Two");
        assertThat(new String(bytes, 30, 54, StandardCharsets.US_ASCII))
                .as("stored first")
                .startsWith("mimetype" + "application/vnd.oasis");
    }

    @Test
    void aFormulaStays() {
        String rows = "<row r=\"2\">" + cell("A2", "t=\"s\"", "<v>0</v>")
                + cell("B2", "t=\"str\"", "<f>A2</f><v>zero</v>") + "</row>";
        FilePatch patch = read(XLSX, xlsx(rows)).patch();
        assertThatThrownBy(() -> patch.set(0, 0, "x"))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("The cell of zero holds a formula");
    }

    @Test
    void aSheetOfNothingButItsHeaderTakesNoRowInPlace() {
        FilePatch patch = read(XLSX, xlsx("")).patch();
        FileEntry added = FileEntry.of("k").plain(List.of("x")).build();
        assertThatThrownBy(() -> patch.insert(-1, added))
                .isInstanceOf(UnwritableTextException.class)
                .hasMessageContaining("no row of an entry that k could follow");
    }

    @Test
    void nothingChangedIsTheSameBytes() throws Exception {
        byte[] bytes = zip(xlsx("<row r=\"2\">" + cell("A2", "t=\"s\"", "<v>0</v>") + "</row>"));
        assertThat(written(XLSX.read("a.xlsx", bytes, ReadOptions.AUTOMATIC).patch()))
                .isEqualTo(bytes);
    }

    @ParameterizedTest
    @CsvSource({
        "../evil.xml, the archive has a part named “../evil.xml”",
        "/etc/x, the archive has a part named “/etc/x”",
        "a\\b, the archive has a part named"
    })
    void namesOutsideTheArchive(String name, String sentence) {
        assertThatThrownBy(() -> read(XLSX, Map.of(name, "x")))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining(sentence);
    }

    @Test
    void anArchiveThatUnpacksToAThousandTimesItsSize() {
        assertThatThrownBy(() -> read(XLSX, Map.of("xl/workbook.xml", " ".repeat(60_000_000))))
                .isInstanceOf(UnreadableFileException.class)
                .hasMessageContaining("the archive unpacks to more than");
    }

    @Test
    void anArchiveCutOff() {
        byte[] whole = zip(xlsx(""));
        for (int length : new int[] {10, 100, 400}) {
            byte[] cut = Arrays.copyOf(whole, length);
            assertThatThrownBy(() -> XLSX.read("a.xlsx", cut, ReadOptions.AUTOMATIC))
                    .isInstanceOf(UnreadableFileException.class);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "<row r=\"2\"><c r=\"B2\" t=\"s\"><v>0</v></row>",
                "<row r=\"2\"><c r=\"ZZZ2\"/></row>",
                "<row r=\"2\"><c r=\"A2\"/></row>&x;"
            })
    void brokenSheets(String rows) {
        assertThatThrownBy(() -> read(XLSX, xlsx(rows))).isInstanceOf(UnreadableFileException.class);
    }

    @Test
    void sheetsWithoutLanguages() {
        Map<String, String> parts = xlsx("");
        parts.put(
                "xl/worksheets/s.xml",
                "<worksheet><sheetData><row r=\"1\">" + cell("A1", "t=\"s\"", "<v>1</v>")
                        + "</row></sheetData></worksheet>");
        assertThatThrownBy(() -> read(XLSX, parts))
                .hasMessageContaining("sheet “Deck”: no column is headed by a language");
    }

    /** A real spreadsheet program opens what we write and saves it again; what it saves reads as the same. */
    @ParameterizedTest
    @CsvSource({"xlsx, ods", "ods, xlsx"})
    void aSpreadsheetProgramOpensAndSavesIt(String from, String to, @TempDir Path folder) throws Exception {
        Path program = Path.of("/usr/bin/soffice");
        assumeTrue(
                Files.isExecutable(program), "no spreadsheet program is installed; ./mellow test --all installs one");
        EntryList entries = EntryList.of(
                Optional.of(new LanguageTag("en")),
                List.of(new LanguageTag("en"), new LanguageTag("ar"), new LanguageTag("ja")),
                List.of(
                        FileEntry.of("=1+1")
                                .note("A note")
                                .maxLength(20)
                                .plain(List.of("=SUM(A1)", "مرحبا", "ランプ"))
                                .build(),
                        FileEntry.of("00123")
                                .plain(List.of("1/2", "1e5", " two  spaces "))
                                .build(),
                        FileEntry.of("lines")
                                .plain(List.of("one\n\ntwo", "<b>&amp;</b>", "TRUE"))
                                .build()));
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        (from.equals("xlsx") ? XLSX : ODS).write(entries, out);
        Path file = folder.resolve("ledger." + from);
        Files.write(file, out.toByteArray());
        Process process = new ProcessBuilder(
                        program.toString(),
                        "-env:UserInstallation=file://" + folder.resolve("profile"),
                        "--headless",
                        "--convert-to",
                        to,
                        "--outdir",
                        folder.toString(),
                        file.toString())
                .redirectErrorStream(true)
                .redirectOutput(folder.resolve("log").toFile())
                .start();
        assertThat(process.waitFor()).isZero();
        FileReading saved = (to.equals("xlsx") ? XLSX : ODS)
                .read("ledger." + to, Files.readAllBytes(folder.resolve("ledger." + to)), ReadOptions.AUTOMATIC);
        assertThat(saved.problems()).isEmpty();
        assertThat(shown(saved)).isEqualTo(shown(entriesAsRead(entries)));
        assertThat(saved.entry(0).maxLength()).isEqualTo(20);
    }

    private static FileReading entriesAsRead(EntryList entries) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        XLSX.write(entries, out);
        return XLSX.read("a.xlsx", out.toByteArray(), ReadOptions.AUTOMATIC);
    }

    private static byte[] written(FilePatch patch) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        patch.writeTo(out);
        return out.toByteArray();
    }
}
