package mellow.server.finding;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.Map;
import mellow.server.finding.FindingService.FindingCounts;
import mellow.server.finding.FindingService.FindingMends;
import mellow.server.finding.FindingService.FindingPage;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What would break: counted, listed and mended by scope; exceptions; looking again. */
@RestController
class FindingController {

    private final FindingService findings;
    private final ExceptionService exceptions;
    private final RecheckService rechecks;
    private final LanguageService languages;

    FindingController(
            FindingService findings, ExceptionService exceptions, RecheckService rechecks, LanguageService languages) {
        this.findings = findings;
        this.exceptions = exceptions;
        this.rechecks = rechecks;
        this.languages = languages;
    }

    /** How many texts of a scope have a finding, by kind. */
    @GetMapping("/api/findings/counts")
    FindingCounts counts(@RequestParam(defaultValue = "") String scope) {
        return findings.counts(scope);
    }

    /** The texts of a scope with a finding of a kind, a hundred at a time. */
    @GetMapping("/api/findings")
    FindingPage list(
            @RequestParam(defaultValue = "") String scope,
            @RequestParam String kind,
            @RequestParam(required = false) @Nullable String after) {
        return findings.list(scope, kind, after);
    }

    /** What of it can be mended in one sure way, and how it would read. Changes nothing. */
    @GetMapping("/api/findings/mends")
    FindingMends mends(@RequestParam(defaultValue = "") String scope, @RequestParam String kind) {
        return findings.mends(scope, kind);
    }

    /**
     * What is right.
     *
     * @param text the text that was looked at, by form; null for the one of the cell
     * @param reason why
     */
    record Right(
            @Nullable @Size(max = 64) Map<String, @Size(max = 1_000_000) String> text,
            @NotBlank @Size(max = 2000) String reason) {}

    /** Says that a kind of finding is right in a text. */
    @PutMapping("/api/entries/{entry}/cells/{language}/exceptions/{kind}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void say(
            @PathVariable long entry,
            @PathVariable String language,
            @PathVariable String kind,
            @Valid @RequestBody Right right,
            @AuthenticationPrincipal SignedIn me) {
        exceptions.say(me.id(), entry, languages.parse(language), kind, right.text(), right.reason());
    }

    /** Takes such a word back. */
    @DeleteMapping("/api/entries/{entry}/cells/{language}/exceptions/{kind}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void takeBack(
            @PathVariable long entry,
            @PathVariable String language,
            @PathVariable String kind,
            @AuthenticationPrincipal SignedIn me) {
        exceptions.takeBack(me.id(), entry, languages.parse(language), kind);
    }

    /** @param scope the scope's query string */
    record InScope(@NotNull @Size(max = 4000) String scope) {}

    /** Stops looking again in the tables of a scope; what is not looked at yet waits. */
    @PostMapping("/api/findings/again/stop")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void stop(@Valid @RequestBody InScope in, @AuthenticationPrincipal SignedIn me) {
        rechecks.stop(me.id(), findings.tables(in.scope()));
    }

    /** Goes on looking again. */
    @PostMapping("/api/findings/again/go-on")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void goOn(@Valid @RequestBody InScope in, @AuthenticationPrincipal SignedIn me) {
        rechecks.goOn(me.id(), findings.tables(in.scope()));
    }
}
