package mellow.server.memory;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import mellow.core.language.LanguageTag;
import mellow.core.memory.Similarity;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import mellow.server.people.Reading;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Searches everything settled so far for the same or a similar source. The database finds candidates, core says how alike they are. */
@Service
public class MemoryService {

    /** Less alike is more work than typing. */
    private static final int LEAST_PERCENT = 55;
    /** As many letters as the footnotes have room for. */
    private static final int MOST_HITS = 8;

    private static final String SOURCE =
            """
            select e.source, e.shape, t.source_language_id from entry e join ledger_table t on t.id = e.table_id where e.id = :entry
            """;
    /** Trigrams need a few letters to say anything; the threshold is set for the transaction. */
    private static final String CANDIDATES = Coded.sql(
            """
            with near as (
                (select id, source, key, table_id from entry where source = :source and removed_at is null limit 200)
                union
                (select id, source, key, table_id from entry where not unindexed and source % :source and removed_at is null limit 400))
            select n.id, n.key, n.source, t.name table_name, c.text, c.forms, c.changed_at
            from near n join ledger_table t on t.id = n.table_id and t.removed_at is null and t.source_language_id = :sourceLanguage
            join entry e on e.id = n.id and e.shape = :shape
            join cell c on c.entry_id = n.id and c.language_id = :language and c.state = {state.settled}
            where n.id <> :entry
            """);

    private static final String SAME = CANDIDATES.replaceFirst("(?s)union.*limit 400\\)\\)", ")");

    private final LanguageService languages;
    private final JdbcClient jdbc;
    private final Reading reading;

    MemoryService(LanguageService languages, JdbcClient jdbc, Reading reading) {
        this.languages = languages;
        this.jdbc = jdbc;
        this.reading = reading;
    }

    /**
     * A settled text of another entry.
     *
     * @param percent how alike the sources are; 100 for equal ones
     * @param table the name of its table
     * @param forms all its forms, null for a plain text
     */
    public record MemoryHit(
            int percent,
            long entry,
            String key,
            String table,
            String source,
            String text,
            @Nullable Map<String, String> forms) {}

    private record Asked(String source, String shape, int language) {}

    /** What was settled for sources like that of {@code entry}, the most alike first; each text once. */
    @Transactional(readOnly = true)
    public List<MemoryHit> hits(long entry, LanguageTag language) {
        Asked asked = jdbc.sql(SOURCE)
                .param("entry", entry)
                .query((row, n) -> new Asked(row.getString(1), row.getString(2), row.getInt(3)))
                .optional()
                .orElseThrow(Refusal::noSuchEntry);
        if (asked.shape().equals("asset") || !reading.reads(language)) {
            return List.of();
        }
        // The trigrams of a long source would be looked for in all others; who wrote as much before wrote the same.
        boolean searched = asked.source().length() <= Similarity.LONGEST;
        jdbc.sql("select set_config('pg_trgm.similarity_threshold', '0.4', true)")
                .query(String.class)
                .single();
        Similarity source = Similarity.to(asked.source());
        List<MemoryHit> found = new ArrayList<>(jdbc.sql(searched ? CANDIDATES : SAME)
                .param("source", asked.source())
                .param("sourceLanguage", asked.language())
                .param("shape", asked.shape())
                .param("language", languages.numberOrNone(language))
                .param("entry", entry)
                .query((row, n) -> new MemoryHit(
                        source.percent(row.getString("source")),
                        row.getLong("id"),
                        row.getString("key"),
                        row.getString("table_name"),
                        row.getString("source"),
                        row.getString("text"),
                        TextColumns.shown(row.getString("forms"))))
                .list());
        found.removeIf(hit -> hit.percent() < LEAST_PERCENT);
        found.sort(Comparator.comparingInt(MemoryHit::percent).reversed().thenComparing(MemoryHit::entry));
        List<MemoryHit> distinct = new ArrayList<>();
        for (MemoryHit hit : found) {
            boolean told = distinct.stream()
                    .anyMatch(
                            one -> one.text().equals(hit.text()) && one.source().equals(hit.source()));
            if (!told && distinct.size() < MOST_HITS) {
                distinct.add(hit);
            }
        }
        return List.copyOf(distinct);
    }
}
