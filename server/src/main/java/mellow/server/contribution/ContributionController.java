package mellow.server.contribution;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import mellow.core.language.LanguageTag;
import mellow.server.cell.CellService;
import mellow.server.contribution.ContributionService.Contribution;
import mellow.server.contribution.OfferList.Draft;
import mellow.server.contribution.OfferList.Offers;
import mellow.server.contribution.ReportService.Report;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** What people contributed. */
@RestController
class ContributionController {

    private final ContributionService contributions;
    private final OfferList offers;
    private final CellService cells;
    private final ReportService reports;
    private final LanguageService languages;
    private final Clock clock;

    ContributionController(
            ContributionService contributions,
            OfferList offers,
            CellService cells,
            ReportService reports,
            LanguageService languages,
            Clock clock) {
        this.contributions = contributions;
        this.offers = offers;
        this.cells = cells;
        this.reports = reports;
        this.languages = languages;
        this.clock = clock;
    }

    /** Figures per language and person, of the last 90 days unless said otherwise; of one person or of all that one may see. */
    @GetMapping("/api/contributions")
    List<Contribution> figures(
            @RequestParam(defaultValue = "") List<String> in,
            @RequestParam(defaultValue = "0") long person,
            @RequestParam(required = false) @Nullable LocalDate from,
            @RequestParam(required = false) @Nullable LocalDate to,
            @AuthenticationPrincipal SignedIn me) {
        return contributions.contributions(me.id(), languages.parse(in), person, Period.of(from, to, clock));
    }

    /** The same as a sheet. */
    @GetMapping("/api/contributions.csv")
    ResponseEntity<byte[]> figuresCsv(
            @RequestParam(defaultValue = "") List<String> in,
            @RequestParam(defaultValue = "0") long person,
            @RequestParam(required = false) @Nullable LocalDate from,
            @RequestParam(required = false) @Nullable LocalDate to,
            @AuthenticationPrincipal SignedIn me) {
        Period period = Period.of(from, to, clock);
        return csv(
                "contributions-" + period.from() + "-" + period.to(),
                FiguresCsv.contributions(contributions.contributions(me.id(), languages.parse(in), person, period)));
    }

    /** A person's offers, the newest first, with what became of them. */
    @GetMapping("/api/people/{id}/offers")
    Offers offers(
            @PathVariable long id,
            @RequestParam(required = false) @Nullable String in,
            @RequestParam(defaultValue = "") String answer,
            @RequestParam(defaultValue = "0") long after,
            @AuthenticationPrincipal SignedIn me) {
        LanguageTag language = in == null ? null : languages.parse(in);
        return offers.offers(me.id(), id, language, answer, after);
    }

    /** What one pencilled and has not put forward. */
    @GetMapping("/api/drafts")
    List<Draft> drafts(@AuthenticationPrincipal SignedIn me) {
        return offers.drafts(me.id());
    }

    /** Says something to the reviewer about an open offer of one's own. */
    @PutMapping("/api/offers/{offer}/note")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void say(@PathVariable long offer, @Valid @RequestBody Note note, @AuthenticationPrincipal SignedIn me) {
        cells.say(me.id(), offer, note.note());
    }

    /** What was put in force in a language, of the last 90 days unless said otherwise. */
    @GetMapping("/api/reports/{language}")
    Report report(
            @PathVariable String language,
            @RequestParam(required = false) @Nullable LocalDate from,
            @RequestParam(required = false) @Nullable LocalDate to,
            @AuthenticationPrincipal SignedIn me) {
        return reports.report(me.id(), languages.parse(language), Period.of(from, to, clock));
    }

    /** The same as a sheet. */
    @GetMapping("/api/reports/{language}/csv")
    ResponseEntity<byte[]> reportCsv(
            @PathVariable String language,
            @RequestParam(required = false) @Nullable LocalDate from,
            @RequestParam(required = false) @Nullable LocalDate to,
            @AuthenticationPrincipal SignedIn me) {
        Report report = reports.report(me.id(), languages.parse(language), Period.of(from, to, clock));
        return csv("report-" + report.language() + "-" + report.from() + "-" + report.to(), FiguresCsv.report(report));
    }

    private static ResponseEntity<byte[]> csv(String name, String content) {
        return ResponseEntity.ok()
                .header(
                        HttpHeaders.CONTENT_DISPOSITION,
                        ContentDisposition.attachment()
                                .filename(name + ".csv")
                                .build()
                                .toString())
                .header(HttpHeaders.CONTENT_TYPE, "text/csv;charset=UTF-8")
                .header(HttpHeaders.CACHE_CONTROL, "no-store")
                .body(content.getBytes(StandardCharsets.UTF_8));
    }

    /** What is said; empty takes it back. */
    record Note(@NotNull @Size(max = 2000) String note) {}
}
