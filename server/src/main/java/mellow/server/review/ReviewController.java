package mellow.server.review;

import java.util.List;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import mellow.server.review.ReviewService.ReviewReply;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The review screen. */
@RestController
class ReviewController {

    private final ReviewService review;
    private final LanguageService languages;

    ReviewController(ReviewService review, LanguageService languages) {
        this.review = review;
        this.languages = languages;
    }

    /** Offers of others that wait for an answer in a language, at most a hundred, and who offers texts in it. */
    @GetMapping("/api/review")
    ReviewReply waiting(
            @RequestParam String in,
            @RequestParam(defaultValue = "") List<String> table,
            @RequestParam(defaultValue = "0") long person,
            @RequestParam(defaultValue = "false") boolean newest,
            @AuthenticationPrincipal SignedIn me) {
        return review.waiting(me.id(), languages.parse(in), table, person, newest);
    }
}
