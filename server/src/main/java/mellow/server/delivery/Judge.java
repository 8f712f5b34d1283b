package mellow.server.delivery;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguage;
import mellow.server.common.Coded;
import mellow.server.language.LanguageService;
import mellow.server.table.TableInfo;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Says what may go out, from counters and from what the checks keep of each text: the cost does not grow with the texts that are in order. */
@Component
class Judge {

    private static final String WHOLE =
            """
            select t.slug, t.name, count(*)::int n from entry e join ledger_table t on t.id = e.table_id
            where e.table_id = any(:tables) and e.removed_at is null and e.source = '' and e.shape <> 'asset' group by 1, 2 order by 2
            """;
    private static final String COUNTS = Coded.sql(
            """
            select c.language_id, sum(c.entries) filter (where c.state = {state.settled} or c.state = {state.stale})::int settled,
                sum(c.entries) filter (where c.state = {state.stale})::int stale, sum(c.entries) filter (where c.state = {state.offered})::int offers
            from coverage c where c.table_id = any(:tables) group by 1
            """);
    private static final String BLOCKED = Coded.sql(
            """
            select m.language_id, m.entry_id from finding_mask m
            join cell c on c.entry_id = m.entry_id and c.language_id = m.language_id and c.standing = {standing.settled}
            join entry e on e.id = m.entry_id and e.removed_at is null and e.translatable
            where m.table_id = any(:tables) and m.language_id = any(:languages) and m.stops <> 0
            """);

    private final LanguageService languages;
    private final JdbcClient jdbc;

    Judge(LanguageService languages, JdbcClient jdbc) {
        this.languages = languages;
        this.jdbc = jdbc;
    }

    /** Entries of a table without a source. */
    record SourceHole(String table, String tableName, int entries) {}

    /**
     * What is said of a language.
     *
     * @param answer yes, held or stop
     */
    record LanguageVerdict(
            String language,
            String answer,
            Gates.LanguageCounts counts,
            List<Gates.GateReason> reasons,
            boolean start) {}

    /**
     * What may go out.
     *
     * @param blocked what would break, by language
     */
    record Judgement(List<SourceHole> holes, List<LanguageVerdict> languages, Map<LanguageTag, Set<Long>> blocked) {

        boolean held(LanguageTag tag) {
            return languages.stream()
                    .anyMatch(one ->
                            one.language().equals(tag.value()) && one.answer().equals("held"));
        }
    }

    Judgement of(Product product, Gates gates) {
        Long[] tables = product.tables().stream().map(TableInfo::id).toArray(Long[]::new);
        List<SourceHole> holes = jdbc.sql(WHOLE)
                .param("tables", tables)
                .query((row, n) -> new SourceHole(row.getString("slug"), row.getString("name"), row.getInt("n")))
                .list();
        Map<Integer, int[]> counts = new HashMap<>();
        jdbc.sql(COUNTS).param("tables", tables).query(row -> {
            counts.put(
                    row.getInt("language_id"),
                    new int[] {row.getInt("settled"), row.getInt("stale"), row.getInt("offers")});
        });
        int entries = jdbc.sql("select coalesce(sum(entries), 0)::int from ledger_table where id = any(:tables)")
                .param("tables", tables)
                .query(Integer.class)
                .single();
        Integer[] numbers = product.languages().all().stream()
                .flatMap(one -> languages.known(one.tag()).stream())
                .toArray(Integer[]::new);
        Map<LanguageTag, Set<Long>> blocked = new LinkedHashMap<>();
        jdbc.sql(BLOCKED).param("tables", tables).param("languages", numbers).query(row -> {
            blocked.computeIfAbsent(languages.tag(row.getInt("language_id")), tag -> new HashSet<>())
                    .add(row.getLong("entry_id"));
        });
        List<LanguageVerdict> verdicts = new ArrayList<>();
        for (ProductLanguage one : product.languages().all()) {
            int[] of = counts.getOrDefault(languages.known(one.tag()).orElse(-1), new int[3]);
            boolean source =
                    product.tables().stream().allMatch(table -> table.source().equals(one.tag()));
            Gates.LanguageCounts told = new Gates.LanguageCounts(
                    entries,
                    source ? entries : of[0],
                    of[1],
                    blocked.getOrDefault(one.tag(), Set.of()).size(),
                    of[2]);
            Gates.Verdict verdict = gates.of(told);
            verdicts.add(new LanguageVerdict(
                    one.tag().value(),
                    verdict.answer(),
                    told,
                    verdict.reasons(),
                    one.tag().equals(product.languages().start())));
        }
        return new Judgement(holes, verdicts, blocked);
    }
}
