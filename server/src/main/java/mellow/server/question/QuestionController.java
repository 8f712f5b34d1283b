package mellow.server.question;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.util.List;
import mellow.server.people.SignedIn;
import mellow.server.question.QuestionService.Question;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Questions about entries. */
@RestController
class QuestionController {

    private final QuestionService questions;

    QuestionController(QuestionService questions) {
        this.questions = questions;
    }

    /** The questions about an entry, the newest first. */
    @GetMapping("/api/entries/{entry}/questions")
    List<Question> all(@PathVariable long entry) {
        return questions.of(entry);
    }

    /** Asks about an entry. */
    @PostMapping("/api/entries/{entry}/questions")
    @ResponseStatus(HttpStatus.CREATED)
    Asked ask(@PathVariable long entry, @Valid @RequestBody Words words, @AuthenticationPrincipal SignedIn me) {
        return new Asked(questions.ask(me.id(), entry, words.text()));
    }

    /** Answers a question; coordinators only. */
    @PutMapping("/api/questions/{id}/answer")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void answer(@PathVariable long id, @Valid @RequestBody Words words, @AuthenticationPrincipal SignedIn me) {
        questions.answer(me.id(), id, words.text());
    }

    record Words(@NotBlank @Size(max = 2000) String text) {}

    record Asked(long id) {}
}
