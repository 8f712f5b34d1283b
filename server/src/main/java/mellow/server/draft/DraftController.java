package mellow.server.draft;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import mellow.server.draft.DraftServices.DraftChoice;
import mellow.server.draft.DraftServices.DraftDesk;
import mellow.server.draft.DraftServices.DraftSettings;
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
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Drafting services: their settings, which of them draft a language, and how much of what they drafted stayed. */
@RestController
@RequestMapping("/api/drafting")
class DraftController {

    private final DraftServices services;
    private final DraftWorth worth;
    private final LanguageService languages;

    DraftController(DraftServices services, DraftWorth worth, LanguageService languages) {
        this.services = services;
        this.worth = worth;
        this.languages = languages;
    }

    /** All services; coordinators only. */
    @GetMapping("/services")
    DraftDesk all(@AuthenticationPrincipal SignedIn me) {
        return services.all(me.id());
    }

    /** Those that draft a language. */
    @GetMapping("/choices")
    List<DraftChoice> choices(@RequestParam String language) {
        return services.choices(languages.parse(language));
    }

    /** How much of what services drafted stayed as it was; coordinators only. */
    @GetMapping("/worth")
    List<DraftWorth.Worth> worth(@AuthenticationPrincipal SignedIn me) {
        return worth.of(me.id());
    }

    /** Adds a service; coordinators only. */
    @PostMapping("/services")
    @ResponseStatus(HttpStatus.CREATED)
    DraftServiceId add(@Valid @RequestBody DraftServiceEdit edit, @AuthenticationPrincipal SignedIn me) {
        return new DraftServiceId(services.add(me.id(), edit.settings(), edit.secret()));
    }

    /** Changes one; coordinators only. */
    @PutMapping("/services/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void change(
            @PathVariable long id, @Valid @RequestBody DraftServiceEdit edit, @AuthenticationPrincipal SignedIn me) {
        services.change(me.id(), id, edit.version(), edit.settings(), edit.secret());
    }

    /** Has one asked no more; coordinators only. */
    @DeleteMapping("/services/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        services.remove(me.id(), id);
    }

    /**
     * A service as it shall be.
     *
     * @param version the version that was seen, 0 for a new one
     * @param secret goes with each request; null keeps the one that there is, empty takes it away
     */
    record DraftServiceEdit(
            @NotBlank @Size(max = 80) String name,
            @NotBlank @Size(max = 500) String address,
            @Nullable @Size(max = 1000) String secret,
            @NotNull @Size(max = 300) List<@NotBlank String> languages,
            @NotNull @Size(max = 1000) List<@NotBlank String> withheld,
            @Min(0) @Max(1_000_000_000) long dayCharacters,
            @Min(0) @Max(1_000_000_000) long monthCharacters,
            @Min(1) @Max(100) int textsAtOnce,
            @Min(1) @Max(16) int requestsAtOnce,
            @Min(1) @Max(300) int seconds,
            @Min(0) int version) {

        DraftSettings settings() {
            return new DraftSettings(
                    name,
                    address,
                    languages,
                    withheld,
                    dayCharacters,
                    monthCharacters,
                    textsAtOnce,
                    requestsAtOnce,
                    seconds);
        }
    }

    record DraftServiceId(long id) {}
}
