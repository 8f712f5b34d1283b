package mellow.server.fill;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import mellow.server.cell.CellChanged;
import mellow.server.fill.FillService.Fill;
import mellow.server.fill.Filling.Chosen;
import mellow.server.fill.Filling.FillOrder;
import mellow.server.fill.Filling.FillReply;
import mellow.server.fill.Filling.ForDraft;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Filling what is untranslated: what it would do, doing it, and drafting one cell. */
@RestController
class FillController {

    private final FillService fill;
    private final Filling filling;
    private final CountService counts;
    private final SpreadService spread;
    private final LanguageService languages;

    FillController(
            FillService fill, Filling filling, CountService counts, SpreadService spread, LanguageService languages) {
        this.counts = counts;
        this.spread = spread;
        this.fill = fill;
        this.filling = filling;
        this.languages = languages;
    }

    /** Looks for settled texts that the untranslated cells of a scope could have. Changes nothing. */
    @PostMapping("/api/fill/preview")
    Fill preview(@Valid @RequestBody FillSearch search) {
        return fill.find(
                search.scope(), languages.parse(search.language()), search.least(), search.first(), search.service());
    }

    /** Begins to fill. */
    @PostMapping("/api/fill")
    @ResponseStatus(HttpStatus.ACCEPTED)
    FillBegun begin(@Valid @RequestBody FillWanted wanted, @AuthenticationPrincipal SignedIn me) {
        return new FillBegun(filling.start(
                me.id(),
                new FillOrder(
                        wanted.scope(),
                        wanted.language(),
                        wanted.known().stream()
                                .map(one -> new Chosen(
                                        one.entry(), one.version(), one.text(), one.fromEntry(), one.fromUnit()))
                                .toList(),
                        wanted.drafts().stream()
                                .map(one -> new ForDraft(one.entry(), one.version()))
                                .toList(),
                        wanted.service())));
    }

    /** The newest fills, one's own, or anybody's for a coordinator. */
    @GetMapping("/api/fill")
    List<FillReply> newest(@AuthenticationPrincipal SignedIn me) {
        return filling.newest(me.id());
    }

    /** How far a fill is. */
    @GetMapping("/api/fill/{change}")
    FillReply state(@PathVariable long change, @AuthenticationPrincipal SignedIn me) {
        return filling.state(me.id(), change);
    }

    /** Stops one's own: what was drafted until then is filled in. */
    @PostMapping("/api/fill/{change}/stop")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void stop(@PathVariable long change, @AuthenticationPrincipal SignedIn me) {
        filling.stop(me.id(), change);
    }

    /** Counts how much of the untranslated texts of a scope is new, and how much is like something settled. */
    @GetMapping("/api/fill/counts")
    CountService.WorkCounts count(
            @RequestParam @Size(max = 4000) String scope,
            @RequestParam String language,
            @RequestParam(defaultValue = "0") @Min(0) int first) {
        return counts.count(scope, languages.parse(language), first);
    }

    /** Untranslated cells with the same source as a settled one. */
    @GetMapping("/api/entries/{entry}/cells/{language}/same")
    List<SpreadService.SameSource> same(@PathVariable long entry, @PathVariable String language) {
        return spread.of(entry, languages.parse(language));
    }

    /** Has one untranslated cell drafted. */
    @PostMapping("/api/entries/{entry}/cells/{language}/draft")
    CellChanged draft(
            @PathVariable long entry,
            @PathVariable String language,
            @Valid @RequestBody DraftWanted wanted,
            @AuthenticationPrincipal SignedIn me) {
        return filling.one(me.id(), entry, languages.parse(language), wanted.version(), wanted.service());
    }

    /**
     * What to look for.
     *
     * @param scope the query string of the scope
     * @param least how alike the sources must be, in percent
     * @param first where in the scope to begin
     * @param service the number of the one that would draft the rest, null for none
     */
    record FillSearch(
            @NotNull @Size(max = 4000) String scope,
            @NotNull String language,
            @Min(60) @Max(100) int least,
            @Min(0) int first,
            @Nullable Long service) {}

    /**
     * What to fill.
     *
     * @param scope where it was looked for
     * @param known texts of the memory
     * @param drafts what the service is asked for
     * @param service its number, null for none
     */
    record FillWanted(
            @NotNull @Size(max = 4000) String scope,
            @NotNull String language,
            @NotNull @Size(max = 6000) List<@Valid KnownText> known,
            @NotNull @Size(max = 6000) List<@Valid DraftedCell> drafts,
            @Nullable Long service) {}

    /**
     * A text of the memory for a cell.
     *
     * @param version of the cell
     * @param fromEntry the entry that has it, 0 for none
     * @param fromUnit the unit of a shelf that has it, 0 for none
     */
    record KnownText(
            long entry,
            @Min(0) int version,
            @NotNull @Size(max = 1_000_000) String text,
            @Min(0) long fromEntry,
            @Min(0) long fromUnit) {}

    record DraftedCell(long entry, @Min(0) int version) {}

    record FillBegun(long change) {}

    /** @param version of the cell that was seen */
    record DraftWanted(@Min(0) int version, @Nullable Long service) {}
}
