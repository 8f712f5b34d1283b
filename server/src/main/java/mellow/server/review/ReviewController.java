package mellow.server.review;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import mellow.server.cell.CellChange.Action;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import mellow.server.review.AnsweringService.Answering;
import mellow.server.review.ReviewService.ReviewReply;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The review screen. */
@RestController
class ReviewController {

    private static final int LONGEST_AGE = 3_650;

    private final ReviewService review;
    private final AnsweringService answering;
    private final LanguageService languages;

    ReviewController(ReviewService review, AnsweringService answering, LanguageService languages) {
        this.review = review;
        this.answering = answering;
        this.languages = languages;
    }

    /** Offers of others that wait for an answer in a language, at most a hundred from a place, and who offers texts in it. */
    @GetMapping("/api/review")
    ReviewReply waiting(
            @RequestParam String in,
            @RequestParam(defaultValue = "") List<String> table,
            @RequestParam(defaultValue = "0") long person,
            @RequestParam(defaultValue = "0") @Min(0) @Max(LONGEST_AGE) int days,
            @RequestParam(defaultValue = "all") String checks,
            @RequestParam(defaultValue = "oldest") String order,
            @RequestParam(defaultValue = "0") @Min(0) int from,
            @AuthenticationPrincipal SignedIn me) {
        ReviewQuery query = review.query(
                languages.parse(in), table, person, days, ReviewQuery.checked(checks), ReviewQuery.order(order));
        return review.waiting(me.id(), query, from);
    }

    /** Answers all that match; the reply's number tells how far it is, and takes it back. */
    @PostMapping("/api/review/answers")
    @ResponseStatus(HttpStatus.ACCEPTED)
    Started answer(@Valid @RequestBody AnswerAll wanted, @AuthenticationPrincipal SignedIn me) {
        ReviewQuery query = review.query(
                languages.parse(wanted.language()),
                wanted.tables(),
                wanted.person(),
                wanted.days(),
                ReviewQuery.checked(wanted.checks()),
                ReviewQuery.Order.OLDEST);
        return new Started(answering.start(me.id(), query, wanted.action(), wanted.reason(), wanted.upTo()));
    }

    /** How far answering is. */
    @GetMapping("/api/review/answers/{change}")
    Answering state(@PathVariable long change, @AuthenticationPrincipal SignedIn me) {
        return answering.state(me.id(), change);
    }

    /** Stops answering before it is done; nothing is answered then. */
    @DeleteMapping("/api/review/answers/{change}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void cancel(@PathVariable long change, @AuthenticationPrincipal SignedIn me) {
        answering.cancel(me.id(), change);
    }

    /**
     * One answer for all that match.
     *
     * @param language the language's tag
     * @param tables names in addresses; empty for all
     * @param person whose offers; 0 for everyone's
     * @param days how long they have waited at least
     * @param checks all, sound, warned or blocked
     * @param action SETTLE or RETURN
     * @param upTo the highest number of an offer that was on the screen
     */
    record AnswerAll(
            @NotNull String language,
            @NotNull List<String> tables,
            long person,
            @Min(0) @Max(LONGEST_AGE) int days,
            @NotNull String checks,
            @NotNull Action action,
            @Nullable @Size(max = 2000) String reason,
            long upTo) {}

    /** What was begun. */
    record Started(long change) {}
}
