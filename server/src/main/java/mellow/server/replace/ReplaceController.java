package mellow.server.replace;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import mellow.core.replace.Replacement.Wanted;
import mellow.server.replace.ReplaceService.Found;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Find and replace: what it would do. What is ticked is then changed as cells and sources are. */
@RestController
class ReplaceController {

    private final ReplaceService replace;

    ReplaceController(ReplaceService replace) {
        this.replace = replace;
    }

    /** Looks for words in the sources or texts of a scope. Changes nothing. */
    @PostMapping("/api/replace/preview")
    Found preview(@Valid @RequestBody Search search) {
        return replace.find(
                search.scope(),
                search.language(),
                new Wanted(search.find(), search.with(), search.pattern(), search.wholeWords(), search.matchCase()));
    }

    /**
     * What to look for.
     *
     * @param scope the query string of the scope
     * @param language the language to look through, null for the sources
     * @param pattern whether {@code find} is a regular expression
     */
    record Search(
            @NotNull @Size(max = 4000) String scope,
            @Nullable String language,
            @NotNull @Size(max = 1000) String find,
            @NotNull @Size(max = 1000) String with,
            boolean pattern,
            boolean wholeWords,
            boolean matchCase) {}
}
