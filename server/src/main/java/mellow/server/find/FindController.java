package mellow.server.find;

import mellow.server.find.FindService.FoundReply;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The find box. */
@RestController
class FindController {

    private final FindService find;

    FindController(FindService find) {
        this.find = find;
    }

    /** Entries and people that have {@code words} somewhere, a handful of each. */
    @GetMapping("/api/find")
    FoundReply find(@RequestParam String words) {
        return find.find(words);
    }
}
