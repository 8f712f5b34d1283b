package mellow.core.format.workbook;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mellow.core.format.EntryList;
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
import mellow.core.format.xml.XmlNode.Attribute;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.format.xml.XmlText;

/** ODS workbooks. */
public final class OdsFormat implements WorkbookFormat {

    private static final Traits TRAITS = Traits.of("ods", "ods", "application/vnd.oasis.opendocument.spreadsheet")
            .in(Languages.MANY)
            .spellingItself();

    private static final String TYPE = "application/vnd.oasis.opendocument.spreadsheet";
    private static final String HEAD = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n";

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public int likelihood(Sample sample) {
        return !WorkbookFormat.zipped(sample) ? 0 : sample.text().contains(TYPE) ? 100 : sample.named(".ods") ? 95 : 0;
    }

    @Override
    public WorkbookReading read(
            Archive archive, ReadOptions options, Map<String, SheetLayout> layouts, Problems problems) {
        return new WorkbookReading(
                archive, OdsSheets.read(archive, options.limits(), problems), options, layouts, problems, Patch::new);
    }

    private static String cell(String style, String text) {
        String tag = "<table:table-cell"
                + (style.isEmpty() ? "" : " table:style-name=\"" + XmlText.escapeAttribute(style) + "\"");
        if (text.isEmpty()) {
            return tag + "/>";
        }
        XmlText.unwritable(text).ifPresent(character -> {
            throw new UnwritableTextException(
                    "A text has the character " + character + ", which ODS cannot hold; change the text.");
        });
        return tag + " office:value-type=\"string\">" + OdsSheets.paragraphs(text) + "</table:table-cell>";
    }

    private static final class Patch extends WorkbookPatch {

        Patch(WorkbookReading file) {
            super(file);
        }

        @Override
        String cells(SourceText source, Cell physical, TreeMap<Integer, Change> changed) {
            Element cell = XmlReader.elementAt(source, physical.start());
            String style = cell.attributes().stream()
                    .filter(attribute -> attribute.name().equals("style-name"))
                    .map(Attribute::value)
                    .findFirst()
                    .orElse("");
            StringBuilder cells = new StringBuilder();
            int at = 0;
            for (Map.Entry<Integer, Change> change : changed.entrySet()) {
                cells.append(repeated(source, cell, change.getKey() - at))
                        .append(cell(style, change.getValue().text()));
                at = change.getKey() + 1;
            }
            return cells.append(repeated(source, cell, physical.repeats() - at)).toString();
        }

        /** The same cell for another number of columns. */
        private static String repeated(SourceText source, Element cell, int count) {
            if (count == 0) {
                return "";
            }
            String whole = source.text().substring(cell.start(), cell.end());
            String repeats = count == 1 ? "" : " table:number-columns-repeated=\"" + count + "\"";
            String without = whole.replaceFirst("\\s+[\\w]+:number-columns-repeated=[\"'][0-9]+[\"']", "");
            int name = without.indexOf("cell") + 4;
            return without.substring(0, name) + repeats + without.substring(name);
        }

        @Override
        void addCell(Splice splice, Item item, int column, String text) {
            int gap = column - item.row().cells().size();
            String filled = gap > 0 ? "<table:table-cell table:number-columns-repeated=\"" + gap + "\"/>" : "";
            splice.replace(
                    item.row().contentEnd(),
                    item.row().contentEnd(),
                    filled + cell("", text),
                    item.entry().key());
        }

        @Override
        void addRow(Splice splice, Item item, List<String> cells, String key) {
            StringBuilder row = new StringBuilder("<table:table-row>");
            cells.forEach(text -> row.append(cell("", text)));
            splice.replace(
                    item.row().end(),
                    item.row().end(),
                    row.append("</table:table-row>").toString(),
                    key);
        }

        @Override
        String stored() {
            return "mimetype";
        }
    }

    /** One sheet with a frozen heading, wrapped cells, and columns that run as their language does. */
    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        EntryList plain = PlainForms.of(entries);
        List<Column> columns = RowEntries.columnsFor(plain);
        Archive archive = Archive.empty();
        archive.put("mimetype", TYPE.getBytes(StandardCharsets.US_ASCII));
        archive.put(
                "META-INF/manifest.xml",
                (HEAD
                                + "<manifest:manifest xmlns:manifest=\"urn:oasis:names:tc:opendocument:xmlns:manifest:1.0\" manifest:version=\"1.3\">"
                                + "<manifest:file-entry manifest:full-path=\"/\" manifest:media-type=\"" + TYPE + "\"/>"
                                + "<manifest:file-entry manifest:full-path=\"content.xml\" manifest:media-type=\"text/xml\"/>"
                                + "<manifest:file-entry manifest:full-path=\"settings.xml\" manifest:media-type=\"text/xml\"/></manifest:manifest>")
                        .getBytes(StandardCharsets.UTF_8));
        archive.put("content.xml", content(plain, columns).getBytes(StandardCharsets.UTF_8));
        archive.put("settings.xml", SETTINGS.getBytes(StandardCharsets.UTF_8));
        archive.writeTo(out, "mimetype");
    }

    private static final String SETTINGS = HEAD
            + "<office:document-settings xmlns:office=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\" xmlns:config=\"urn:oasis:names:tc:opendocument:xmlns:config:1.0\" xmlns:ooo=\"http://openoffice.org/2004/office\" office:version=\"1.3\">"
            + "<office:settings><config:config-item-set config:name=\"ooo:view-settings\"><config:config-item-map-indexed config:name=\"Views\"><config:config-item-map-entry>"
            + "<config:config-item-map-named config:name=\"Tables\"><config:config-item-map-entry config:name=\"Ledger\">"
            + "<config:config-item config:name=\"VerticalSplitMode\" config:type=\"short\">2</config:config-item>"
            + "<config:config-item config:name=\"VerticalSplitPosition\" config:type=\"int\">1</config:config-item>"
            + "<config:config-item config:name=\"PositionBottom\" config:type=\"int\">1</config:config-item>"
            + "</config:config-item-map-entry></config:config-item-map-named></config:config-item-map-entry></config:config-item-map-indexed></config:config-item-set></office:settings></office:document-settings>";

    private static String content(EntryList entries, List<Column> columns) {
        RowEntries rows = new RowEntries(new SheetLayout(0, columns));
        StringBuilder content = new StringBuilder(HEAD
                + "<office:document-content xmlns:office=\"urn:oasis:names:tc:opendocument:xmlns:office:1.0\" xmlns:table=\"urn:oasis:names:tc:opendocument:xmlns:table:1.0\""
                + " xmlns:text=\"urn:oasis:names:tc:opendocument:xmlns:text:1.0\" xmlns:style=\"urn:oasis:names:tc:opendocument:xmlns:style:1.0\""
                + " xmlns:fo=\"urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0\" office:version=\"1.3\"><office:automatic-styles>"
                + "<style:style style:name=\"co1\" style:family=\"table-column\"><style:table-column-properties style:column-width=\"8cm\"/></style:style>"
                + "<style:style style:name=\"words\" style:family=\"table-cell\"><style:table-cell-properties fo:wrap-option=\"wrap\" style:vertical-align=\"top\"/></style:style>"
                + "<style:style style:name=\"rtl\" style:family=\"table-cell\"><style:table-cell-properties fo:wrap-option=\"wrap\" style:vertical-align=\"top\"/><style:paragraph-properties style:writing-mode=\"rl-tb\"/></style:style>"
                + "<style:style style:name=\"head\" style:family=\"table-cell\"><style:text-properties fo:font-weight=\"bold\"/></style:style>"
                + "</office:automatic-styles><office:body><office:spreadsheet><table:table table:name=\"Ledger\">"
                + "<table:table-column table:style-name=\"co1\" table:number-columns-repeated=\"" + columns.size()
                + "\"/><table:table-row>");
        columns.forEach(column -> content.append(cell("head", column.heading())));
        content.append("</table:table-row>");
        for (int i = 0; i < entries.size(); i++) {
            List<String> cells = rows.cellsOf(entries.entry(i));
            content.append("\n<table:table-row>");
            for (int column = 0; column < cells.size(); column++) {
                content.append(cell(XlsxFormat.rightToLeft(columns.get(column)) ? "rtl" : "words", cells.get(column)));
            }
            content.append("</table:table-row>");
        }
        return content.append("</table:table></office:spreadsheet></office:body></office:document-content>")
                .toString();
    }
}
