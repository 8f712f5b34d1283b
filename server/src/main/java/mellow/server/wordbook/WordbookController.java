package mellow.server.wordbook;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;
import mellow.server.people.SignedIn;
import mellow.server.wordbook.WordbookService.Term;
import mellow.server.wordbook.WordbookService.TermText;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The wordbook. */
@RestController
@RequestMapping("/api/terms")
class WordbookController {

    private final WordbookService wordbook;

    WordbookController(WordbookService wordbook) {
        this.wordbook = wordbook;
    }

    /** All terms in the order of their words. */
    @GetMapping
    List<Term> all() {
        return wordbook.all();
    }

    /** Adds a term; coordinators only. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    TermId add(@Valid @RequestBody NewTerm term, @AuthenticationPrincipal SignedIn me) {
        return new TermId(wordbook.add(me.id(), term.source(), term.term(), term.note(), term.texts()));
    }

    /** Changes a term and its translations; reviewers change translations of their languages only. */
    @PutMapping("/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void change(@PathVariable long id, @Valid @RequestBody TermEdit edit, @AuthenticationPrincipal SignedIn me) {
        wordbook.change(me.id(), id, edit.version(), edit.term(), edit.note(), edit.texts());
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
     * @param texts its translations by tag
     */
    record NewTerm(
            @NotBlank String source,
            @NotBlank @Size(max = 200) String term,
            @NotNull @Size(max = 2000) String note,
            @NotNull Map<String, @Valid TermText> texts) {}

    /** @param version the version that was seen */
    record TermEdit(
            @Min(0) int version,
            @NotBlank @Size(max = 200) String term,
            @NotNull @Size(max = 2000) String note,
            @NotNull Map<String, @Valid TermText> texts) {}

    record TermId(long id) {}
}
