package mellow.server.note;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.Map;
import mellow.server.language.LanguageService;
import mellow.server.note.NoteService.Notes;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** The footnotes of a cell. */
@RestController
class NoteController {

    private final NoteService notes;
    private final LanguageService languages;

    NoteController(NoteService notes, LanguageService languages) {
        this.notes = notes;
        this.languages = languages;
    }

    /** What the memory, the checks, the cell's story, the entry's questions and its scenes say, as each of them says it alone. Changes nothing. */
    @PostMapping("/api/entries/{entry}/cells/{language}/notes")
    Notes notes(@PathVariable long entry, @PathVariable String language, @Valid @RequestBody Shown shown) {
        return notes.of(entry, languages.parse(language), shown.forms());
    }

    /** @param forms the text that the cell shows, by form, "other" for a plain one */
    record Shown(@NotNull @Size(max = 64) Map<String, @Size(max = 1_000_000) String> forms) {}
}
