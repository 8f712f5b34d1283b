package mellow.server.finding;

import java.time.Clock;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import mellow.server.check.MaskKeeper;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.people.PeopleService;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Cancelled;
import mellow.server.run.RunService.Order;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Looks at texts again when what they are looked at by has changed. What is to be done stands in the database from the transaction that made it necessary until
 * it is done, so a killed server loses nothing; each table is a run. It goes by entries, a few hundred in a transaction, so that nobody waits for it.
 */
@Service
public class RecheckService {

    private static final String RUN = "recheck";
    private static final int AT_ONCE = 1_000;
    private static final Duration BEFORE_NEXT_TRY = Duration.ofMillis(500);

    private static final String ASK =
            """
            insert into recheck (table_id, languages, words, sources_only, person_id, asked_at)
            select t, :languages, :words, :sources, :person, :at from unnest(:tables::bigint[]) t
            """;
    private static final String WAITING =
            """
            select id, languages, words, sources_only from recheck where table_id = :table and not stopped order by id
            """;
    /** Held against every change of the entries and their texts until the transaction ends. */
    private static final String NEXT =
            """
            select e.id from entry e where e.table_id = :table and e.id > :after
              and (:words::text[] is null or e.source ilike any(:words) or e.source_forms ilike any(:words))
            order by e.id limit :most for no key update
            """;

    private static final String TABLES =
            """
            select r.table_id, coalesce(min(r.person_id), (select min(id) from person)) person
            from recheck r where not r.stopped group by 1
            """;

    private final MaskKeeper masks;
    private final RunService runs;
    private final TableService tables;
    private final PeopleService people;
    private final LiveService live;
    private final JdbcClient jdbc;
    private final TransactionTemplate each;
    private final Clock clock;

    RecheckService(
            MaskKeeper masks,
            RunService runs,
            TableService tables,
            PeopleService people,
            LiveService live,
            JdbcClient jdbc,
            PlatformTransactionManager transactions,
            Clock clock) {
        this.masks = masks;
        this.runs = runs;
        this.tables = tables;
        this.people = people;
        this.live = live;
        this.jdbc = jdbc;
        this.clock = clock;
        this.each = new TransactionTemplate(transactions);
        this.each.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        runs.handle(RUN, this::recheck);
    }

    /**
     * What can have changed.
     *
     * @param languages numbers of languages, null for all and the sources
     * @param words only sources with one of these, null for all
     * @param sourcesOnly sources and their keys, and no text
     */
    public record What(
            @Nullable Collection<Integer> languages, @Nullable Collection<String> words, boolean sourcesOnly) {

        /** Everything. */
        public static final What ALL = new What(null, null, false);

        /** Sources and their keys. */
        public static final What SOURCES = new What(null, null, true);

        /** Texts in some languages. */
        public static What in(Collection<Integer> languages) {
            return new What(languages, null, false);
        }
    }

    private record Waiting(long id, Integer @Nullable [] languages, String @Nullable [] words, boolean sourcesOnly) {}

    /** Notes that texts of tables have to be looked at again, in the transaction that made it so, and begins when that is committed. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void ask(Collection<Long> concerned, long person, What what) {
        if (concerned.isEmpty()) {
            return;
        }
        jdbc.sql(ASK)
                .param("tables", concerned.toArray(Long[]::new))
                .param(
                        "languages",
                        what.languages() == null ? null : what.languages().toArray(Integer[]::new))
                .param(
                        "words",
                        what.words() == null
                                ? null
                                : what.words().stream()
                                        .map(word -> "%"
                                                + word.replace("\\", "\\\\")
                                                        .replace("%", "\\%")
                                                        .replace("_", "\\_") + "%")
                                        .toArray(String[]::new))
                .param("sources", what.sourcesOnly())
                .param("person", person)
                .param("at", clock.instant().atOffset(ZoneOffset.UTC))
                .update();
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                begin();
            }
        });
    }

    /** Begins whatever waits and is not going on: at a start, after a crash, when a run ended while more was asked. */
    public void begin() {
        record Due(long table, long person) {}
        List<Due> due = each.execute(status -> jdbc.sql(TABLES)
                .query((row, n) -> new Due(row.getLong(1), row.getLong(2)))
                .list());
        for (Due one : due == null ? List.<Due>of() : due) {
            runs.startWhen(RUN, one.table(), one.person(), "", () -> true);
        }
    }

    private void recheck(Order order, Progress progress) {
        long table = order.subject();
        try {
            for (List<Waiting> waiting = waiting(table); !waiting.isEmpty(); waiting = waiting(table)) {
                // Whoever began to change texts before it was asked has finished after this; whoever begins later goes
                // by what holds now.
                patiently(progress, () -> tables.holdAlone(table));
                long all = each.execute(status -> jdbc.sql("select count(*) from entry where table_id = :table")
                        .param("table", table)
                        .query(Long.class)
                        .single());
                for (Waiting one : waiting) {
                    go(table, one, progress, all);
                }
            }
        } catch (Cancelled cancelled) {
            each.executeWithoutResult(status -> jdbc.sql("update recheck set stopped = true where table_id = :table")
                    .param("table", table)
                    .update());
            throw cancelled;
        }
    }

    private List<Waiting> waiting(long table) {
        return List.copyOf(each.execute(status -> jdbc.sql(WAITING)
                .param("table", table)
                .query((row, n) -> new Waiting(
                        row.getLong("id"),
                        row.getArray("languages") == null
                                ? null
                                : (Integer[]) row.getArray("languages").getArray(),
                        row.getArray("words") == null
                                ? null
                                : (String[]) row.getArray("words").getArray(),
                        row.getBoolean("sources_only")))
                .list()));
    }

    private void go(long table, Waiting what, Progress progress, long all) {
        long[] state = {0, 0};
        while (true) {
            progress.at(Math.min(state[1], all), all);
            List<Long> done = new ArrayList<>();
            patiently(progress, () -> {
                done.clear();
                tables.holdForChange(table);
                done.addAll(next(table, what, state[0]));
                if (what.sourcesOnly()) {
                    masks.ofSources(done);
                } else if (what.languages() == null) {
                    masks.ofEntries(done);
                } else {
                    masks.ofTexts(done, List.of(what.languages()));
                }
                if (done.size() < AT_ONCE) {
                    jdbc.sql("delete from recheck where id = :id")
                            .param("id", what.id())
                            .update();
                }
            });
            if (done.size() < AT_ONCE) {
                live.tell(new LiveChange(table, List.of(), List.of()));
                return;
            }
            state[0] = done.get(done.size() - 1);
            state[1] += done.size();
        }
    }

    private List<Long> next(long table, Waiting what, long after) {
        return jdbc.sql(NEXT)
                .param("table", table)
                .param("after", after)
                .param("words", what.words())
                .param("most", AT_ONCE)
                .query(Long.class)
                .list();
    }

    /** In a transaction of its own; while somebody takes a file into the table, it waits for them. */
    private void patiently(Progress progress, Runnable step) {
        while (true) {
            try {
                each.executeWithoutResult(status -> step.run());
                return;
            } catch (CannotAcquireLockException held) {
                progress.at(0, 0);
                pause();
            }
        }
    }

    private static void pause() {
        try {
            Thread.sleep(BEFORE_NEXT_TRY.toMillis());
        } catch (InterruptedException ending) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException("the server ends", ending);
        }
    }

    /**
     * How far looking again is.
     *
     * @param tables how many tables are not looked at yet
     * @param stopped how many of them wait because somebody stopped it
     * @param done entries looked at, of those tables that are being looked at
     * @param total how many those tables have
     */
    public record RecheckState(int tables, int stopped, long done, long total) {}

    /** How far it is in some tables. */
    @Transactional(readOnly = true)
    public RecheckState state(Collection<Long> concerned) {
        List<Long> waiting = jdbc.sql("select distinct table_id from recheck where table_id = any(:tables)")
                .param("tables", concerned.toArray(Long[]::new))
                .query(Long.class)
                .list();
        int stopped = jdbc.sql("select count(distinct table_id) from recheck where table_id = any(:tables) and stopped")
                .param("tables", concerned.toArray(Long[]::new))
                .query(Integer.class)
                .single();
        long done = 0;
        long total = 0;
        for (long table : waiting) {
            var run = runs.latest(RUN, table).filter(RunService.RunReply::open);
            done += run.map(RunService.RunReply::done).orElse(0L);
            total += run.map(RunService.RunReply::total).orElse(0L);
        }
        return new RecheckState(waiting.size(), stopped, done, total);
    }

    /** Stops looking again; what is not looked at yet waits. */
    @Transactional
    public void stop(long person, Collection<Long> concerned) {
        people.rights(person).requireCoordinator("stop looking again");
        for (long table : concerned) {
            if (runs.latest(RUN, table).filter(RunService.RunReply::open).isPresent()) {
                runs.cancel(RUN, table);
            }
        }
    }

    /** Goes on with what was stopped. */
    @Transactional
    public void goOn(long person, Collection<Long> concerned) {
        people.rights(person).requireCoordinator("look again");
        jdbc.sql("update recheck set stopped = false where table_id = any(:tables)")
                .param("tables", concerned.toArray(Long[]::new))
                .update();
        TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
            @Override
            public void afterCommit() {
                begin();
            }
        });
    }

    /** Waits until nothing is left to look at again in a table, but not longer than {@code most}. */
    public void await(long table, Duration most) {
        runs.await(RUN, table, most);
    }
}
