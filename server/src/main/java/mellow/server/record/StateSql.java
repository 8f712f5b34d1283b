package mellow.server.record;

import mellow.server.common.Coded;

/** The state of a cell as SQL computes it: {@link mellow.core.cell.CellState#of} for many at once. A test compares the two over all that can be. */
public final class StateSql {

    private StateSql() {}

    /**
     * The state as an expression.
     *
     * @param cell name of the cell's row
     * @param meaning expression of the revision at which its source's meaning last changed
     * @param newest name of a row with {@code answer} and {@code answered_version} of its newest offer that was not withdrawn, null for none
     */
    public static String of(String cell, String meaning, String newest) {
        return Coded.sql("case when %1$s.open_offers > 0 then {state.offered}"
                        + " when %2$s.answer = {answer.returned} and %1$s.text_version < %2$s.answered_version then {state.returned}"
                        + " else %3$s end")
                .formatted(cell, newest, ofText(cell, meaning));
    }

    /** The same of a cell without offers to show. */
    static String ofText(String cell, String meaning) {
        return Coded.sql("case when %1$s.standing = {standing.none} then {state.untranslated}"
                        + " when %1$s.based_on < %2$s then {state.stale}"
                        + " when %1$s.standing = {standing.settled} then {state.settled} else {state.pencilled} end")
                .formatted(cell, meaning);
    }

    /** Whether a cell shows what its text is, and no offer or return before that. */
    static String showsText(String cell) {
        return Coded.sql("%s.state in ({state.stale}, {state.settled}, {state.pencilled})")
                .formatted(cell);
    }

    /** Answer and time of a cell's newest offer that was not withdrawn, to be joined laterally. */
    static String newest(String cell) {
        return Coded.sql("select o.answer, o.answered_version from offer o"
                        + " where o.entry_id = %1$s.entry_id and o.language_id = %1$s.language_id and o.answer <> {answer.withdrawn}"
                        + " order by o.opened_version desc, o.id desc limit 1")
                .formatted(cell);
    }
}
