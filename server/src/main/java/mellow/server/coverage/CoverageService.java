package mellow.server.coverage;

import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.cell.CellState;
import mellow.server.common.Coded;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Keeps the counters of states in the transaction that changes the cells. Untranslated is what the table has and no counter covers. */
@Service
public class CoverageService {

    /** Always in one order, so that two people changing cells never wait for each other in a circle. */
    private static final String ADD =
            """
            insert into coverage (table_id, language_id, state, entries, words)
            select * from unnest(cast(:tables as bigint[]), cast(:languages as int[]), cast(:states as smallint[]), cast(:entries as int[]), cast(:words as bigint[]))
            order by 1, 2, 3
            on conflict (table_id, language_id, state)
            do update set entries = coverage.entries + excluded.entries, words = coverage.words + excluded.words
            """;

    private static final String FORGET = "delete from coverage where table_id = :table";
    private static final String RECOUNT = Coded.sql(
            """
            insert into coverage (table_id, language_id, state, entries, words)
            select e.table_id, c.language_id, c.state, count(*), sum(e.words)
            from entry e join cell c on c.entry_id = e.id
            where e.table_id = :table and e.removed_at is null and e.translatable and c.state <> {state.untranslated}
            group by e.table_id, c.language_id, c.state
            """);
    private static final String COUNTED = Coded.sql(
            """
            select e.table_id, c.language_id, c.state, count(*) entries, sum(e.words) words
            from entry e join cell c on c.entry_id = e.id
            where e.id = any(:entries) and e.removed_at is null and e.translatable and c.state <> {state.untranslated}
            group by e.table_id, c.language_id, c.state
            """);
    private static final String COUNTED_TABLES =
            """
            select table_id, count(*) entries, sum(words) words from entry
            where id = any(:entries) and removed_at is null and translatable group by table_id
            """;
    private static final String ALL = "select table_id, language_id, state, entries, words from coverage";
    private static final String NOTE_DAY = Coded.sql(
            """
            insert into coverage_day (table_id, language_id, day, entries, words)
            select t.id, l.language_id, :day, t.entries - coalesce(c.entries, 0), t.words - coalesce(c.words, 0)
            from ledger_table t
            join table_language l on l.table_id = t.id and l.archived_at is null
            left join coverage c on c.table_id = t.id and c.language_id = l.language_id and c.state = {state.settled}
            where t.removed_at is null
            on conflict (table_id, language_id, day) do update set entries = excluded.entries, words = excluded.words
            """);
    private static final String DAYS =
            "select table_id, language_id, day, entries, words from coverage_day where day >= :from order by day";

    /** Up to so many entries are counted by themselves; where more change, counting their whole table anew is less work. */
    public static final int FEW = 20_000;

    private static final List<CellState> STATES = List.of(CellState.values());

    private final TableTotals totals;
    private final JdbcClient jdbc;
    private final Clock clock;

    CoverageService(TableTotals totals, JdbcClient jdbc, Clock clock) {
        this.totals = totals;
        this.jdbc = jdbc;
        this.clock = clock;
    }

    /** Collects how cells move between states, to be counted in one statement. */
    public static final class Moves {
        private final Map<Counter, Count> changes = new TreeMap<>();

        private record Counter(long table, int language, CellState state) implements Comparable<Counter> {
            @Override
            public int compareTo(Counter other) {
                int byTable = Long.compare(table, other.table);
                int byLanguage = byTable != 0 ? byTable : Integer.compare(language, other.language);
                return byLanguage != 0 ? byLanguage : state.compareTo(other.state);
            }
        }

        /** A cell of an entry of {@code words} words goes from one state to another. */
        public void moved(long table, int language, CellState before, CellState after, int words) {
            if (before != after) {
                add(new Counter(table, language, before), -1, -words);
                add(new Counter(table, language, after), 1, words);
            }
        }

        private void add(Counter counter, int entries, long words) {
            if (counter.state != CellState.UNTRANSLATED) {
                changes.merge(counter, new Count(entries, words), Count::plus);
            }
        }
    }

    /** Counts {@code moves}. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void count(Moves moves) {
        moves.changes.values().removeIf(Count::none);
        if (moves.changes.isEmpty()) {
            return;
        }
        Collection<Moves.Counter> at = moves.changes.keySet();
        jdbc.sql(ADD)
                .param("tables", at.stream().map(Moves.Counter::table).toArray(Long[]::new))
                .param("languages", at.stream().map(Moves.Counter::language).toArray(Integer[]::new))
                .param(
                        "states",
                        at.stream().map(one -> (short) one.state().ordinal()).toArray(Short[]::new))
                .param(
                        "entries",
                        moves.changes.values().stream().map(Count::entries).toArray(Integer[]::new))
                .param(
                        "words",
                        moves.changes.values().stream().map(Count::words).toArray(Long[]::new))
                .update();
    }

    /** Does something to {@code entries} that may change where and how they count: their table, words, states of cells, whether they are there at all. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void around(Collection<Long> entries, Runnable change) {
        Long[] ids = entries.toArray(Long[]::new);
        Moves moves = new Moves();
        SortedMap<Long, Count> totals = new TreeMap<>();
        look(ids, -1, moves, totals);
        change.run();
        look(ids, 1, moves, totals);
        count(moves);
        add(totals);
    }

    /**
     * The same in one table.
     *
     * @param entries those concerned; when they are more than {@link #FEW}, any of them and at least one more than that
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public void around(long table, Collection<Long> entries, Runnable change) {
        if (entries.isEmpty()) {
            change.run();
        } else if (entries.size() <= FEW) {
            around(entries, change);
        } else {
            anew(table, change);
        }
    }

    /** Does something to any entries of a table, asking nothing before, and counts the table anew. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void anew(long table, Runnable change) {
        change.run();
        recount(table);
    }

    /** Entries without any cell came to a table. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void entriesCame(Collection<Long> entries) {
        SortedMap<Long, Count> totals = new TreeMap<>();
        look(entries.toArray(Long[]::new), 1, new Moves(), totals);
        add(totals);
    }

    /** Adds up where {@code entries} count now. Holds no counter: those are changed last of all, in one order. */
    private void look(Long[] entries, int sign, Moves moves, Map<Long, Count> totals) {
        jdbc.sql(COUNTED).param("entries", entries).query((RowCallbackHandler) row -> moves.add(
                new Moves.Counter(row.getLong("table_id"), row.getInt("language_id"), STATES.get(row.getInt("state"))),
                sign * row.getInt("entries"),
                sign * row.getLong("words")));
        jdbc.sql(COUNTED_TABLES).param("entries", entries).query((RowCallbackHandler) row -> totals.merge(
                row.getLong("table_id"),
                new Count(sign * row.getInt("entries"), sign * row.getLong("words")),
                Count::plus));
    }

    private void add(SortedMap<Long, Count> moved) {
        moved.values().removeIf(Count::none);
        if (moved.isEmpty()) {
            return;
        }
        totals.add(moved);
    }

    private void recount(long table) {
        jdbc.sql(FORGET).param("table", table).update();
        jdbc.sql(RECOUNT).param("table", table).update();
        totals.recount(table);
    }

    /** All counters, by table and language. */
    @Transactional(readOnly = true)
    public Map<Place, Map<CellState, Count>> all() {
        Map<Place, Map<CellState, Count>> counts = new HashMap<>();
        jdbc.sql(ALL).query(row -> {
            Place place = new Place(row.getLong("table_id"), row.getInt("language_id"));
            counts.computeIfAbsent(place, p -> new HashMap<>())
                    .put(STATES.get(row.getInt("state")), new Count(row.getInt("entries"), row.getLong("words")));
        });
        return counts;
    }

    /** Notes what is left to settle today; the last note of a day stays. */
    @Transactional
    public void noteDay() {
        LocalDate day = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
        jdbc.sql(NOTE_DAY).param("day", day).update();
    }

    /** What was left to settle, by day, from {@code from} on. */
    @Transactional(readOnly = true)
    public List<Left> days(LocalDate from) {
        return jdbc.sql(DAYS)
                .param("from", from)
                .query((row, n) -> new Left(
                        new Place(row.getLong("table_id"), row.getInt("language_id")),
                        row.getObject("day", LocalDate.class),
                        new Count(row.getInt("entries"), row.getLong("words"))))
                .list();
    }

    /**
     * Where something is counted.
     *
     * @param table the table's number
     * @param language the language's number
     */
    public record Place(long table, int language) {}

    /**
     * How much there is.
     *
     * @param entries number of entries
     * @param words number of source words in them
     */
    public record Count(int entries, long words) {

        Count plus(Count other) {
            return new Count(entries + other.entries, words + other.words);
        }

        boolean none() {
            return entries == 0 && words == 0;
        }
    }

    /**
     * What was left to settle at the end of a day.
     *
     * @param left entries and words not settled
     */
    public record Left(Place place, LocalDate day, Count left) {}
}
