package mellow.core.delivery;

import java.io.IOException;
import java.io.Writer;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Which number stands for which language: what a product's language switch reads. */
public final class SelectorTable {

    private SelectorTable() {}

    /**
     * A language.
     *
     * @param number the selector number, null for none
     * @param name what it is called in itself
     * @param direction ltr or rtl
     * @param start whether the product starts in it
     */
    public record Row(@Nullable Integer number, String tag, String name, String direction, boolean start) {}

    /** As separated text: number, tag, name, direction, start; CRLF line ends (RFC 4180). */
    public static void csv(List<Row> rows, char delimiter, Writer out) throws IOException {
        String between = String.valueOf(delimiter);
        out.write(String.join(between, "number", "tag", "name", "direction", "start") + "\r\n");
        for (Row row : rows) {
            out.write(String.join(
                            between,
                            row.number == null ? "" : row.number.toString(),
                            row.tag,
                            cell(row.name, delimiter),
                            row.direction,
                            row.start ? "1" : "0")
                    + "\r\n");
        }
        out.flush();
    }

    private static String cell(String value, char delimiter) {
        return value.indexOf(delimiter) < 0 && value.indexOf('"') < 0 && value.indexOf('\n') < 0
                ? value
                : "\"" + value.replace("\"", "\"\"") + "\"";
    }
}
