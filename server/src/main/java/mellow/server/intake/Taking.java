package mellow.server.intake;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import javax.sql.DataSource;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Change;
import mellow.core.merge.Comparison;
import mellow.core.merge.RecordEntry;
import mellow.server.activity.ActivityService;
import mellow.server.coverage.CoverageService;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.springframework.jdbc.UncategorizedSQLException;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Takes a file in: compares and carries out in one transaction, with the table held against every other change. */
@Component
class Taking {

    private final Planner planner;
    private final MasterFiles masters;
    private final TableService tables;
    private final CoverageService coverage;
    private final ActivityService activity;
    private final LiveService live;
    private final RecordReader records;
    private final DataSource database;
    private final LineStore lines;
    private final JsonMapper json;

    Taking(
            Planner planner,
            MasterFiles masters,
            TableService tables,
            CoverageService coverage,
            ActivityService activity,
            LiveService live,
            RecordReader records,
            DataSource database,
            LineStore lines,
            JsonMapper json) {
        this.planner = planner;
        this.masters = masters;
        this.tables = tables;
        this.coverage = coverage;
        this.activity = activity;
        this.live = live;
        this.records = records;
        this.database = database;
        this.lines = lines;
        this.json = json;
    }

    /** Takes it in; how many entries were added or changed. */
    @Transactional
    public int take(long person, long id, Progress progress, Instant at) {
        Intake intake = planner.open(person, id);
        Plan plan = planner.plan(person, intake, progress);
        plan.requireReady();
        long table = tableFor(plan).id();
        tables.holdAlone(table);
        Map<LanguageTag, Integer> numbers = new HashMap<>();
        tables.find(table).languages().forEach(kept -> numbers.put(kept.tag(), kept.number()));
        int files = plan.file().members().size();
        long steps = files + 2L * plan.file().reading().size();
        Tally tally = new Tally();
        int touched;
        Map<String, Integer> stale;
        Connection connection = DataSourceUtils.getConnection(database);
        Applier.Order order = new Applier.Order(table, id, person, at, plan.removed());
        try (Applier applier =
                new Applier(connection, order, numbers, plan.file().reading().size())) {
            Comparison comparison = plan.comparison();
            Comparison.Listener both = new Told(tally, applier, progress, files, steps);
            records.read(table, person, plan.terms().arrivals().keySet(), entry -> comparison.compare(entry, both));
            applier.reserve(comparison.unmet());
            boolean many = comparison.unmet() > Applier.FEW;
            if (many) {
                applier.recordIsRead();
            }
            comparison.rest(both);
            send(applier, table);
            touched = applier.touchedEntries();
            stale = applier.stale();
        } catch (SQLException failed) {
            throw new UncategorizedSQLException("take a file in", null, failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, database);
        }
        activity.note(person, table, ActivityService.NO_LANGUAGE, "taken_in", id, touched, at);
        live.tell(new LiveChange(table, List.of(), List.of()));
        intake.applied(
                table,
                json.writeValueAsString(tally.reply(plan.file(), stale)),
                at,
                plan.table().isEmpty(),
                masters.rows(
                                table,
                                plan.file().members().stream()
                                        .map(member -> member.file().path())
                                        .toList())
                        .orElse(null));
        if (plan.becomesBase(tally)) {
            masters.keep(table, id, plan.exact(), at);
        }
        lines.forget(id);
        progress.at(steps, steps);
        return touched;
    }

    /** Writes all of it and counts anew: what was touched, or the whole table where that is less work. */
    private void send(Applier applier, long table) throws SQLException {
        List<Long> few = applier.few();
        if (few.isEmpty()) {
            applier.send();
            if (applier.touchedEntries() > 0) {
                coverage.recount(table);
            }
            return;
        }
        coverage.around(few, () -> {
            try {
                applier.send();
            } catch (SQLException failure) {
                throw new UncategorizedSQLException("take a file in", null, failure);
            }
        });
    }

    private TableInfo tableFor(Plan plan) {
        IntakeOptions options = plan.options();
        if (plan.table().isEmpty()) {
            String name = Objects.requireNonNullElse(options.newTable(), "");
            return tables.create(name, plan.terms().source(), plan.targets(), options.settlesOwn());
        }
        TableInfo table = plan.table().get();
        if (plan.rights().coordinator()) {
            tables.addLanguages(table.id(), plan.targets(), false);
        }
        return table;
    }

    /** Hands everything on to both, and tells the progress in entries now and then. */
    private static final class Told implements Comparison.Listener {

        private static final int TOLD_EVERY = 1000;

        private final Comparison.Listener counted;
        private final Comparison.Listener done;
        private final Progress progress;
        private final long total;
        private long entries;

        /** {@code before}: steps that were done before the first entry. */
        Told(Comparison.Listener counted, Comparison.Listener done, Progress progress, long before, long total) {
            this.entries = before;
            this.counted = counted;
            this.done = done;
            this.progress = progress;
            this.total = total;
        }

        private void one() {
            if (++entries % TOLD_EVERY == 0) {
                progress.at(Math.min(entries, total), total);
            }
        }

        @Override
        public void change(Change change) {
            counted.change(change);
            done.change(change);
            if (change.entry() == null && change.language() == null) {
                one();
            }
        }

        @Override
        public void met(int index, RecordEntry entry) {
            counted.met(index, entry);
            done.met(index, entry);
            one();
        }

        @Override
        public void alone(RecordEntry entry) {
            counted.alone(entry);
            done.alone(entry);
        }
    }
}
