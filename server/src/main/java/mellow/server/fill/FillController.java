package mellow.server.fill;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import mellow.server.fill.FillService.Fill;
import mellow.server.language.LanguageService;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Filling what is untranslated: what it would do. What is ticked is then changed as cells are. */
@RestController
class FillController {

    private final FillService fill;
    private final LanguageService languages;

    FillController(FillService fill, LanguageService languages) {
        this.fill = fill;
        this.languages = languages;
    }

    /** Looks for settled texts that the untranslated cells of a scope could have. Changes nothing. */
    @PostMapping("/api/fill/preview")
    Fill preview(@Valid @RequestBody FillSearch search) {
        return fill.find(search.scope(), languages.parse(search.language()), search.least(), search.first());
    }

    /**
     * What to look for.
     *
     * @param scope the query string of the scope
     * @param least how alike the sources must be, in percent
     * @param first where in the scope to begin
     */
    record FillSearch(
            @NotNull @Size(max = 4000) String scope,
            @NotNull String language,
            @Min(60) @Max(100) int least,
            @Min(0) int first) {}
}
