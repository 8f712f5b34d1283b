package mellow.server.memory;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import mellow.core.memory.MemoryIndex;
import mellow.core.memory.MemoryIndex.Hit;
import mellow.core.memory.MemoryIndex.Size;
import mellow.core.memory.MemoryIndex.Unit;
import mellow.core.text.Shape;
import mellow.server.common.Coded;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Keeps the index of everything settled, on each server for itself: built from the database once, then told by changes which entries to read again. It holds
 * what is there and not what happened, so nothing is lost where a change is told twice or two at a time. While it may lack something it is not ready, and
 * whoever searches asks the database.
 */
@Component
class MemoryKeeper implements LiveService.Ear {

    private static final Logger LOG = LoggerFactory.getLogger(MemoryKeeper.class);
    private static final int ENTRIES_AT_ONCE = 5_000;
    /** More of the heap is for others. */
    private static final double MOST_OF_HEAP = 0.25;

    private static final long REMOVED = -1;

    private static final String UNITS = Coded.sql(
            """
            select e.id, c.language_id, t.source_language_id, e.shape, e.source from entry e join ledger_table t on t.id = e.table_id and t.removed_at is null
            join cell c on c.entry_id = e.id and c.state = {state.settled}
            where e.id = any(:entries) and e.removed_at is null and e.shape <> 'asset' order by e.id
            """);

    private final JdbcClient jdbc;
    private final long mostBytes;
    private volatile MemoryIndex index = new MemoryIndex();
    private volatile boolean ready;
    private volatile boolean tooLarge;

    private final Object told = new Object();
    private final Set<Long> entries = new HashSet<>();
    private final Set<Long> tables = new HashSet<>();
    private boolean everything = true;
    /** The versions of the shelves as they were read last. */
    private final Map<Long, Long> read = new HashMap<>();

    @Autowired
    MemoryKeeper(JdbcClient jdbc, LiveService live) {
        this(jdbc, live, (long) (Runtime.getRuntime().maxMemory() * MOST_OF_HEAP));
    }

    /** @param mostBytes how large the index may become; a larger one is given up, and the database asked */
    MemoryKeeper(JdbcClient jdbc, LiveService live, long mostBytes) {
        this.jdbc = jdbc;
        this.mostBytes = mostBytes;
        live.attend(this);
    }

    /**
     * How the memory is kept on the server that is asked.
     *
     * @param ready whether it is searched; the database is, while it is built or where it would be too large
     * @param units settled texts
     * @param bytes of heap, roughly
     * @param mostBytes how large it may become
     */
    public record MemoryState(boolean ready, boolean tooLarge, int units, int sources, long bytes, long mostBytes) {}

    MemoryState state() {
        Size size = index.size();
        return new MemoryState(ready, tooLarge, size.units(), size.sources(), size.bytes(), mostBytes);
    }

    @Override
    public void changed(LiveChange change) {
        synchronized (told) {
            if (change.entries().isEmpty()) {
                tables.add(change.table());
            } else {
                entries.addAll(change.entries());
            }
        }
    }

    @Override
    public void missed() {
        synchronized (told) {
            everything = true;
            ready = false;
        }
    }

    /** Numbers of units of shelves have this bit, and else their own number; those of entries never reach it. */
    private static final long OF_SHELF = 1L << 62;

    /** The table by which changes of shelves are told: none has the number. */
    static final long SHELVES = 0;

    /** The number under which an entry's text in a language is known. */
    private static long unit(long entry, int language) {
        return entry << Character.SIZE | language;
    }

    /** The entry of a unit. */
    static long entryOf(long unit) {
        return unit >> Character.SIZE;
    }

    /** Sources of one language and one shape. */
    private static int space(int language, Shape shape) {
        return language * Shape.values().length + shape.ordinal();
    }

    /**
     * Where similar sources are settled.
     *
     * @param entries numbers of entries
     * @param units numbers of units of shelves
     */
    record Found(List<Long> entries, List<Long> units) {}

    /**
     * What has the most similar sources and a text in a language; null where the index is not ready.
     *
     * @param least how alike, in percent
     * @param most how many different sources
     */
    @Nullable
    Found search(int sourceLanguage, String shape, int language, String source, int least, int most) {
        MemoryIndex now = index;
        if (!ready) {
            return null;
        }
        int space = space(sourceLanguage, Shape.valueOf(shape.toUpperCase(Locale.ROOT)));
        Found found = new Found(new ArrayList<>(), new ArrayList<>());
        for (Hit hit : now.search(space, language, source, least, most)) {
            if ((hit.unit() & OF_SHELF) != 0) {
                found.units.add(hit.unit() ^ OF_SHELF);
            } else {
                found.entries.add(entryOf(hit.unit()));
            }
        }
        return found;
    }

    /** Reads what changed since it was called last; everything the first time and after changes were missed. Not for several threads at once. */
    void bringUpToDate() {
        List<Long> changed;
        List<Long> whole;
        boolean all;
        synchronized (told) {
            all = everything;
            changed = List.copyOf(entries);
            whole = List.copyOf(tables);
            everything = false;
            entries.clear();
            tables.clear();
        }
        boolean done = false;
        try {
            if (all) {
                build();
            } else if (!tooLarge) {
                for (long table : whole) {
                    if (table != SHELVES) {
                        read(entriesOf(table));
                    }
                }
                read(changed);
            }
            if ((all && !tooLarge) || whole.contains(SHELVES)) {
                shelves();
            }
            while (index.tidy()) {
                // Until its parts are in order.
            }
            if (index.size().bytes() > mostBytes) {
                tooLarge = true;
                index = new MemoryIndex();
                LOG.warn("The memory needs more than {} MB; the database is asked instead.", mostBytes >> 20);
            }
            done = true;
        } finally {
            synchronized (told) {
                if (!done) {
                    everything |= all;
                    entries.addAll(changed);
                    tables.addAll(whole);
                }
                ready = done && !everything && !tooLarge;
            }
        }
    }

    private void build() {
        long start = System.nanoTime();
        MemoryIndex fresh = new MemoryIndex();
        tooLarge = false;
        long after = 0;
        for (List<Long> some = next(after); !some.isEmpty(); some = next(after)) {
            fresh.put(units(some));
            fresh.tidy();
            after = some.get(some.size() - 1);
            if (fresh.size().bytes() > mostBytes) {
                break;
            }
        }
        index = fresh;
        read.clear();
        LOG.info("The memory has {} units after {} ms.", fresh.size().units(), (System.nanoTime() - start) / 1_000_000);
    }

    /** Reads what changed on shelves since they were read last. */
    private void shelves() {
        Map<Long, Long> now = new HashMap<>();
        jdbc.sql("select id, version, removed_at is not null from shelf where version > 0")
                .query(row -> {
                    now.put(row.getLong(1), row.getBoolean(3) ? REMOVED : row.getLong(2));
                });
        now.forEach((shelf, version) -> {
            long had = read.getOrDefault(shelf, 0L);
            if (version == REMOVED ? had > 0 : version != had) {
                long since = version == REMOVED ? 0 : had;
                long after = 0;
                for (List<ShelfUnit> some = units(shelf, since, after);
                        !some.isEmpty();
                        some = units(shelf, since, after)) {
                    index.remove(some.stream()
                            .filter(one -> had > 0 || one.removed)
                            .map(one -> one.unit.id())
                            .toList());
                    if (version != REMOVED) {
                        index.put(some.stream()
                                .filter(one -> !one.removed)
                                .map(one -> one.unit)
                                .toList());
                    }
                    index.tidy();
                    after = some.get(some.size() - 1).unit.id() ^ OF_SHELF;
                    if (index.size().bytes() > mostBytes) {
                        return;
                    }
                }
            }
            if (version == REMOVED) {
                read.remove(shelf);
            } else {
                read.put(shelf, version);
            }
        });
    }

    private record ShelfUnit(Unit unit, boolean removed) {}

    private List<ShelfUnit> units(long shelf, long since, long after) {
        return jdbc.sql(
                        """
                        select id, source_language_id, language_id, source, removed from shelf_unit
                        where shelf_id = :shelf and changed > :since and id > :after order by id limit :most
                        """)
                .param("shelf", shelf)
                .param("since", since)
                .param("after", after)
                .param("most", ENTRIES_AT_ONCE)
                .query((row, n) -> new ShelfUnit(
                        new Unit(
                                OF_SHELF | row.getLong(1),
                                space(row.getInt(2), Shape.PLAIN),
                                row.getInt(3),
                                row.getString(4)),
                        row.getBoolean(5)))
                .list();
    }

    private List<Long> next(long after) {
        return jdbc.sql("select id from entry where id > :after order by id limit :most")
                .param("after", after)
                .param("most", ENTRIES_AT_ONCE)
                .query(Long.class)
                .list();
    }

    private List<Long> entriesOf(long table) {
        return jdbc.sql("select id from entry where table_id = :table order by id")
                .param("table", table)
                .query(Long.class)
                .list();
    }

    private void read(List<Long> changed) {
        for (int i = 0; i < changed.size(); i += ENTRIES_AT_ONCE) {
            List<Long> some = changed.subList(i, Math.min(changed.size(), i + ENTRIES_AT_ONCE));
            List<Unit> units = units(some);
            Set<Long> there = new HashSet<>();
            units.forEach(one -> there.add(one.id()));
            List<Long> gone = new ArrayList<>();
            for (int language : languages()) {
                some.forEach(entry -> gone.add(unit(entry, language)));
            }
            gone.removeIf(there::contains);
            index.remove(gone);
            index.put(units);
        }
    }

    private List<Integer> languages() {
        return jdbc.sql("select id from language").query(Integer.class).list();
    }

    private List<Unit> units(List<Long> some) {
        return jdbc.sql(UNITS)
                .param("entries", some.toArray(Long[]::new))
                .query((row, n) -> new Unit(
                        unit(row.getLong(1), row.getInt(2)),
                        space(row.getInt(3), Shape.valueOf(row.getString(4).toUpperCase(Locale.ROOT))),
                        row.getInt(2),
                        row.getString(5)))
                .list();
    }
}
