package mellow.server.sheet;

import java.time.Instant;
import java.util.List;
import mellow.server.language.LanguageService;
import mellow.server.sheet.ScopeParts.PartsReply;
import mellow.server.sheet.SheetService.RowReply;
import mellow.server.sheet.SheetService.ScopeReply;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The ledger spread: which entries a scope holds, and the rows of any of them. */
@RestController
class SheetController {

    private final SheetService sheet;
    private final LanguageService languages;
    private final ScopeParts parts;

    SheetController(SheetService sheet, LanguageService languages, ScopeParts parts) {
        this.sheet = sheet;
        this.languages = languages;
        this.parts = parts;
    }

    /** Opens a scope: numbers of its entries in order. */
    @GetMapping("/api/scope")
    ScopeReply open(
            @RequestParam(defaultValue = "") List<String> table,
            @RequestParam(required = false) @Nullable String product,
            @RequestParam(defaultValue = "") List<String> in,
            @RequestParam(defaultValue = "") List<String> only,
            @RequestParam(defaultValue = "section") String by,
            @RequestParam(required = false) @Nullable String words,
            @RequestParam(required = false) @Nullable String section,
            @RequestParam(required = false) @Nullable String tag,
            @RequestParam(required = false) @Nullable Long person,
            @RequestParam(required = false) @Nullable Instant since,
            @RequestParam(required = false) @Nullable Long intake,
            @RequestParam(defaultValue = "") String asked,
            @RequestParam(defaultValue = "") String check,
            @RequestParam(defaultValue = "") String code) {
        return sheet.open(new Scope(
                table,
                product,
                languages.parse(in),
                Scopes.states(only),
                Scopes.order(by),
                words,
                section,
                tag,
                person,
                since,
                intake,
                asked.equals(Scopes.OPEN),
                Scopes.check(check),
                Scopes.code(code)));
    }

    /** What a scope of these tables can be narrowed to: sections, tags, people, open questions. */
    @GetMapping("/api/scope/parts")
    PartsReply parts(
            @RequestParam(defaultValue = "") List<String> table,
            @RequestParam(required = false) @Nullable String product) {
        return parts.of(table, product);
    }

    /** The rows of some entries, at most 200. */
    @GetMapping("/api/rows")
    List<RowReply> rows(@RequestParam List<Long> ids, @RequestParam(defaultValue = "") List<String> in) {
        return sheet.rows(ids, languages.parse(in));
    }
}
