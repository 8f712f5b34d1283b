package mellow.server.standing;

import jakarta.validation.Valid;
import java.util.List;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import mellow.server.standing.StandingService.Rule;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Standing rules of languages. */
@RestController
class StandingController {

    private final StandingService rules;
    private final LanguageService languages;

    StandingController(StandingService rules, LanguageService languages) {
        this.rules = rules;
        this.languages = languages;
    }

    /** The rules that are on. */
    @GetMapping("/api/standing")
    List<Rule> all() {
        return rules.all();
    }

    /** Sets a language's rule; none switches it off. */
    @PutMapping("/api/standing/{language}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void set(@PathVariable String language, @Valid @RequestBody Wanted wanted, @AuthenticationPrincipal SignedIn me) {
        rules.set(me.id(), languages.parse(language), wanted.after());
    }

    /** How many offers in a row must have been settled; null for no rule. */
    record Wanted(@Nullable Integer after) {}
}
