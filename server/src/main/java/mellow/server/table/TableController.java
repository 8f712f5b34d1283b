package mellow.server.table;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mellow.core.cell.CellState;
import mellow.core.language.LanguageTag;
import mellow.server.coverage.CoverageService;
import mellow.server.coverage.CoverageService.Count;
import mellow.server.coverage.CoverageService.Place;
import mellow.server.language.LanguageName;
import mellow.server.language.LanguageService;
import mellow.server.people.SignedIn;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService.Listed;
import mellow.server.table.TableService.Removed;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
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

    /** Makes a table without entries. */
    @PostMapping
    @ResponseStatus(HttpStatus.CREATED)
    TableReply create(@Valid @RequestBody NewTable wanted, @AuthenticationPrincipal SignedIn me) {
        TableInfo made = tables.create(
                me.id(), wanted.name(), languages.parse(wanted.source()), languages.parse(wanted.languages()), false);
        return one(made.slug());
    }

    /** Changes a table's name, languages and their order. A language left out keeps its texts and can be added again. */
    @PutMapping("/{slug}")
    TableReply edit(
            @PathVariable String slug, @Valid @RequestBody TableEdit edit, @AuthenticationPrincipal SignedIn me) {
        TableInfo now = tables.find(slug);
        List<Kept> kept = edit.languages().stream().map(one -> kept(now, one)).toList();
        tables.edit(me.id(), slug, edit.version(), edit.name(), kept);
        return one(slug);
    }

    /** Takes a table out of sight; it can be put back. */
    @DeleteMapping("/{slug}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable String slug, @AuthenticationPrincipal SignedIn me) {
        tables.remove(me.id(), slug);
    }

    /** The removed tables. */
    @GetMapping("/removed")
    List<Removed> removed() {
        return tables.removed();
    }

    /** Puts a removed table back. */
    @PostMapping("/removed/{id}/put-back")
    TableReply putBack(@PathVariable long id, @AuthenticationPrincipal SignedIn me) {
        return one(tables.putBack(me.id(), id).slug());
    }

    private Kept kept(TableInfo now, KeptEdit edit) {
        LanguageTag tag = languages.parse(edit.tag());
        boolean before = now.language(tag).map(Kept::settlesDrafts).orElse(false);
        return new Kept(tag, 0, edit.settlesOwn(), Objects.requireNonNullElse(edit.settlesDrafts(), before));
    }

    private TableReply one(String slug) {
        return all().stream()
                .filter(table -> table.slug().equals(slug))
                .findFirst()
                .orElseThrow();
    }

    private TableReply reply(Listed listed, Map<Place, Map<CellState, Count>> counts) {
        TableInfo table = listed.table();
        List<LanguageReply> kept = table.languages().stream()
                .map(language -> reply(
                        listed, language, counts.getOrDefault(new Place(table.id(), language.number()), Map.of())))
                .toList();
        return new TableReply(
                table.id(),
                table.slug(),
                table.name(),
                LanguageName.of(languages.describe(table.source())),
                listed.entries(),
                listed.words(),
                kept,
                listed.version());
    }

    private LanguageReply reply(Listed listed, Kept language, Map<CellState, Count> counts) {
        Map<String, Integer> states = new LinkedHashMap<>();
        Map<String, Long> words = new LinkedHashMap<>();
        int entries = listed.entries();
        long left = listed.words();
        for (CellState state : CellState.values()) {
            Count count = state == CellState.UNTRANSLATED
                    ? new Count(entries, left)
                    : counts.getOrDefault(state, new Count(0, 0));
            entries -= count.entries();
            left -= count.words();
            states.put(state.word(), count.entries());
            words.put(state.word(), count.words());
        }
        return new LanguageReply(
                LanguageName.of(languages.describe(language.tag())),
                language.settlesOwn(),
                language.settlesDrafts(),
                states,
                words);
    }

    record NewTable(@NotBlank String name, @NotBlank String source, @NotNull List<@NotBlank String> languages) {}

    /**
     * A table's name and languages as they shall be.
     *
     * @param version the version that was seen
     * @param languages in order
     */
    record TableEdit(@Min(0) int version, @NotBlank String name, @NotNull List<@Valid KeptEdit> languages) {}

    /** @param settlesDrafts left out, it stays as it is */
    record KeptEdit(@NotBlank String tag, boolean settlesOwn, @Nullable Boolean settlesDrafts) {}

    record TableReply(
            long id,
            String slug,
            String name,
            LanguageName source,
            int entries,
            long words,
            List<LanguageReply> languages,
            int version) {}

    /**
     * A language that a table is kept in.
     *
     * @param states entries by state
     * @param words source words of them
     */
    record LanguageReply(
            LanguageName language,
            boolean settlesOwn,
            boolean settlesDrafts,
            Map<String, Integer> states,
            Map<String, Long> words) {}
}
