package mellow.server.board;

import java.util.HashSet;
import java.util.List;
import mellow.server.board.BoardService.LeftReply;
import mellow.server.board.BoardService.NewsReply;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What the Board shows below the tables. */
@RestController
@RequestMapping("/api/board")
class BoardController {

    private final BoardService board;
    private final LanguageService languages;

    BoardController(BoardService board, LanguageService languages) {
        this.board = board;
        this.languages = languages;
    }

    /** What others did since one was last here. */
    @GetMapping("/news")
    NewsReply news(@AuthenticationPrincipal SignedIn me) {
        return board.news(me.id());
    }

    /** What is left to settle by day and language, with a forecast; of some tables and languages or all, in entries or words. */
    @GetMapping("/left")
    List<LeftReply> left(
            @RequestParam(defaultValue = "") List<String> table,
            @RequestParam(defaultValue = "") List<String> in,
            @RequestParam(defaultValue = "false") boolean words) {
        return board.left(new HashSet<>(table), new HashSet<>(languages.parse(in)), words);
    }
}
