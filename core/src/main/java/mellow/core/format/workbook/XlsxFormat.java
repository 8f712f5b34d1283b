package mellow.core.format.workbook;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.PlainForms;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.Traits;
import mellow.core.format.Traits.Languages;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.archive.Archive;
import mellow.core.format.sheet.Column;
import mellow.core.format.sheet.RowEntries;
import mellow.core.format.sheet.SheetLayout;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.Splice;
import mellow.core.format.workbook.Sheet.Cell;
import mellow.core.format.workbook.WorkbookReading.Item;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.language.Language;

/** XLSX workbooks. Texts are written as text cells, never as numbers, dates or formulas. */
public final class XlsxFormat implements WorkbookFormat {

    private static final Traits TRAITS = Traits.of(
                    "xlsx", "xlsx", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet")
            .knownBy("xlsm")
            .in(Languages.MANY)
            .spellingItself();

    private static final int LONGEST_CELL = 32_767;

    private static final String HEAD = "<?xml version=\"1.0\" encoding=\"UTF-8\" standalone=\"yes\"?>\n";
    private static final String MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
    private static final String RELATIONS = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
    private static final String PACKAGE = "http://schemas.openxmlformats.org/package/2006";

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public int likelihood(Sample sample) {
        return !WorkbookFormat.zipped(sample)
                ? 0
                : sample.named(".xlsx", ".xlsm") ? 95 : sample.text().contains("[Content_Types].xml") ? 90 : 0;
    }

    @Override
    public WorkbookReading read(
            Archive archive, ReadOptions options, Map<String, SheetLayout> layouts, Problems problems) {
        List<Sheet> sheets = new XlsxSheets(archive, options.limits(), problems).read();
        return new WorkbookReading(archive, sheets, options, layouts, problems, Patch::new);
    }

    private static String cell(int column, int row, String style, String text) {
        String place =
                "<c r=\"" + XlsxSheets.letters(column) + row + "\"" + (style.isEmpty() ? "" : " s=\"" + style + "\"");
        return text.isEmpty()
                ? place + "/>"
                : place + " t=\"inlineStr\"><is><t xml:space=\"preserve\">" + XlsxSheets.escape(text) + "</t></is></c>";
    }

    private static final class Patch extends WorkbookPatch {

        private int next;

        Patch(WorkbookReading file) {
            super(file);
        }

        @Override
        String cells(SourceText source, Cell physical, TreeMap<Integer, Change> changed) {
            Element cell = XmlReader.elementAt(source, physical.start());
            String reference = cell.value("r");
            String style = cell.value("s");
            String text = fitting(changed.firstEntry().getValue().text(), reference(cell));
            String tag = "<c" + (reference.isEmpty() ? "" : " r=\"" + reference + "\"")
                    + (style.isEmpty() ? "" : " s=\"" + style + "\"");
            return text.isEmpty()
                    ? tag + "/>"
                    : tag + " t=\"inlineStr\"><is><t xml:space=\"preserve\">" + XlsxSheets.escape(text)
                            + "</t></is></c>";
        }

        private static String reference(Element cell) {
            return "cell " + cell.value("r");
        }

        private static String fitting(String text, String where) {
            if (text.length() > LONGEST_CELL) {
                throw new UnwritableTextException("The text for " + where + " has " + text.length()
                        + " characters, and a cell of a workbook holds " + LONGEST_CELL
                        + "; shorten it or choose another format.");
            }
            return text;
        }

        @Override
        void addCell(Splice splice, Item item, int column, String text) {
            int place = item.row().contentEnd();
            for (int right = item.row().cells().size() - 1; right > column; right--) {
                if (item.row().cell(right).start() >= 0) {
                    place = item.row().cell(right).start();
                }
            }
            splice.replace(
                    place,
                    place,
                    cell(
                            column,
                            item.row().number(),
                            "",
                            fitting(text, item.entry().key())),
                    item.entry().key());
        }

        /** At the end of the sheet: rows have numbers, and moving those of others would break what refers to them. */
        @Override
        void addRow(Splice splice, Item item, List<String> cells, String key) {
            List<Sheet.Row> rows = item.sheet().rows();
            next = Math.max(next, rows.get(rows.size() - 1).number()) + 1;
            StringBuilder row = new StringBuilder("<row r=\"").append(next).append("\">");
            for (int column = 0; column < cells.size(); column++) {
                row.append(cells.get(column).isEmpty() ? "" : cell(column, next, "", fitting(cells.get(column), key)));
            }
            splice.replace(
                    item.sheet().end(), item.sheet().end(), row.append("</row>").toString(), key);
        }

        @Override
        String stored() {
            return "";
        }
    }

    /** ISO 29500-1 §18.3.1.4 sets no bound; programs take {@value #LONGEST_CELL} characters in a cell and cut off what is over. */
    @Override
    public Optional<String> against(FileEntry entry, EntryList all) {
        if (entry.key().isBlank()) {
            return Optional.of("A row without a key is none, and the key of “" + shortened(entry.text(0))
                    + "” is blank; give the entry another key or choose another format.");
        }
        return Stream.concat(
                        Stream.of(entry.key(), entry.context(), entry.note(), entry.reference()),
                        entry.texts().stream().flatMap(text -> text.forms().values().stream()))
                .filter(value -> value.length() > LONGEST_CELL)
                .findFirst()
                .map(value -> "The entry " + shortened(entry.key()) + " has " + value.length()
                        + " characters for one cell, and a cell of a workbook holds " + LONGEST_CELL
                        + "; leave it out of the scope or choose another format.");
    }

    private static String shortened(String key) {
        return key.length() > 100 ? key.substring(0, 100) + "…" : key;
    }

    /** One sheet with a frozen heading, wrapped cells, and columns that run as their language does. */
    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        EntryList plain = PlainForms.of(entries);
        for (int i = 0; i < plain.size(); i++) {
            against(plain.entry(i), plain).ifPresent(why -> {
                throw new UnwritableTextException(why);
            });
        }
        List<Column> columns = RowEntries.columnsFor(plain);
        Archive archive = Archive.empty();
        put(
                archive,
                "[Content_Types].xml",
                "<Types xmlns=\"" + PACKAGE + "/content-types\">"
                        + "<Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/>"
                        + "<Default Extension=\"xml\" ContentType=\"application/xml\"/>"
                        + "<Override PartName=\"/xl/workbook.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml\"/>"
                        + "<Override PartName=\"/xl/styles.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml\"/>"
                        + "<Override PartName=\"/xl/worksheets/sheet1.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml\"/>"
                        + "</Types>");
        put(
                archive,
                "_rels/.rels",
                "<Relationships xmlns=\"" + PACKAGE + "/relationships\"><Relationship Id=\"rId1\" Type=\"" + RELATIONS
                        + "/officeDocument\" Target=\"xl/workbook.xml\"/></Relationships>");
        put(
                archive,
                "xl/workbook.xml",
                "<workbook xmlns=\"" + MAIN + "\" xmlns:r=\"" + RELATIONS
                        + "\"><sheets><sheet name=\"Ledger\" sheetId=\"1\" r:id=\"rId1\"/></sheets></workbook>");
        put(
                archive,
                "xl/_rels/workbook.xml.rels",
                "<Relationships xmlns=\"" + PACKAGE + "/relationships\"><Relationship Id=\"rId1\" Type=\"" + RELATIONS
                        + "/worksheet\" Target=\"worksheets/sheet1.xml\"/><Relationship Id=\"rId2\" Type=\"" + RELATIONS
                        + "/styles\" Target=\"styles.xml\"/></Relationships>");
        put(archive, "xl/styles.xml", STYLES);
        put(archive, "xl/worksheets/sheet1.xml", sheet(plain, columns));
        archive.writeTo(out, "");
    }

    /** Style 1: wrapped text; 2: the same from right to left; 3: headings. Number format 49 is "text", so that typing keeps texts as they are. */
    private static final String STYLES =
            "<styleSheet xmlns=\"" + MAIN + "\"><fonts count=\"2\"><font><sz val=\"11\"/><name val=\"Calibri\"/></font>"
                    + "<font><b/><sz val=\"11\"/><name val=\"Calibri\"/></font></fonts><fills count=\"2\"><fill><patternFill patternType=\"none\"/></fill>"
                    + "<fill><patternFill patternType=\"gray125\"/></fill></fills><borders count=\"1\"><border/></borders>"
                    + "<cellStyleXfs count=\"1\"><xf/></cellStyleXfs><cellXfs count=\"4\"><xf/>"
                    + "<xf numFmtId=\"49\" applyNumberFormat=\"1\" applyAlignment=\"1\"><alignment vertical=\"top\" wrapText=\"1\"/></xf>"
                    + "<xf numFmtId=\"49\" applyNumberFormat=\"1\" applyAlignment=\"1\"><alignment vertical=\"top\" wrapText=\"1\" readingOrder=\"2\"/></xf>"
                    + "<xf numFmtId=\"49\" fontId=\"1\" applyNumberFormat=\"1\" applyFont=\"1\"/></cellXfs></styleSheet>";

    private static void put(Archive archive, String name, String content) {
        archive.put(name, (HEAD + content).getBytes(StandardCharsets.UTF_8));
    }

    private static String sheet(EntryList entries, List<Column> columns) {
        RowEntries rows = new RowEntries(new SheetLayout(0, columns));
        StringBuilder sheet = new StringBuilder(
                "<worksheet xmlns=\"" + MAIN + "\"><sheetViews><sheetView workbookViewId=\"0\">"
                        + "<pane ySplit=\"1\" topLeftCell=\"A2\" activePane=\"bottomLeft\" state=\"frozen\"/></sheetView></sheetViews><cols>");
        for (int i = 1; i <= columns.size(); i++) {
            sheet.append("<col min=\"" + i + "\" max=\"" + i + "\" width=\"" + (i == 1 ? 30 : 45)
                    + "\" customWidth=\"1\"/>");
        }
        sheet.append("</cols><sheetData><row r=\"1\">");
        for (int i = 0; i < columns.size(); i++) {
            sheet.append(cell(i, 1, "3", columns.get(i).heading()));
        }
        sheet.append("</row>");
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            List<String> cells = rows.cellsOf(entry);
            sheet.append("\n<row r=\"").append(i + 2).append("\">");
            for (int column = 0; column < cells.size(); column++) {
                sheet.append(cell(column, i + 2, rightToLeft(columns.get(column)) ? "2" : "1", cells.get(column)));
            }
            sheet.append("</row>");
        }
        return sheet.append("</sheetData></worksheet>").toString();
    }

    static boolean rightToLeft(Column column) {
        return column.language().map(tag -> Language.of(tag).rightToLeft()).orElse(false);
    }
}
