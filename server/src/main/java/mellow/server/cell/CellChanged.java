package mellow.server.cell;

import java.util.List;
import mellow.server.check.CheckService.FindingReply;
import org.jspecify.annotations.Nullable;

/**
 * What came of changing one cell.
 *
 * @param change the change's number, for undo
 * @param cell the cell afterwards
 * @param lowered why a settled text was put back as pencilled: what the checks say against it; null when it was not
 */
public record CellChanged(long change, CellView cell, @Nullable List<FindingReply> lowered) {

    /**
     * What came of changing many cells.
     *
     * @param change the change's number, for undo
     * @param changed how many cells changed
     * @param refused the first cells that stayed as they are, with the reason
     * @param refusedInAll how many stayed as they are
     * @param lowered the first cells whose settled text came back pencilled, with what the checks say against it
     * @param loweredInAll how many came back pencilled
     */
    public record Many(
            long change,
            int changed,
            List<RefusedCell> refused,
            int refusedInAll,
            List<RefusedCell> lowered,
            int loweredInAll) {}

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
