package mellow.server.fill;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.core.memory.Adaptation.Substitution;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.language.LanguageService;
import mellow.server.memory.MemoryService;
import mellow.server.memory.MemoryService.MemoryHit;
import mellow.server.memory.MemoryService.Wanted;
import mellow.server.people.Reading;
import mellow.server.sheet.SheetService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Finds texts for the untranslated cells of a scope. What is ticked then goes through the same doors as any other change. */
@Service
public class FillService {

    /** More would not be looked through by anybody. */
    private static final int MOST_HITS = 2_000;
    /** A few seconds with a large memory. */
    private static final int MOST_LOOKED_AT = 5_000;

    private static final int AT_ONCE = 500;
    private static final String UNTRANSLATED = Coded.sql(
            """
            select e.id, e.key, e.source, t.source_language_id, coalesce(c.version, 0) as version
            from entry e join ledger_table t on t.id = e.table_id join language l on l.id = :language
            join table_language k on k.table_id = e.table_id and k.language_id = l.id
            left join cell c on c.entry_id = e.id and c.language_id = l.id
            where e.id = any(:ids) and e.removed_at is null and e.translatable and e.shape = 'plain' and e.source <> ''
              and coalesce(c.state, {state.untranslated}) = {state.untranslated}
            """);

    private final SheetService sheet;
    private final MemoryService memory;
    private final LanguageService languages;
    private final Reading reading;
    private final JdbcClient jdbc;

    FillService(SheetService sheet, MemoryService memory, LanguageService languages, Reading reading, JdbcClient jdbc) {
        this.sheet = sheet;
        this.memory = memory;
        this.languages = languages;
        this.reading = reading;
        this.jdbc = jdbc;
    }

    /**
     * A text for an untranslated cell.
     *
     * @param version of the cell
     * @param percent how alike the source is that it was settled for
     * @param from the key of the entry that has it
     * @param table the name of that entry's table
     * @param otherSource what it was settled for
     * @param adapted the placeholders and numbers that were put in the place of others
     */
    public record FillHit(
            long entry,
            String key,
            int version,
            String source,
            String text,
            int percent,
            String from,
            String table,
            String otherSource,
            List<Substitution> adapted) {}

    /**
     * What would be filled.
     *
     * @param hits in the order of the scope
     * @param untranslated how many untranslated texts were looked at
     * @param next where in the scope to go on, as only so many are looked at at once; null at its end
     */
    public record Fill(List<FillHit> hits, int untranslated, @Nullable Integer next) {}

    private record Empty(long id, String key, String source, int sourceLanguage, int version) {}

    /**
     * Looks through a scope.
     *
     * @param scope the scope's query string
     * @param least how alike a source must be, in percent; 100 for the same
     * @param first where in the scope to begin, 0 for its beginning
     */
    @Transactional(readOnly = true)
    public Fill find(String scope, LanguageTag language, int least, int first) {
        if (!reading.reads(language)) {
            throw Refusal.forbidden(
                    "own-languages-only",
                    "{language} is none of your languages.",
                    Map.of("language", language.value()));
        }
        List<Long> ids = sheet.entries(scope);
        List<FillHit> hits = new ArrayList<>();
        int looked = 0;
        for (int from = first; from < ids.size(); from += AT_ONCE) {
            if (hits.size() >= MOST_HITS || looked >= MOST_LOOKED_AT) {
                return new Fill(hits, looked, from);
            }
            List<Long> some = ids.subList(from, Math.min(ids.size(), from + AT_ONCE));
            Map<Long, Empty> empty = new HashMap<>();
            jdbc.sql(UNTRANSLATED)
                    .param("ids", some.toArray(Long[]::new))
                    .param("language", languages.numberOrNone(language))
                    .query((row, n) -> new Empty(
                            row.getLong("id"),
                            row.getString("key"),
                            row.getString("source"),
                            row.getInt("source_language_id"),
                            row.getInt("version")))
                    .list()
                    .forEach(one -> empty.put(one.id, one));
            looked += empty.size();
            Map<Long, MemoryHit> best = memory.best(
                    empty.values().stream()
                            .map(one -> new Wanted(one.id, one.sourceLanguage, one.source))
                            .toList(),
                    language,
                    least);
            for (Long id : some) {
                Empty one = empty.get(id);
                MemoryHit hit = best.get(id);
                if (one != null && hit != null) {
                    hits.add(hit(one, hit));
                }
            }
        }
        return new Fill(hits, looked, null);
    }

    private static FillHit hit(Empty one, MemoryHit hit) {
        return new FillHit(
                one.id,
                one.key,
                one.version,
                one.source,
                hit.text(),
                hit.percent(),
                hit.key(),
                hit.table(),
                hit.source(),
                hit.adapted());
    }
}
