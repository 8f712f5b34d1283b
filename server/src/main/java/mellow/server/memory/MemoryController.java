package mellow.server.memory;

import java.util.List;
import mellow.server.language.LanguageService;
import mellow.server.memory.MemoryKeeper.MemoryState;
import mellow.server.people.SignedIn;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** The memory, asked for one cell. */
@RestController
class MemoryController {

    private final MemoryService memory;
    private final LanguageService languages;

    MemoryController(MemoryService memory, LanguageService languages) {
        this.memory = memory;
        this.languages = languages;
    }

    /** Settled texts of other entries with the same or a similar source, the most alike first, at most eight. */
    @GetMapping("/api/entries/{entry}/cells/{language}/memory")
    List<MemoryHit> hits(@PathVariable long entry, @PathVariable String language) {
        return memory.hits(entry, languages.parse(language));
    }

    /** How the memory is kept on this server. */
    @GetMapping("/api/memory")
    MemoryState state(@AuthenticationPrincipal SignedIn me) {
        return memory.state(me.id());
    }
}
