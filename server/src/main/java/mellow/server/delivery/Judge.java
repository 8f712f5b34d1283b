package mellow.server.delivery;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mellow.core.language.LanguageTag;
import mellow.core.product.ProductLanguage;
import mellow.core.pseudo.Pretend;
import mellow.server.common.Coded;
import mellow.server.language.LanguageService;
import mellow.server.table.TableInfo;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Says what may go out, from counters and from what the checks keep of each text: five statements for any number of products, and the cost does not grow with the
 * texts that are in order.
 */
@Component
class Judge {

    private static final String ENTRIES =
            """
            select t.id, t.slug, t.name, t.entries, (select count(*)::int from entry e
                where e.table_id = t.id and e.removed_at is null and e.source = '' and e.shape <> 'asset') holes
            from ledger_table t where t.id = any(:tables)
            """;
    private static final String COUNTS = Coded.sql(
            """
            select c.table_id, c.language_id, sum(c.entries) filter (where c.state = {state.settled} or c.state = {state.stale})::int settled,
                sum(c.entries) filter (where c.state = {state.stale})::int stale, sum(c.entries) filter (where c.state = {state.offered})::int offers
            from coverage c where c.table_id = any(:tables) group by 1, 2
            """);
    private static final String BLOCKED = Coded.sql(
            """
            from finding_mask m
            join cell c on c.entry_id = m.entry_id and c.language_id = m.language_id and c.standing = {standing.settled}
            join entry e on e.id = m.entry_id and e.removed_at is null and e.translatable
            where m.table_id = any(:tables) and m.stops <> 0
            """);

    /** A text that is not settled would not go out, and one that is borrowed is seen all the same. */
    private static final String UNFIT = Coded.sql(
            """
            select s.product_id, f.language_id, count(distinct f.entry_id)::int n from scene_finding f join scene s on s.id = f.scene_id and s.removed_at is null
            left join cell c on c.entry_id = f.entry_id and c.language_id = f.language_id
            where f.wrong and (c.text is null or c.standing = {standing.settled})
              and s.product_id in (select u.product_id from product_table u where u.table_id = any(:tables)) group by 1, 2
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

    /** What may go out. */
    record Judgement(List<SourceHole> holes, List<LanguageVerdict> languages) {

        static final Judgement NOTHING = new Judgement(List.of(), List.of());
    }

    private record Place(long table, int language) {}

    private record InProduct(long product, int language) {}

    private record OfTable(int entries, SourceHole hole) {}

    private record Counted(int settled, int stale, int offers) {

        static final Counted NONE = new Counted(0, 0, 0);
    }

    /** What there is in some tables. */
    final class Look {
        private final Map<Long, OfTable> tables = new HashMap<>();
        private final Map<Place, Counted> counted = new HashMap<>();
        private final Map<Place, Integer> blocked = new HashMap<>();
        private final Map<InProduct, Integer> unfit = new HashMap<>();

        private Look(Long[] numbers) {
            jdbc.sql(ENTRIES).param("tables", numbers).query(row -> {
                tables.put(
                        row.getLong("id"),
                        new OfTable(
                                row.getInt("entries"),
                                new SourceHole(row.getString("slug"), row.getString("name"), row.getInt("holes"))));
            });
            jdbc.sql(COUNTS).param("tables", numbers).query(row -> {
                counted.put(
                        new Place(row.getLong("table_id"), row.getInt("language_id")),
                        new Counted(row.getInt("settled"), row.getInt("stale"), row.getInt("offers")));
            });
            jdbc.sql("select m.table_id, m.language_id, count(*)::int n " + BLOCKED + " group by 1, 2")
                    .param("tables", numbers)
                    .query(row -> {
                        blocked.put(new Place(row.getLong("table_id"), row.getInt("language_id")), row.getInt("n"));
                    });
            jdbc.sql(UNFIT).param("tables", numbers).query(row -> {
                unfit.put(new InProduct(row.getLong("product_id"), row.getInt("language_id")), row.getInt("n"));
            });
        }

        /** What may go out of a product of these tables. */
        Judgement judge(Product product, Gates gates) {
            List<SourceHole> holes = product.tables().stream()
                    .map(table -> Objects.requireNonNull(tables.get(table.id())).hole)
                    .filter(hole -> hole.entries > 0)
                    .toList();
            List<LanguageVerdict> verdicts = new ArrayList<>();
            for (ProductLanguage one : product.languages().all()) {
                Gates.LanguageCounts counts = counts(product, one.tag());
                Gates.Verdict verdict = gates.of(counts);
                verdicts.add(new LanguageVerdict(
                        one.tag().value(),
                        verdict.answer(),
                        counts,
                        verdict.reasons(),
                        one.tag().equals(product.languages().start())));
            }
            return new Judgement(holes, verdicts);
        }

        /** What there is in a language. */
        Gates.LanguageCounts counts(Product product, LanguageTag tag) {
            int number = languages.known(tag).orElse(LanguageService.NONE);
            int entries = 0;
            boolean pretend = Pretend.of(tag).isPresent();
            int settled = 0;
            int stale = 0;
            int offers = 0;
            int stopped = 0;
            for (TableInfo table : product.tables()) {
                int there = Objects.requireNonNull(tables.get(table.id())).entries;
                Place place = new Place(table.id(), number);
                Counted here = counted.getOrDefault(place, Counted.NONE);
                entries += there;
                // A table says everything in the language that it is written in, and a pretend one is made of that.
                settled += table.source().equals(tag) || pretend ? there : here.settled;
                stale += here.stale;
                offers += here.offers;
                stopped += blocked.getOrDefault(place, 0);
            }
            int seen = unfit.getOrDefault(new InProduct(product.id(), number), 0);
            return new Gates.LanguageCounts(entries, settled, stale, stopped, seen, offers);
        }
    }

    /** Looks at tables. */
    Look at(Collection<TableInfo> tables) {
        return new Look(numbers(tables));
    }

    /** What would break in a product's tables, by language. */
    Map<LanguageTag, Set<Long>> blocked(Product product) {
        Map<LanguageTag, Set<Long>> blocked = new HashMap<>();
        jdbc.sql("select m.language_id, m.entry_id " + BLOCKED)
                .param("tables", numbers(product.tables()))
                .query(row -> {
                    blocked.computeIfAbsent(languages.tag(row.getInt("language_id")), tag -> new HashSet<>())
                            .add(row.getLong("entry_id"));
                });
        return blocked;
    }

    private static Long[] numbers(Collection<TableInfo> tables) {
        return tables.stream().map(TableInfo::id).distinct().toArray(Long[]::new);
    }
}
