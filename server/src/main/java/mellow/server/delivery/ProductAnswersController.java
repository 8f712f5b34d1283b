package mellow.server.delivery;

import java.util.List;
import mellow.server.delivery.ProductAnswers.AnswerReply;
import mellow.server.delivery.ProductAnswers.BorrowedPage;
import mellow.server.delivery.ProductAnswers.ProductWarning;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What people see in a product. */
@RestController
@RequestMapping("/api/products/{slug}")
class ProductAnswersController {

    private final ProductAnswers answers;

    ProductAnswersController(ProductAnswers answers) {
        this.answers = answers;
    }

    @GetMapping("/answer")
    AnswerReply answer(
            @PathVariable String slug,
            @RequestParam String how,
            @RequestParam String asked,
            @RequestParam(defaultValue = "") String key) {
        return answers.answer(slug, how, asked, key);
    }

    @GetMapping("/borrowed")
    BorrowedPage borrowed(
            @PathVariable String slug,
            @RequestParam(defaultValue = "") String in,
            @RequestParam(defaultValue = "") String find,
            @RequestParam(defaultValue = "0") int from) {
        return answers.borrowed(slug, in, find, from);
    }

    @GetMapping("/warnings")
    List<ProductWarning> warnings(@PathVariable String slug) {
        return answers.warnings(slug);
    }
}
