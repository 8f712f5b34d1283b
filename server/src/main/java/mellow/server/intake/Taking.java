package mellow.server.intake;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import javax.sql.DataSource;
import mellow.core.merge.Change;
import mellow.core.merge.Comparison;
import mellow.core.merge.RecordEntry;
import mellow.server.activity.ActivityService;
import mellow.server.check.MaskKeeper;
import mellow.server.coverage.CoverageService;
import mellow.server.file.AssetFiles;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.master.MasterFiles;
import mellow.server.record.BulkWriter;
import mellow.server.record.RecordReader;
import mellow.server.recording.Recordings;
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
    private final MaskKeeper masks;
    private final Recordings recordings;
    private final AssetFiles assets;
    private final Clock clock;
    private final LineStore lines;
    private final JsonMapper json;

    Taking(
            MaskKeeper masks,
            Recordings recordings,
            Planner planner,
            MasterFiles masters,
            TableService tables,
            CoverageService coverage,
            ActivityService activity,
            LiveService live,
            RecordReader records,
            DataSource database,
            AssetFiles assets,
            Clock clock,
            LineStore lines,
            JsonMapper json) {
        this.masks = masks;
        this.recordings = recordings;
        this.planner = planner;
        this.masters = masters;
        this.tables = tables;
        this.coverage = coverage;
        this.activity = activity;
        this.live = live;
        this.records = records;
        this.database = database;
        this.assets = assets;
        this.clock = clock;
        this.lines = lines;
        this.json = json;
    }

    /** Takes it in; how many entries were added or changed. */
    @Transactional
    public int take(long person, long id, Progress progress) {
        Instant at = clock.instant();
        Intake intake = planner.open(person, id);
        Plan plan = planner.plan(person, intake, progress);
        plan.requireReady();
        long table = tableFor(plan).id();
        tables.awaitAlone(table);
        int size = plan.file().reading().size();
        int files = plan.file().members().size();
        long steps = files + 2L * size;
        Tally tally = new Tally();
        int touched;
        Map<String, Integer> stale;
        Connection connection = DataSourceUtils.getConnection(database);
        try (BulkWriter writer = new BulkWriter(connection, new BulkWriter.Order(table, id, person, at), size)) {
            Applier applier = new Applier(writer, tables.find(table), plan.removed(), size);
            Comparison comparison = plan.comparison();
            Comparison.Listener both = new Told(tally, applier, progress, files, steps);
            records.read(table, person, plan.terms().arrivals().keySet(), entry -> comparison.compare(entry, both));
            writer.reserve(comparison.unmet());
            boolean many = comparison.unmet() > CoverageService.FEW;
            if (many) {
                writer.recordIsRead();
            }
            comparison.rest(both);
            if (many) {
                // The connection is writing already and answers nothing before it is done, however little that turns
                // out to be.
                coverage.anew(table, () -> send(writer));
            } else {
                coverage.around(table, writer.touched(), () -> send(writer));
            }
            assets.claim(applier.assets());
            touched = writer.touchedEntries();
            stale = writer.stale();
        } catch (SQLException failed) {
            throw new UncategorizedSQLException("take a file in", null, failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, database);
        }
        masks.ofIntake(id);
        recordings.followIntake(id);
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

    private static void send(BulkWriter writer) {
        try {
            writer.send();
        } catch (SQLException failed) {
            throw new UncategorizedSQLException("take a file in", null, failed);
        }
    }

    private TableInfo tableFor(Plan plan) {
        Destination into = plan.options().where();
        if (plan.table().isEmpty()) {
            String name = Objects.requireNonNullElse(into.newTable(), "");
            return tables.create(
                    plan.rights().person(), name, plan.terms().source(), plan.targets(), into.settlesOwn());
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
