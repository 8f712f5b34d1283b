package mellow.server.check;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.Map;
import mellow.server.check.CheckService.CheckReply;
import mellow.server.language.LanguageService;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Checks of a text that may not have been saved. */
@RestController
class CheckController {

    private final CheckService checks;
    private final LanguageService languages;

    CheckController(CheckService checks, LanguageService languages) {
        this.checks = checks;
        this.languages = languages;
    }

    /** What there is to say about a text of this cell. Changes nothing. */
    @PostMapping("/api/entries/{entry}/cells/{language}/check")
    CheckReply check(@PathVariable long entry, @PathVariable String language, @Valid @RequestBody Typed typed) {
        return checks.check(entry, languages.parse(language), typed.forms());
    }

    /** @param forms the text by form, "other" for a plain one */
    record Typed(@NotNull @Size(max = 64) Map<String, @Size(max = 1_000_000) String> forms) {}
}
