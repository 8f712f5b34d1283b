package mellow.server.sheet;

import java.time.Instant;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import mellow.core.cell.CellState;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.sheet.Scope.Order;
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

    SheetController(SheetService sheet, LanguageService languages) {
        this.sheet = sheet;
        this.languages = languages;
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
            @RequestParam(required = false) @Nullable Long intake) {
        return sheet.open(new Scope(
                table,
                product,
                languages.parse(in),
                states(only),
                order(by),
                words,
                section,
                tag,
                person,
                since,
                intake));
    }

    /** The rows of some entries, at most 200. */
    @GetMapping("/api/rows")
    List<RowReply> rows(@RequestParam List<Long> ids, @RequestParam(defaultValue = "") List<String> in) {
        return sheet.rows(ids, languages.parse(in));
    }

    private static Set<CellState> states(List<String> words) {
        Set<CellState> states = EnumSet.noneOf(CellState.class);
        for (String word : words) {
            states.add(Arrays.stream(CellState.values())
                    .filter(state -> state.word().equals(word))
                    .findFirst()
                    .orElseThrow(() -> Refusal.unacceptable(
                            "unknown-state",
                            "\u201c" + word + "\u201d is no state of a cell.",
                            Map.of("field", "only"))));
        }
        return states;
    }

    private static Order order(String word) {
        return switch (word.toLowerCase(Locale.ROOT)) {
            case "section" -> Order.SECTION;
            case "key" -> Order.KEY;
            default ->
                throw Refusal.unacceptable(
                        "unknown-order",
                        "Entries can be ordered by section or by key, not by \u201c" + word + "\u201d.",
                        Map.of("field", "by"));
        };
    }
}
