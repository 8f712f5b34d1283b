package mellow.server.undo;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.server.cell.CellChanged.Many;
import mellow.server.cell.CellChanged.RefusedCell;
import mellow.server.cell.CellService;
import mellow.server.common.Refusal;
import mellow.server.entry.EntryService.Changed;
import mellow.server.entry.EntryUndo;
import mellow.server.people.SignedIn;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;

/** Taking back one's own changes, of cells or of entries. */
@RestController
class UndoController {

    private final CellService cells;
    private final EntryUndo entries;

    UndoController(CellService cells, EntryUndo entries) {
        this.cells = cells;
        this.entries = entries;
    }

    /**
     * Takes a change of one's own back, as a whole. The reply's number takes the undo back in turn. What somebody changed since stays, and is named; when
     * nothing is left to take back, that is a refusal.
     */
    @PostMapping("/api/changes/{change}/undo")
    Undone undo(@PathVariable long change, @AuthenticationPrincipal SignedIn me) {
        Optional<Many> ofCells = cells.undo(me.id(), change);
        if (ofCells.isPresent()) {
            Many many = ofCells.get();
            List<String> refused = sentences(many.refused());
            if (many.changed() == 0) {
                throw Refusal.conflict("changed-since", refused.get(0), Map.of());
            }
            return new Undone(many.change(), many.changed(), refused, sentences(many.lowered()));
        }
        Changed changed = entries.undo(me.id(), change)
                .orElseThrow(
                        () -> Refusal.notFound("nothing-to-undo", "There is no such change of yours to take back."));
        return new Undone(changed.change(), changed.entries().size(), changed.refused(), List.of());
    }

    /**
     * What an undo did.
     *
     * @param change its own number
     * @param amount how many cells or entries went back
     * @param refused why others did not
     * @param lowered what the checks say against texts that came back pencilled instead of settled
     */
    record Undone(long change, int amount, List<String> refused, List<String> lowered) {}

    private static List<String> sentences(List<RefusedCell> cells) {
        return cells.stream()
                .map(one -> (one.key() == null ? "" : one.key() + ", ") + one.language() + ": " + one.sentence())
                .toList();
    }
}
