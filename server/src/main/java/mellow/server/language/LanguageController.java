package mellow.server.language;

import java.util.List;
import mellow.core.language.LanguageNames;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Finding a language by tag or name. */
@RestController
@RequestMapping("/api/languages")
class LanguageController {

    private static final int MOST = 12;

    private final LanguageService languages;

    LanguageController(LanguageService languages) {
        this.languages = languages;
    }

    /** Languages that {@code like} may mean, best first: a tag in any spelling, an English or own name or its beginning. */
    @GetMapping
    List<LanguageName> like(@RequestParam String like) {
        return LanguageNames.like(like, MOST).stream()
                .map(tag -> LanguageName.of(languages.describe(tag)))
                .toList();
    }
}
