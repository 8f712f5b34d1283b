package mellow.core.format.workbook;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import mellow.core.format.Limits;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.archive.Archive;
import mellow.core.format.source.SourceText;
import mellow.core.format.workbook.Sheet.Cell;
import mellow.core.format.workbook.Sheet.Kind;
import mellow.core.format.workbook.Sheet.Row;
import mellow.core.format.xml.XmlNode;
import mellow.core.format.xml.XmlNode.Attribute;
import mellow.core.format.xml.XmlNode.Characters;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.format.xml.XmlText;

/** Reads the sheets of an ODS workbook (ISO/IEC 26300-1, part 1 §9). */
final class OdsSheets {

    /** Sheets are filled up with empty cells and rows by repetition; more than this many are never looked at. */
    private static final int MOST_REPEATED = 1_024;

    private OdsSheets() {}

    static List<Sheet> read(Archive archive, Limits limits, Problems problems) {
        SourceText source = XmlText.decode(
                archive.part("content.xml")
                        .orElseThrow(() -> problems.refuse(
                                Position.WHOLE_FILE, "the archive has no content.xml", "an ODS workbook")),
                Optional.empty(),
                limits,
                problems);
        XmlReader xml = new XmlReader(source, limits.textBytes());
        List<Sheet> sheets = new ArrayList<>();
        String name = "";
        List<Row> rows = new ArrayList<>();
        int number = 0;
        for (XmlReader.Event event = xml.next(); event != XmlReader.Event.DONE; event = xml.next()) {
            String element = xml.element().name();
            if (event == XmlReader.Event.START && element.equals("table")) {
                name = attribute(xml.element(), "name");
                rows = new ArrayList<>();
                number = 0;
            } else if (event == XmlReader.Event.START && element.equals("table-row")) {
                Element row = xml.readElement();
                Row read = row(row, number + 1);
                number += repeats(row, "number-rows-repeated", Integer.MAX_VALUE);
                if (!read.cells().isEmpty()) {
                    rows.add(read);
                    source.checkCount(rows.size() - 100, row.start(), limits);
                }
            } else if (event == XmlReader.Event.END && element.equals("table")) {
                sheets.add(new Sheet(name, "content.xml", source, rows, xml.endTagStart()));
            }
        }
        return sheets;
    }

    private static String attribute(Element element, String name) {
        return element.attributes().stream()
                .filter(attribute -> attribute.name().equals(name))
                .map(Attribute::value)
                .findFirst()
                .orElse("");
    }

    private static int repeats(Element element, String name, int most) {
        String repeated = attribute(element, name);
        return repeated.matches("[1-9][0-9]{0,8}") ? Math.min(most, Integer.parseInt(repeated)) : 1;
    }

    private static Row row(Element row, int number) {
        List<Cell> cells = new ArrayList<>();
        int used = 0;
        for (Element cell : row.elements()) {
            if (!cell.name().equals("table-cell") && !cell.name().equals("covered-table-cell")) {
                continue;
            }
            String text = text(cell);
            int all = repeats(cell, "number-columns-repeated", Integer.MAX_VALUE);
            int repeats = Math.min(all, MOST_REPEATED - Math.min(MOST_REPEATED, cells.size()));
            for (int i = 0; i < repeats; i++) {
                cells.add(new Cell(text, kind(cell, text), cell.start(), cell.end(), i, all));
            }
            used = text.isEmpty() ? used : cells.size();
        }
        return new Row(number, row.start(), row.end(), row.contentEnd(), used == 0 ? List.of() : cells);
    }

    private static Kind kind(Element cell, String text) {
        if (!attribute(cell, "formula").isEmpty()) {
            return Kind.FORMULA;
        }
        String type = attribute(cell, "value-type");
        return text.isEmpty() ? Kind.EMPTY : type.isEmpty() || type.equals("string") ? Kind.WORDS : Kind.VALUE;
    }

    /** Paragraphs as lines, with the white space that markup stands for (§6.1). */
    private static String text(Element cell) {
        StringBuilder text = new StringBuilder();
        boolean first = true;
        for (Element paragraph : cell.elements()) {
            if (paragraph.name().equals("p") || paragraph.name().equals("h")) {
                text.append(first ? "" : "\n");
                append(paragraph, text);
                first = false;
            }
        }
        return text.toString();
    }

    private static void append(Element element, StringBuilder to) {
        for (XmlNode child : element.children()) {
            if (child instanceof Characters characters) {
                to.append(collapsed(characters.text(), to));
            } else if (child instanceof Element inner) {
                switch (inner.name()) {
                    case "s" -> to.append(" ".repeat(repeats(inner, "c", MOST_REPEATED)));
                    case "tab" -> to.append('\t');
                    case "line-break" -> to.append('\n');
                    case "annotation", "note" -> {}
                    default -> append(inner, to);
                }
            }
        }
    }

    private static String collapsed(String text, StringBuilder before) {
        String single = text.replaceAll("[ \\t\\n]+", " ");
        boolean edge = before.isEmpty() || before.charAt(before.length() - 1) == '\n';
        return edge && single.startsWith(" ") ? single.substring(1) : single;
    }

    /** A text as paragraphs. */
    static String paragraphs(String text) {
        StringBuilder paragraphs = new StringBuilder();
        for (String line : text.split("\n", -1)) {
            paragraphs.append("<text:p>");
            for (int i = 0; i < line.length(); i++) {
                char c = line.charAt(i);
                int run = i;
                while (run < line.length() && line.charAt(run) == ' ') {
                    run++;
                }
                if (c == ' ' && (run - i > 1 || i == 0 || run == line.length())) {
                    paragraphs.append("<text:s text:c=\"").append(run - i).append("\"/>");
                    i = run - 1;
                } else if (c == '\t') {
                    paragraphs.append("<text:tab/>");
                } else {
                    paragraphs.append(XmlText.escape(Character.toString(c)));
                }
            }
            paragraphs.append("</text:p>");
        }
        // Escaped one by one, so that three characters that end a CDATA section could meet.
        return paragraphs.toString().replace("]]>", "]]&gt;");
    }
}
