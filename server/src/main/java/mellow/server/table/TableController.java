package mellow.server.table;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mellow.core.cell.CellState;
import mellow.core.language.Language;
import mellow.core.language.LanguageTag;
import mellow.server.coverage.CoverageService;
import mellow.server.coverage.CoverageService.Count;
import mellow.server.coverage.CoverageService.Place;
import mellow.server.language.LanguageService;
import mellow.server.table.TableService.Listed;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Which tables there are, in which languages, and how far each has come. */
@RestController
@RequestMapping("/api/tables")
class TableController {

    private final TableService tables;
    private final CoverageService coverage;
    private final LanguageService languages;

    TableController(TableService tables, CoverageService coverage, LanguageService languages) {
        this.tables = tables;
        this.coverage = coverage;
        this.languages = languages;
    }

    /** All tables with the counters of their languages. The states of a language always add up to the table's entries. */
    @GetMapping
    List<TableReply> all() {
        Map<Place, Map<CellState, Count>> counts = coverage.all();
        return tables.all().stream().map(listed -> reply(listed, counts)).toList();
    }

    private TableReply reply(Listed listed, Map<Place, Map<CellState, Count>> counts) {
        TableInfo table = listed.table();
        List<LanguageReply> kept = table.languages().stream()
                .map(language -> new LanguageReply(
                        describe(language.tag()),
                        language.settlesOwn(),
                        states(listed, counts.getOrDefault(new Place(table.id(), language.number()), Map.of()))))
                .toList();
        return new TableReply(
                table.id(),
                table.slug(),
                table.name(),
                describe(table.source()),
                listed.entries(),
                listed.words(),
                kept);
    }

    private static Map<String, Integer> states(Listed listed, Map<CellState, Count> counts) {
        Map<String, Integer> states = new LinkedHashMap<>();
        int counted = 0;
        for (CellState state : CellState.values()) {
            int entries = state == CellState.UNTRANSLATED
                    ? listed.entries() - counted
                    : counts.getOrDefault(state, new Count(0, 0)).entries();
            counted += entries;
            states.put(state.word(), entries);
        }
        return states;
    }

    private LanguageName describe(LanguageTag tag) {
        Language language = languages.describe(tag);
        return new LanguageName(
                tag.value(), language.englishName(), language.ownName(), language.rightToLeft(), language.script());
    }

    record TableReply(
            long id,
            String slug,
            String name,
            LanguageName source,
            int entries,
            long words,
            List<LanguageReply> languages) {}

    record LanguageReply(LanguageName language, boolean settlesOwn, Map<String, Integer> states) {}

    record LanguageName(String tag, String englishName, String ownName, boolean rightToLeft, String script) {}
}
