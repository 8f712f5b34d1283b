package mellow.server.check;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.SortedMap;
import java.util.TreeSet;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import mellow.core.check.Kind;
import mellow.core.check.Weight;
import mellow.server.check.Exceptions.Allowed;
import mellow.server.check.MaskReader.Found;
import mellow.server.check.MaskReader.Which;
import mellow.server.common.TextColumns;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Keeps what is found in texts beside them. Whoever changes texts, sources, limits or what counts as an entry calls this in the same transaction, after the
 * change. The outcome alone is looked at, so it makes no difference how the record came to be as it is.
 */
@Component
public class MaskKeeper {

    /** So many entries are done in one go, without a second thread. */
    private static final int AT_ONCE = 500;

    /** Texts are looked at while the database answers for the next ones and writes the former. */
    private static final ExecutorService LOOKING = Executors.newFixedThreadPool(2, work -> {
        Thread thread = new Thread(work, "mask-looking");
        thread.setDaemon(true);
        return thread;
    });
    /** A source that stands more often in a table is a word like "OK", which is said as each place needs it. */
    private static final int MOST_TWINS = 200;

    private static final long OTHERWISE = Kind.OTHERWISE.bit();

    /** What is kept of entries; most texts have nothing, and most that are looked at again have what they had. */
    private static final String KEPT =
            "select entry_id, language_id, table_id, stops, minds from finding_mask where entry_id = any(:entries)";

    /** What is written of texts that were looked at; whether a source is said differently elsewhere is kept as it is. */
    private static final String PUT =
            """
            merge into finding_mask m
            using (select * from unnest(:entries::bigint[], :languages::int[], :tables::bigint[], :stops::bigint[], :minds::bigint[])
                n(entry_id, language_id, table_id, stops, minds)) n
            on m.entry_id = n.entry_id and m.language_id = n.language_id
            when matched and n.stops = 0 and n.minds = 0 and m.twin is null then delete
            when matched and (m.stops, m.minds, m.table_id) is distinct from
                (n.stops | (m.stops & %1$d), n.minds | (m.minds & %1$d), n.table_id) then
                update set stops = n.stops | (m.stops & %1$d), minds = n.minds | (m.minds & %1$d), table_id = n.table_id
            when not matched and (n.stops <> 0 or n.minds <> 0) then
                insert (entry_id, language_id, table_id, stops, minds) values (n.entry_id, n.language_id, n.table_id, n.stops, n.minds)
            """
                    .formatted(OTHERWISE);

    /**
     * Each row is looked for in the index, whatever the planner believes of a table that grew within this transaction: it would read all of it for every few
     * entries. Each time planned anew: a plan that was kept from when the table was small goes through another index from its beginning to its end.
     */
    private static final String BY_INDEX =
            "select set_config('enable_hashjoin', :otherwise, true), set_config('enable_mergejoin', :otherwise, true), set_config('enable_seqscan', :otherwise, true), set_config('plan_cache_mode', :planned, true)";

    /**
     * Sources that the entries share with others now, or shared when they were last looked at. Each is looked for by its own step in the index, whatever the
     * planner believes of a table that was filled a moment ago: a join of all with all takes minutes.
     */
    private static final String TWINS =
            """
            select e.table_id, e.twin from unnest(:entries::bigint[]) n(id)
            cross join lateral (select table_id, md5(source) twin from entry
                where id = n.id and source <> '' and removed_at is null and translatable and shape = 'plain' offset 0) e
            cross join lateral (select from entry o where o.table_id = e.table_id and md5(o.source) = e.twin and o.id <> n.id
                and o.removed_at is null and o.translatable and o.shape = 'plain' limit 1) other
            union
            select m.table_id, m.twin from finding_mask m where m.entry_id = any(:entries) and m.twin is not null
            order by 1, 2
            """;
    /** So many are held one by one; of more all of their tables, since a database has room for some thousand locks. */
    private static final int FEW_TWINS = 200;

    private static final int TWINS_AT_ONCE = 500;

    private static final String HOLD_WITH_OTHERS =
            "select pg_advisory_xact_lock_shared(hashtextextended('all', t)) from (select distinct unnest(:tables::bigint[]) t order by 1) held";
    private static final String HOLD_ALONE =
            "select pg_advisory_xact_lock(hashtextextended('all', t)) from (select distinct unnest(:tables::bigint[]) t order by 1) held";
    /** Nobody else can change texts of the same source until this transaction ends, and what they changed before is seen by the next statement. */
    private static final String HOLD =
            "select pg_advisory_xact_lock(hashtextextended(twin, table_id)) from unnest(:tables::bigint[], :twins::text[]) t(table_id, twin)";

    private static final String SAID =
            """
            with shared as (select * from unnest(:tables::bigint[], :twins::text[]) t(table_id, twin)),
            -- By themselves and once: a plan from when there were no texts would look for them again for each text.
            e as materialized (
                select e.*, s.twin from shared s
                cross join lateral (select id, table_id, source, context, note from entry
                    where table_id = s.table_id and md5(source) = s.twin and removed_at is null and translatable and shape = 'plain' offset 0) e),
            said as (
                select e.id entry_id, c.language_id, e.table_id, e.twin, e.source, c.text,
                    min(c.text) over same is distinct from max(c.text) over same and count(*) over (partition by e.table_id, e.twin, c.language_id) <= %1$d otherwise
                from e
                join cell c on c.entry_id = e.id and c.text is not null and (:languages::int[] is null or c.language_id = any(:languages))
                window same as (partition by e.table_id, e.source, e.context, e.note, c.language_id)),
            before as (select m.entry_id, m.language_id, m.table_id, m.twin from finding_mask m join shared s on s.table_id = m.table_id and s.twin = m.twin
                where :languages::int[] is null or m.language_id = any(:languages))
            select coalesce(s.entry_id, b.entry_id) entry_id, coalesce(s.language_id, b.language_id) language_id, coalesce(s.table_id, b.table_id) table_id,
                coalesce(s.twin, b.twin) twin, coalesce(s.otherwise, false) otherwise, s.source, s.text
            from said s full join before b on b.entry_id = s.entry_id and b.language_id = s.language_id
            where s.otherwise or b.entry_id is not null
            order by 1, 2
            """
                    .formatted(MOST_TWINS);
    private static final String SAY =
            """
            merge into finding_mask m
            using (select * from unnest(:entries::bigint[], :languages::int[], :tables::bigint[], :twins::text[], :stops::bigint[], :minds::bigint[])
                n(entry_id, language_id, table_id, twin, stops, minds)) n
            on m.entry_id = n.entry_id and m.language_id = n.language_id
            when matched and n.twin is null and (m.stops & ~%1$d) = 0 and (m.minds & ~%1$d) = 0 then delete
            when matched and (m.twin, m.stops, m.minds) is distinct from (n.twin, (m.stops & ~%1$d) | n.stops, (m.minds & ~%1$d) | n.minds) then
                update set twin = n.twin, stops = (m.stops & ~%1$d) | n.stops, minds = (m.minds & ~%1$d) | n.minds
            when not matched and n.twin is not null then
                insert (entry_id, language_id, table_id, stops, minds, twin) values (n.entry_id, n.language_id, n.table_id, n.stops, n.minds, n.twin)
            """
                    .formatted(OTHERWISE);

    /** A kind that counts otherwise now is moved where it was found; nothing has to be looked at for that. */
    private static final String MOVE =
            """
            update finding_mask set
                stops = case when :weight = 'stop' then stops | ((stops | minds) & :bit) else stops & ~:bit::bigint end,
                minds = case when :weight = 'mind' then minds | ((stops | minds) & :bit) else minds & ~:bit::bigint end,
                twin = case when :weight = 'off' and :bit = %d then null else twin end
            where table_id = :table and (stops | minds) & :bit <> 0 and not (:weight = 'off' and (stops | minds) & ~:bit::bigint = 0)
            """
                    .formatted(Kind.OTHERWISE.bit());

    private static final String FORGET =
            "delete from finding_mask where table_id = :table and (stops | minds) & ~:bit::bigint = 0";

    private final JdbcClient jdbc;

    MaskKeeper(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Looks at the sources of entries and all their texts anew, and at the texts of other entries with the same sources. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void ofEntries(Collection<Long> entries) {
        of(entries, Which.ALL);
    }

    /** Looks at the sources of entries anew, by themselves, and at their keys. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void ofSources(Collection<Long> entries) {
        of(entries, Which.SOURCES);
    }

    /** The same for texts in some languages, whose sources did not change. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void ofTexts(Collection<Long> entries, Collection<Integer> languages) {
        of(entries, Which.in(languages));
    }

    /** The same for those that {@code look} is about, by what it has read already. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void ofTexts(Inspector.Look look, Collection<Long> entries, Collection<Integer> languages) {
        List<Long> some = List.copyOf(new TreeSet<>(entries));
        if (some.isEmpty()) {
            return;
        }
        few(some, Which.in(languages), look.grounds());
    }

    /** The same as {@link #ofEntries} for all entries that an intake touched. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void ofIntake(long intake) {
        ofEntries(entriesOf(intake));
    }

    /** The entries that an intake touched. */
    public List<Long> entriesOf(long intake) {
        return jdbc.sql("select entry_id from intake_entry where intake_id = :intake order by entry_id")
                .param("intake", intake)
                .query(Long.class)
                .list();
    }

    /** A kind counts otherwise in a table now; one that was not looked for before has to be looked for besides. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void moved(long table, Kind kind, Weight weight) {
        if (weight == Weight.OFF) {
            jdbc.sql(FORGET).param("table", table).param("bit", kind.bit()).update();
        }
        jdbc.sql(MOVE)
                .param("table", table)
                .param("weight", weight.word())
                .param("bit", kind.bit())
                .update();
    }

    private void of(Collection<Long> entries, Which which) {
        Grounds grounds = new Grounds(jdbc);
        List<Long> inOrder = List.copyOf(new TreeSet<>(entries));
        if (inOrder.size() > AT_ONCE) {
            many(inOrder, which, grounds);
        } else if (!inOrder.isEmpty()) {
            few(inOrder, which, grounds);
        }
    }

    /** One after the other, in as few statements as can be: somebody waits for it. */
    private void few(List<Long> inOrder, Which which, Grounds grounds) {
        Shared shared = which.texts() ? hold(inOrder) : new Shared(List.of(), List.of());
        List<Found> found = new MaskReader(jdbc, grounds).of(inOrder, which);
        if (!found.isEmpty()) {
            merge(found);
        }
        say(shared, which, grounds);
    }

    private void many(List<Long> inOrder, Which which, Grounds grounds) {
        MaskReader reader = new MaskReader(jdbc, grounds);
        Shared shared = which.texts() ? hold(inOrder) : new Shared(List.of(), List.of());
        byIndex(true);
        Future<List<Found>> looking = null;
        try {
            for (int from = 0; from < inOrder.size(); from += AT_ONCE) {
                List<Long> some = inOrder.subList(from, Math.min(inOrder.size(), from + AT_ONCE));
                Future<List<Found>> next = LOOKING.submit(reader.read(some, which)::look);
                if (looking != null) {
                    put(found(looking));
                }
                looking = next;
            }
            if (looking != null) {
                put(found(looking));
            }
        } finally {
            if (looking != null) {
                looking.cancel(true);
            }
        }
        say(shared, which, grounds);
        byIndex(false);
    }

    private static List<Found> found(Future<List<Found>> looking) {
        try {
            return looking.get();
        } catch (ExecutionException failed) {
            throw failed.getCause() instanceof RuntimeException cause ? cause : new IllegalStateException(failed);
        } catch (InterruptedException ending) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("interrupted while texts were looked at", ending);
        }
    }

    /** Which text, and what was found in it but for sources that are said differently. */
    private record Kept(long table, long stops, long minds) {}

    private record Place(long entry, int language) {}

    private void put(List<Found> found) {
        Map<Place, Kept> kept = kept(found);
        List<Found> changed = found.stream()
                .filter(one -> {
                    Kept now = new Kept(
                            one.table(), one.masks().stops(), one.masks().minds());
                    Kept before = kept.get(new Place(one.entry(), one.language()));
                    return before == null ? now.stops != 0 || now.minds != 0 : !before.equals(now);
                })
                .toList();
        if (!changed.isEmpty()) {
            merge(changed);
        }
    }

    private Map<Place, Kept> kept(List<Found> found) {
        Map<Place, Kept> kept = new HashMap<>();
        jdbc.sql(KEPT)
                .param("entries", found.stream().map(Found::entry).distinct().toArray(Long[]::new))
                .query((RowCallbackHandler) row -> kept.put(
                        new Place(row.getLong("entry_id"), row.getInt("language_id")),
                        new Kept(
                                row.getLong("table_id"),
                                row.getLong("stops") & ~OTHERWISE,
                                row.getLong("minds") & ~OTHERWISE)));
        return kept;
    }

    private void merge(List<Found> found) {
        int n = found.size();
        Long[] entries = new Long[n];
        Integer[] languages = new Integer[n];
        Long[] tables = new Long[n];
        Long[] stops = new Long[n];
        Long[] minds = new Long[n];
        for (int i = 0; i < n; i++) {
            Found one = found.get(i);
            entries[i] = one.entry();
            languages[i] = one.language();
            tables[i] = one.table();
            stops[i] = one.masks().stops();
            minds[i] = one.masks().minds();
        }
        jdbc.sql(PUT)
                .param("entries", entries)
                .param("languages", languages)
                .param("tables", tables)
                .param("stops", stops)
                .param("minds", minds)
                .update();
    }

    /** Until this is said otherwise, or the transaction fails. */
    private void byIndex(boolean always) {
        jdbc.sql(BY_INDEX)
                .param("otherwise", always ? "off" : "on")
                .param("planned", always ? "force_custom_plan" : "auto")
                .query((RowCallbackHandler) row -> {
                    // It tells what was set.
                });
    }

    /** Sources that stand more than once, by table; held for this transaction. */
    private record Shared(List<Long> tables, List<String> twins) {

        Shared part(int from, int to) {
            return new Shared(tables.subList(from, to), twins.subList(from, to));
        }

        Long[] tableArray() {
            return tables.toArray(Long[]::new);
        }

        String[] twinArray() {
            return twins.toArray(String[]::new);
        }
    }

    /** First of all: two who change texts of one source at once meet here, and hold no rows yet that the other needs. */
    private Shared hold(List<Long> entries) {
        Shared shared = new Shared(new ArrayList<>(), new ArrayList<>());
        jdbc.sql(TWINS).param("entries", entries.toArray(Long[]::new)).query((RowCallbackHandler) row -> {
            shared.tables.add(row.getLong("table_id"));
            shared.twins.add(row.getString("twin"));
        });
        if (shared.twins.isEmpty()) {
            return shared;
        }
        boolean few = shared.twins.size() <= FEW_TWINS;
        lock(jdbc.sql(few ? HOLD_WITH_OTHERS : HOLD_ALONE).param("tables", shared.tableArray()));
        if (few) {
            lock(jdbc.sql(HOLD).param("tables", shared.tableArray()).param("twins", shared.twinArray()));
        }
        return shared;
    }

    private static void lock(JdbcClient.StatementSpec locks) {
        locks.query((RowCallbackHandler) row -> {
            // Each line is a lock that is held now.
        });
    }

    private void say(Shared shared, Which which, Grounds grounds) {
        for (int from = 0; from < shared.twins.size(); from += TWINS_AT_ONCE) {
            sayPart(shared.part(from, Math.min(shared.twins.size(), from + TWINS_AT_ONCE)), which, grounds);
        }
    }

    private void sayPart(Shared shared, Which which, Grounds grounds) {
        Said said = new Said();
        jdbc.sql(SAID)
                .param("tables", shared.tableArray())
                .param("twins", shared.twinArray())
                .param("languages", which.languages())
                .query((RowCallbackHandler) said::add);
        if (said.entries.isEmpty()) {
            return;
        }
        said.judge(
                said.twins.stream().allMatch(Objects::isNull)
                        ? Allowed.NONE
                        : new Exceptions(jdbc).of(said.entries.toArray(Long[]::new)),
                grounds);
        jdbc.sql(SAY)
                .param("entries", said.entries.toArray(Long[]::new))
                .param("languages", said.languages.toArray(Integer[]::new))
                .param("tables", said.tables.toArray(Long[]::new))
                .param("twins", said.twins.toArray(String[]::new))
                .param("stops", said.stops.toArray(Long[]::new))
                .param("minds", said.minds.toArray(Long[]::new))
                .update();
    }

    /** Columns of what is said differently, or was. */
    private static final class Said {
        private final List<Long> entries = new ArrayList<>();
        private final List<Integer> languages = new ArrayList<>();
        private final List<Long> tables = new ArrayList<>();
        private final List<@Nullable String> twins = new ArrayList<>();
        private final List<SortedMap<String, String>> sources = new ArrayList<>();
        private final List<SortedMap<String, String>> texts = new ArrayList<>();
        private final List<Long> stops = new ArrayList<>();
        private final List<Long> minds = new ArrayList<>();

        void add(ResultSet row) throws SQLException {
            entries.add(row.getLong("entry_id"));
            languages.add(row.getInt("language_id"));
            tables.add(row.getLong("table_id"));
            twins.add(row.getBoolean("otherwise") ? row.getString("twin") : null);
            sources.add(TextColumns.allForms(row.getString("source"), null));
            texts.add(TextColumns.allForms(row.getString("text"), null));
        }

        /** Where it does not count, or somebody said that it is right, there is nothing. */
        void judge(Allowed allowed, Grounds grounds) {
            for (int i = 0; i < entries.size(); i++) {
                Weight weight = grounds.settings(tables.get(i)).weight(Kind.OTHERWISE);
                boolean found = twins.get(i) != null
                        && weight != Weight.OFF
                        && !allowed.holds(
                                Kind.OTHERWISE, entries.get(i), languages.get(i), sources.get(i), texts.get(i));
                twins.set(i, found ? twins.get(i) : null);
                stops.add(found && weight == Weight.STOP ? OTHERWISE : 0L);
                minds.add(found && weight == Weight.MIND ? OTHERWISE : 0L);
            }
        }
    }
}
