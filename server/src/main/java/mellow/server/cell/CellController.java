package mellow.server.cell;

import jakarta.validation.Valid;
import java.util.List;
import mellow.server.cell.CellStory.StoryLine;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Changing a cell, and reading its story. */
@RestController
@RequestMapping("/api/entries/{entry}/cells/{language}")
class CellController {

    private final CellService cells;
    private final LanguageService languages;

    CellController(CellService cells, LanguageService languages) {
        this.cells = cells;
        this.languages = languages;
    }

    /** Changes the cell; replies with the cell afterwards, or 409 with the cell as someone else left it. */
    @PostMapping("/changes")
    CellView change(
            @PathVariable long entry,
            @PathVariable String language,
            @Valid @RequestBody CellChange change,
            @AuthenticationPrincipal SignedIn me) {
        return cells.change(me.id(), entry, languages.parse(language), change);
    }

    /** The cell's story, newest first, at most 200 lines. */
    @GetMapping("/story")
    List<StoryLine> story(@PathVariable long entry, @PathVariable String language) {
        return cells.story(entry, languages.parse(language));
    }
}
