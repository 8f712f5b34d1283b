package mellow.core.format.sheet;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.IntStream;
import mellow.core.format.sheet.Column.Role;
import mellow.core.language.LanguageTag;

/**
 * How a sheet is laid out.
 *
 * @param headerRow the row with the headings, 0-based among the rows that are not blank; -1 when there is none
 * @param columns one per column of the header row
 */
public record SheetLayout(int headerRow, List<Column> columns) {

    public SheetLayout {
        columns = List.copyOf(columns);
    }

    /** Index of the first column of that role, -1 for none. */
    public int find(Role role) {
        return IntStream.range(0, columns.size())
                .filter(i -> columns.get(i).role() == role)
                .findFirst()
                .orElse(-1);
    }

    /** Indexes of the columns of texts, in file order. */
    public int[] textColumns() {
        return IntStream.range(0, columns.size())
                .filter(i -> columns.get(i).role() == Role.TEXT)
                .toArray();
    }

    /** What makes it impossible to read entries with this layout, in words: found, then expected. Empty when nothing does. */
    public List<Flaw> flaws() {
        List<Flaw> flaws = new ArrayList<>();
        if (textColumns().length == 0) {
            flaws.add(
                    new Flaw(
                            1,
                            "no column is headed by a language",
                            "at least one heading such as \u201cen\u201d, \u201cpt_BR\u201d or \u201cGerman\u201d; choose the header row or the columns' languages"));
        } else if (find(Role.KEY) < 0) {
            flaws.add(
                    new Flaw(
                            1,
                            "the header has no column of keys",
                            "a column headed Key or ID, or a first column without heading; choose which column holds the keys"));
        }
        Map<LanguageTag, Integer> seen = new HashMap<>();
        for (int i = 0; i < columns.size(); i++) {
            Column column = columns.get(i);
            if (column.language().isPresent()) {
                Integer first = seen.putIfAbsent(column.language().get(), i);
                if (first != null) {
                    flaws.add(new Flaw(
                            i + 1,
                            "the columns " + (first + 1) + " (\u201c"
                                    + columns.get(first).heading() + "\u201d) and " + (i + 1) + " (\u201c"
                                    + column.heading() + "\u201d) are both "
                                    + column.language().get(),
                            "each language once; choose another language for one of them, or leave it out"));
                }
            }
        }
        for (Role role : Role.values()) {
            long count = columns.stream().filter(c -> c.role() == role).count();
            if (count > 1 && role != Role.TEXT && role != Role.IGNORED) {
                flaws.add(new Flaw(
                        find(role) + 1,
                        count + " columns are said to hold the "
                                + role.heading().toLowerCase(Locale.ROOT),
                        "one"));
            }
        }
        return flaws;
    }

    /**
     * Something that makes reading impossible.
     *
     * @param column the column concerned, 1-based
     * @param found what there is
     * @param expected what there should be
     */
    public record Flaw(int column, String found, String expected) {}
}
