package mellow.server.memory;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import mellow.core.language.LanguageTag;
import mellow.core.memory.Similarity;
import mellow.core.text.Shape;
import mellow.server.common.Coded;
import mellow.server.common.Refusal;
import mellow.server.common.TextColumns;
import mellow.server.language.LanguageService;
import mellow.server.memory.MemoryKeeper.Found;
import mellow.server.memory.MemoryKeeper.MemoryState;
import mellow.server.memory.ShelfUnits.ShelfHit;
import mellow.server.people.PeopleService;
import mellow.server.people.Reading;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Searches everything settled so far for the same or a similar source. The index finds candidates, or the database while it is not ready; core says how alike they are. */
@Service
public class MemoryService {

    /** Less alike is more work than typing. */
    private static final int LEAST_PERCENT = 55;

    private static final String PLAIN = Shape.PLAIN.word();

    /** As many sources are looked at for one that is filled. */
    private static final int MOST_CANDIDATES = 4;
    /** As many letters as the footnotes have room for. */
    private static final int MOST_HITS = 8;

    private static final String SOURCE =
            """
            select e.source, e.shape, t.source_language_id from entry e join ledger_table t on t.id = e.table_id where e.id = :entry
            """;
    private static final String SETTLED = Coded.sql(
            """
            select n.id, n.key, n.source, t.name table_name, c.text, c.forms, c.changed_at
            from near n join ledger_table t on t.id = n.table_id and t.removed_at is null and t.source_language_id = :sourceLanguage
            join entry e on e.id = n.id and e.shape = :shape
            join cell c on c.entry_id = n.id and c.language_id = :language and c.state = {state.settled}
            where n.id <> :entry
            """);
    private static final String SETTLED_OF_ALL = Coded.sql(
            """
            )
            select n.id, n.key, n.source, t.name table_name, c.text
            from near n join ledger_table t on t.id = n.table_id and t.removed_at is null
            join cell c on c.entry_id = n.id and c.language_id = :language and c.state = {state.settled}
            """);
    private static final String WITH = "with near as (";
    private static final String SAME =
            """
            (select id, source, key, table_id from entry where source = :source and removed_at is null limit 200)
            """;
    /** Trigrams need a few letters to say anything; the threshold is set for the transaction. */
    private static final String ALIKE = SAME
            + """
              union
              (select id, source, key, table_id from entry where not unindexed and source % :source and removed_at is null limit 400)
              """;

    private static final String KNOWN =
            "select id, source, key, table_id from entry where id = any(:known) and removed_at is null";

    private final MemoryKeeper keeper;
    private final LanguageService languages;
    private final PeopleService people;
    private final JdbcClient jdbc;
    private final Reading reading;
    private final ShelfUnits shelves;
    private final Contexts contexts;

    MemoryService(
            MemoryKeeper keeper,
            LanguageService languages,
            PeopleService people,
            JdbcClient jdbc,
            Reading reading,
            ShelfUnits shelves) {
        this.shelves = shelves;
        this.contexts = new Contexts(jdbc);
        this.people = people;
        this.keeper = keeper;
        this.languages = languages;
        this.jdbc = jdbc;
        this.reading = reading;
    }

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
        int number = languages.numberOrNone(language);
        Similarity source = Similarity.to(asked.source());
        Found known =
                keeper.search(asked.language(), asked.shape(), number, asked.source(), LEAST_PERCENT, MOST_HITS + 1);
        List<MemoryHit> found = new ArrayList<>(jdbc.sql(WITH + near(known, asked) + ") " + SETTLED)
                .param("source", asked.source())
                .param("known", known == null ? new Long[0] : known.entries().toArray(Long[]::new))
                .param("sourceLanguage", asked.language())
                .param("shape", asked.shape())
                .param("language", number)
                .param("entry", entry)
                .query((row, n) -> new MemoryHit(
                        source.percent(row.getString("source")),
                        row.getLong("id"),
                        0,
                        row.getString("key"),
                        row.getString("table_name"),
                        false,
                        row.getString("source"),
                        row.getString("text"),
                        TextColumns.shown(row.getString("forms")),
                        List.of()))
                .list());
        if (asked.shape().equals(PLAIN)) {
            List<ShelfHit> onShelves = known == null
                    ? shelves.alike(asked.source(), asked.language(), number)
                    : shelves.units(known.units(), number);
            onShelves.forEach(one -> found.add(one.hit(source)));
        }
        found.removeIf(hit -> hit.percent() < LEAST_PERCENT);
        contexts.mark(entry, asked.source(), found);
        found.sort(Comparator.comparingInt(MemoryHit::percent)
                .reversed()
                .thenComparing(hit -> !hit.sameContext())
                .thenComparing(hit -> hit.unit() > 0)
                // Units stay in the order of their shelves.
                .thenComparing(MemoryHit::entry));
        List<MemoryHit> distinct = new ArrayList<>();
        for (MemoryHit hit : found) {
            if (distinct.size() < MOST_HITS) {
                MemoryHit adapted = hit.adaptedTo(asked.source(), language);
                if (distinct.stream().noneMatch(adapted::saysLike)) {
                    distinct.add(adapted);
                }
            }
        }
        return List.copyOf(distinct);
    }

    /** A source that a text is wanted for. */
    public record Wanted(long entry, int sourceLanguage, String source) {}

    /**
     * The best settled text for each of several sources of plain entries: the most alike, of equally alike ones the text that most have, of those the newest.
     * Three statements whatever their number.
     *
     * @param least how alike, in percent
     * @return by the entries that it is wanted for; none for those that have none
     * @throws Refusal 503 while the index is not ready: one search in the database is quick, hundreds are not
     */
    @Transactional(readOnly = true)
    public Map<Long, MemoryHit> best(List<Wanted> wanted, LanguageTag language, int least) {
        int number = languages.numberOrNone(language);
        Map<Long, Found> candidates = new HashMap<>();
        Set<Long> entries = new HashSet<>();
        Set<Long> units = new HashSet<>();
        for (Wanted one : wanted) {
            Found known = keeper.search(one.sourceLanguage, PLAIN, number, one.source, least, MOST_CANDIDATES);
            if (known == null) {
                throw Refusal.busy("memory-not-ready", "The memory is still being read; try again in a moment.");
            }
            candidates.put(one.entry, known);
            entries.addAll(known.entries());
            units.addAll(known.units());
        }
        Map<Long, List<MemoryHit>> settled = new HashMap<>();
        jdbc.sql(WITH + KNOWN + SETTLED_OF_ALL)
                .param("known", entries.toArray(Long[]::new))
                .param("language", number)
                .query((row, n) -> new MemoryHit(
                        0,
                        row.getLong("id"),
                        0,
                        row.getString("key"),
                        row.getString("table_name"),
                        false,
                        row.getString("source"),
                        row.getString("text"),
                        null,
                        List.of()))
                .list()
                .forEach(hit -> settled.computeIfAbsent(hit.entry(), of -> new ArrayList<>())
                        .add(hit));
        Map<Long, ShelfHit> onShelves = new HashMap<>();
        shelves.units(units, number).forEach(one -> onShelves.put(one.unit(), one));
        Map<Long, MemoryHit> best = new HashMap<>();
        for (Wanted one : wanted) {
            Similarity source = Similarity.to(one.source);
            Found known = Objects.requireNonNull(candidates.get(one.entry));
            List<MemoryHit> hits = new ArrayList<>();
            known.entries().stream()
                    .filter(entry -> entry != one.entry)
                    .flatMap(entry -> settled.getOrDefault(entry, List.of()).stream())
                    .forEach(hit -> hits.add(hit.measured(source.percent(hit.source()))));
            known.units().stream()
                    .map(onShelves::get)
                    .filter(Objects::nonNull)
                    .sorted(Comparator.comparingInt(ShelfHit::rank).thenComparing(ShelfHit::unit))
                    .forEach(hit -> hits.add(hit.hit(source)));
            best(hits, least).ifPresent(hit -> best.put(one.entry, hit.adaptedTo(one.source, language)));
        }
        return best;
    }

    private static Optional<MemoryHit> best(List<MemoryHit> hits, int least) {
        Map<String, Integer> often = new HashMap<>();
        List<MemoryHit> enough =
                hits.stream().filter(hit -> hit.percent() >= least).toList();
        enough.forEach(hit -> often.merge(hit.percent() + hit.text(), 1, Integer::sum));
        // Units of shelves stay in their order: the first of equal ones is taken.
        return enough.stream()
                .min(Comparator.comparingInt(MemoryHit::percent)
                        .reversed()
                        .thenComparing(hit -> hit.unit() > 0)
                        .thenComparing(hit -> hit.unit() > 0 ? 0 : -often.getOrDefault(hit.percent() + hit.text(), 0))
                        .thenComparing(hit -> -hit.entry()));
    }

    /** How the memory is kept on this server, for coordinators. */
    @Transactional(readOnly = true)
    public MemoryState state(long person) {
        people.rights(person).requireCoordinator("look at the memory of the server");
        return keeper.state();
    }

    /** Where candidates come from: the index, or while it is not ready the database. */
    private String near(@Nullable Found known, Asked asked) {
        if (known != null) {
            return KNOWN;
        }
        if (asked.source().length() > Similarity.LONGEST) {
            // The trigrams of a long source would be looked for in all others; who wrote as much before wrote the same.
            return SAME;
        }
        jdbc.sql("select set_config('pg_trgm.similarity_threshold', '0.4', true)")
                .query(String.class)
                .single();
        return ALIKE;
    }
}
