package mellow.server.wordbook;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mellow.core.format.Limits;
import mellow.server.common.Refusal;
import mellow.server.file.Uploads;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import mellow.server.wordbook.TermFiles.TermsTaken;
import mellow.server.wordbook.TermRows.TermPage;
import mellow.server.wordbook.TermUse.SuggestedTerm;
import mellow.server.wordbook.TermUse.TermCount;
import mellow.server.wordbook.WordbookService.TermSense;
import mellow.server.wordbook.WordbookService.TermText;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
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

/** The wordbook. */
@RestController
@RequestMapping("/api/terms")
class WordbookController {

    private final WordbookService wordbook;
    private final TermRows rows;
    private final TermUse use;
    private final TermFiles files;
    private final TableService tables;
    private final LanguageService languages;
    private final Uploads uploads;

    WordbookController(
            WordbookService wordbook,
            TermRows rows,
            TermUse use,
            TermFiles files,
            TableService tables,
            LanguageService languages,
            Uploads uploads) {
        this.wordbook = wordbook;
        this.rows = rows;
        this.use = use;
        this.files = files;
        this.tables = tables;
        this.languages = languages;
        this.uploads = uploads;
    }

    /** Terms in the order of their words, 200 at a time. */
    @GetMapping
    TermPage page(
            @RequestParam(defaultValue = "") @Size(max = 200) String words,
            @RequestParam(defaultValue = "") @Pattern(regexp = "agreed|proposed|avoid|") String status,
            @RequestParam(defaultValue = "") @Size(max = 200) String product,
            @RequestParam(defaultValue = "0") @Min(0) int first) {
        return rows.page(words, status, product, first);
    }

    /** Where a term stands, and whether texts follow it. */
    @GetMapping("/{id}/use")
    TermCount use(@PathVariable long id) {
        return use.of(id);
    }

    /** Words that often stand in a table's sources and are no term. */
    @GetMapping("/suggested")
    List<SuggestedTerm> suggested(@RequestParam String table) {
        TableInfo of = tables.find(table);
        return use.suggested(of.id(), of.source());
    }

    /** All agreed terms as a file: tbx or csv. */
    @GetMapping("/file/{format}")
    void write(@PathVariable String format, HttpServletResponse response) throws IOException {
        response.setContentType(format.equals("csv") ? "text/csv;charset=UTF-8" : "application/xml");
        response.setHeader(
                HttpHeaders.CONTENT_DISPOSITION,
                "attachment; filename=\"wordbook." + (format.equals("csv") ? "csv" : "tbx") + "\"");
        files.write(format, response.getOutputStream());
    }

    /** Takes a wordbook in, the bytes of its file as the body; coordinators only. */
    @PostMapping(value = "/file", consumes = MediaType.APPLICATION_OCTET_STREAM_VALUE)
    TermsTaken take(@RequestParam String name, HttpServletRequest request, @AuthenticationPrincipal SignedIn me)
            throws IOException {
        files.requireMayTake(me.id());
        return uploads.receive(
                me.id(),
                request,
                bytes -> {
                    if (bytes > Limits.DEFAULT.bytes()) {
                        throw Refusal.tooLarge(
                                "file-too-large",
                                "The file is larger than {most} MB, and that is the limit.",
                                Map.of("most", Limits.DEFAULT.bytes() >> 20));
                    }
                },
                content -> files.take(me.id(), name, content));
    }

    /** Adds a term; who is no coordinator proposes it. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    TermId add(@Valid @RequestBody NewTerm term, @AuthenticationPrincipal SignedIn me) {
        return new TermId(wordbook.add(
                me.id(),
                term.source(),
                term.term(),
                term.note(),
                sense(term.part(), term.products(), term.status(), term.forms()),
                term.texts()));
    }

    /** Changes a term and its translations; reviewers change translations of their languages only. */
    @PutMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void change(@PathVariable long id, @Valid @RequestBody TermEdit edit, @AuthenticationPrincipal SignedIn me) {
        wordbook.change(
                me.id(),
                id,
                edit.version(),
                edit.term(),
                edit.note(),
                sense(edit.part(), edit.products(), edit.status(), edit.forms()),
                edit.texts());
    }

    private static TermSense sense(
            @Nullable String part,
            @Nullable List<String> products,
            @Nullable String status,
            @Nullable List<String> forms) {
        return new TermSense(
                Objects.requireNonNullElse(part, ""),
                Objects.requireNonNullElse(products, List.of()),
                Objects.requireNonNullElse(status, "agreed"),
                Objects.requireNonNullElse(forms, List.of()));
    }

    /** Proposes what a term should be called in a language; an empty text takes the proposal away. */
    @PutMapping("/{id}/proposals/{language}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void propose(
            @PathVariable long id,
            @PathVariable String language,
            @Valid @RequestBody TermProposal proposal,
            @AuthenticationPrincipal SignedIn me) {
        wordbook.propose(me.id(), id, languages.parse(language), proposal.text());
    }

    /** Takes a term out; coordinators only. */
    @DeleteMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        wordbook.remove(me.id(), id);
    }

    /**
     * A term to be added.
     *
     * @param source tag of the language it is a word of
     * @param part of speech, empty or left out for none
     * @param products slugs of those that it belongs to; left out for all
     * @param status agreed unless said otherwise
     * @param forms how it reads in sources as well
     * @param texts its translations by tag
     */
    record NewTerm(
            @NotBlank String source,
            @NotBlank @Size(max = 200) String term,
            @NotNull @Size(max = 2000) String note,
            @Nullable @Pattern(regexp = "noun|verb|adjective|adverb|name|phrase|") String part,
            @Nullable @Size(max = 100) List<@NotBlank String> products,
            @Nullable @Pattern(regexp = "agreed|proposed|avoid") String status,
            @Nullable @Size(max = 50) List<@NotNull @Size(max = 200) String> forms,
            @NotNull Map<String, @Valid TermText> texts) {}

    /** @param version the version that was seen; the rest as for a new term */
    record TermEdit(
            @Min(0) int version,
            @NotBlank @Size(max = 200) String term,
            @NotNull @Size(max = 2000) String note,
            @Nullable @Pattern(regexp = "noun|verb|adjective|adverb|name|phrase|") String part,
            @Nullable @Size(max = 100) List<@NotBlank String> products,
            @Nullable @Pattern(regexp = "agreed|proposed|avoid") String status,
            @Nullable @Size(max = 50) List<@NotNull @Size(max = 200) String> forms,
            @NotNull Map<String, @Valid TermText> texts) {}

    record TermProposal(@NotNull @Size(max = 200) String text) {}

    record TermId(long id) {}
}
