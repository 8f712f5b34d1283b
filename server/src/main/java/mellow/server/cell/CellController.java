package mellow.server.cell;

import jakarta.validation.Valid;
import java.util.List;
import mellow.server.cell.CellChanged.Many;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Changing cells, and reading a cell's story. */
@RestController
class CellController {

    private final CellService cells;
    private final LanguageService languages;

    CellController(CellService cells, LanguageService languages) {
        this.cells = cells;
        this.languages = languages;
    }

    /** Changes the cell; replies with the cell afterwards, or 409 with the cell as someone else left it. */
    @PostMapping("/api/entries/{entry}/cells/{language}/changes")
    CellChanged change(
            @PathVariable long entry,
            @PathVariable String language,
            @Valid @RequestBody CellChange change,
            @AuthenticationPrincipal SignedIn me) {
        return cells.change(me.id(), entry, languages.parse(language), change);
    }

    /** Changes many cells as one change. Cells that a rule stands against stay as they are; the reply names them. */
    @PostMapping("/api/cells/changes")
    Many changeMany(@Valid @RequestBody ManyChanges changes, @AuthenticationPrincipal SignedIn me) {
        return cells.changeMany(me.id(), changes);
    }

    /** The cell's story, newest first, at most 200 lines. */
    @GetMapping("/api/entries/{entry}/cells/{language}/story")
    List<StoryLine> story(@PathVariable long entry, @PathVariable String language) {
        return cells.story(entry, languages.parse(language));
    }
}
