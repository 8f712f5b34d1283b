package mellow.core.format.workbook;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.format.Limits;
import mellow.core.format.Position;
import mellow.core.format.Problems;
import mellow.core.format.archive.Archive;
import mellow.core.format.source.SourceText;
import mellow.core.format.workbook.Sheet.Cell;
import mellow.core.format.workbook.Sheet.Kind;
import mellow.core.format.workbook.Sheet.Row;
import mellow.core.format.xml.XmlNode.Attribute;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.format.xml.XmlText;

/** Reads the sheets of an XLSX workbook (ISO/IEC 29500-1 §18). */
final class XlsxSheets {

    /** §22.9.2.19: characters that XML cannot hold stand as _xHHHH_. */
    private static final Pattern ESCAPE = Pattern.compile("_x([0-9A-Fa-f]{4})_");

    private static final int MOST_COLUMNS = 16_384;

    private final Archive archive;
    private final Limits limits;
    private final Problems problems;
    private List<String> shared = List.of();

    XlsxSheets(Archive archive, Limits limits, Problems problems) {
        this.archive = archive;
        this.limits = limits;
        this.problems = problems;
    }

    List<Sheet> read() {
        Map<String, String> targets = targets();
        shared = archive.part("xl/sharedStrings.xml").map(this::strings).orElse(List.of());
        List<Sheet> sheets = new ArrayList<>();
        for (Element sheet :
                workbook().first("sheets").map(found -> found.all("sheet")).orElse(List.of())) {
            String id = sheet.attributes().stream()
                    .filter(attribute -> attribute.name().equals("id")
                            && !attribute.namespace().isEmpty())
                    .map(Attribute::value)
                    .findFirst()
                    .orElse("");
            String part = targets.getOrDefault(id, "");
            Optional<byte[]> content = archive.part(part);
            if (content.isPresent()) {
                sheets.add(sheet(sheet.value("name"), part, decode(content.get())));
            }
        }
        return sheets;
    }

    private SourceText decode(byte[] part) {
        return XmlText.decode(part, Optional.empty(), limits, problems);
    }

    private Element whole(byte[] part) {
        XmlReader xml = new XmlReader(decode(part), Integer.MAX_VALUE / 8);
        XmlReader.Event event = xml.next();
        while (event == XmlReader.Event.REMARK) {
            event = xml.next();
        }
        return xml.readElement();
    }

    private Element workbook() {
        return whole(archive.part("xl/workbook.xml")
                .orElseThrow(() -> problems.refuse(
                        Position.WHOLE_FILE, "the archive has no xl/workbook.xml", "an XLSX workbook")));
    }

    private Map<String, String> targets() {
        Map<String, String> targets = new HashMap<>();
        archive.part("xl/_rels/workbook.xml.rels").map(this::whole).ifPresent(relations -> {
            for (Element relation : relations.all("Relationship")) {
                String target = relation.value("Target");
                targets.put(relation.value("Id"), target.startsWith("/") ? target.substring(1) : "xl/" + target);
            }
        });
        return targets;
    }

    private List<String> strings(byte[] part) {
        XmlReader xml = new XmlReader(decode(part), limits.textBytes());
        List<String> strings = new ArrayList<>();
        for (XmlReader.Event event = xml.next(); event != XmlReader.Event.DONE; event = xml.next()) {
            if (event == XmlReader.Event.START && xml.element().name().equals("si")) {
                strings.add(text(xml.readElement()));
            }
        }
        return strings;
    }

    /** The text of a rich string: its own and that of its runs, without phonetic hints. */
    private static String text(Element string) {
        StringBuilder text = new StringBuilder();
        for (Element child : string.elements()) {
            if (child.name().equals("t")) {
                text.append(child.text());
            } else if (child.name().equals("r")) {
                child.first("t").ifPresent(run -> text.append(run.text()));
            }
        }
        return unescape(text.toString());
    }

    private static String unescape(String text) {
        if (!text.contains("_x")) {
            return text;
        }
        return ESCAPE.matcher(text)
                .replaceAll(found ->
                        Matcher.quoteReplacement(Character.toString((char) Integer.parseInt(found.group(1), 16))));
    }

    /** A text as the content of {@code <t>}. */
    static String escape(String text) {
        StringBuilder escaped = new StringBuilder();
        String marked = ESCAPE.matcher(text).replaceAll("_x005F_x$1_");
        marked.codePoints().forEach(c -> {
            if (XmlText.allowed(c) && c != '\r') {
                escaped.appendCodePoint(c);
            } else {
                escaped.append(String.format("_x%04X_", c));
            }
        });
        return XmlText.escape(escaped.toString());
    }

    private Sheet sheet(String name, String part, SourceText source) {
        XmlReader xml = new XmlReader(source, limits.textBytes());
        List<Row> rows = new ArrayList<>();
        int end = -1;
        int number = 0;
        for (XmlReader.Event event = xml.next(); event != XmlReader.Event.DONE; event = xml.next()) {
            if (event == XmlReader.Event.START && xml.element().name().equals("row")) {
                Element row = xml.readElement();
                number = row.value("r").matches("[0-9]{1,7}") ? Integer.parseInt(row.value("r")) : number + 1;
                rows.add(row(row, number, source));
                source.checkCount(rows.size() - 100, row.start(), limits);
            } else if (event == XmlReader.Event.END && xml.element().name().equals("sheetData")) {
                end = xml.endTagStart();
            }
        }
        return new Sheet(name, part, source, rows, end);
    }

    private Row row(Element row, int number, SourceText source) {
        List<Cell> cells = new ArrayList<>();
        for (Element cell : row.all("c")) {
            int column = column(cell.value("r"), cells.size());
            if (column >= MOST_COLUMNS) {
                throw source.refuse(cell.start(), "a cell in column " + (column + 1), "at most " + MOST_COLUMNS);
            }
            while (cells.size() < column) {
                cells.add(Cell.NONE);
            }
            Cell read = cell(cell);
            if (column < cells.size()) {
                cells.set(column, read);
            } else {
                cells.add(read);
            }
        }
        return new Row(number, row.start(), row.end(), row.contentEnd(), cells);
    }

    private Cell cell(Element cell) {
        String type = cell.value("t");
        String value = cell.first("v").map(Element::text).orElse("");
        String shown =
                switch (type) {
                    case "s" ->
                        value.matches("[0-9]{1,9}") && Integer.parseInt(value) < shared.size()
                                ? shared.get(Integer.parseInt(value))
                                : "";
                    case "inlineStr" -> cell.first("is").map(XlsxSheets::text).orElse("");
                    case "b" -> value.equals("1") ? "TRUE" : "FALSE";
                    default -> unescape(value);
                };
        boolean words = type.equals("s") || type.equals("inlineStr") || type.equals("str");
        Kind kind = cell.first("f").isPresent()
                ? Kind.FORMULA
                : shown.isEmpty() ? Kind.EMPTY : words ? Kind.WORDS : Kind.VALUE;
        return new Cell(shown, kind, cell.start(), cell.end(), 0, 1);
    }

    /** The column of a reference such as "AB12", 0-based; the next one when there is none. */
    private static int column(String reference, int next) {
        int column = 0;
        int i = 0;
        while (i < reference.length() && i < 3 && reference.charAt(i) >= 'A' && reference.charAt(i) <= 'Z') {
            column = column * 26 + reference.charAt(i) - 'A' + 1;
            i++;
        }
        return i == 0 ? next : column - 1;
    }

    /** A column by its letters. */
    static String letters(int column) {
        StringBuilder letters = new StringBuilder();
        for (int rest = column + 1; rest > 0; rest = (rest - 1) / 26) {
            letters.insert(0, (char) ('A' + (rest - 1) % 26));
        }
        return letters.toString();
    }
}
