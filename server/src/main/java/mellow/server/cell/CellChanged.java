package mellow.server.cell;

import org.jspecify.annotations.Nullable;

/**
 * What came of changing one cell.
 *
 * @param change the change's number, for undo
 * @param cell the cell afterwards
 */
public record CellChanged(long change, CellView cell) {

    /**
     * What came of changing many cells.
     *
     * @param change the change's number, for undo
     * @param changed how many cells changed
     * @param refused the first cells that stayed as they are, with the reason
     * @param refusedInAll how many stayed as they are
     */
    public record Many(long change, int changed, java.util.List<RefusedCell> refused, int refusedInAll) {}

    /**
     * A cell that stayed as it is.
     *
     * @param entry the entry
     * @param key its key
     * @param language the language's tag
     * @param code the stable code of the reason
     * @param sentence the reason for people
     */
    public record RefusedCell(long entry, @Nullable String key, String language, String code, String sentence) {}
}
