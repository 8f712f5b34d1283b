package mellow.core.format.workbook;

import java.util.List;
import mellow.core.format.source.SourceText;

/**
 * A sheet of a workbook as it was read.
 *
 * @param name what its tab says
 * @param part the archive's part that holds it
 * @param source that part
 * @param rows rows with anything in them, in order
 * @param end where rows end in the part
 */
record Sheet(String name, String part, SourceText source, List<Row> rows, int end) {

    /**
     * A row.
     *
     * @param number its number as people see it, 1-based
     * @param start where its element begins
     * @param end where its element ends
     * @param contentEnd where its last cell ends
     * @param cells by column, {@link Cell#NONE} for gaps
     */
    record Row(int number, int start, int end, int contentEnd, List<Cell> cells) {

        /** The cell of a column. */
        Cell cell(int column) {
            return column >= 0 && column < cells.size() ? cells.get(column) : Cell.NONE;
        }
    }

    /**
     * A cell.
     *
     * @param text what it shows
     * @param kind what it is
     * @param start where its element begins, -1 when there is none
     * @param end where its element ends
     * @param repeat which one it is of those that one element stands for, 0-based
     * @param repeats how many one element stands for
     */
    record Cell(String text, Kind kind, int start, int end, int repeat, int repeats) {
        static final Cell NONE = new Cell("", Kind.EMPTY, -1, -1, 0, 1);
    }

    /** What a cell is. */
    enum Kind {
        EMPTY,
        WORDS,
        /** A number, a date or a truth value: a program has turned what somebody typed into something else. */
        VALUE,
        FORMULA
    }
}
