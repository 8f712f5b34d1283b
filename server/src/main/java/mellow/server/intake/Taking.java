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
            JsonMapper json) {
        this.planner = planner;
        this.masters = masters;
        this.tables = tables;
        this.coverage = coverage;
        this.activity = activity;
        this.live = live;
        this.records = records;
        this.database = database;
        this.json = json;
    }

    @Transactional
    public void take(long person, long id, Progress progress, Instant at) {
        Intake intake = planner.open(person, id);
        Plan plan = planner.plan(person, intake);
        plan.requireReady();
        long table = tableFor(plan).id();
        tables.holdAlone(table);
        Map<LanguageTag, Short> numbers = new HashMap<>();
        tables.find(table).languages().forEach(kept -> numbers.put(kept.tag(), kept.number()));
        long steps = 2L * plan.file().size();
        Preview preview = plan.preview();
        int touched;
        Connection connection = DataSourceUtils.getConnection(database);
        Applier.Order order = new Applier.Order(
                table,
                id,
                person,
                at,
                plan.options().meaningMoves(),
                plan.rights().coordinator(),
                plan.describing());
        try (Applier applier = new Applier(
                connection, order, plan.arrivals(), numbers, plan.file().size())) {
            Comparison comparison = plan.comparison();
            Comparison.Listener both = new CountedListeners(preview, applier, progress, steps);
            records.read(table, person, entry -> comparison.compare(entry, both));
            applier.reserve(comparison.unmet());
            applier.recordIsRead();
            comparison.rest(both);
            applier.send();
            touched = applier.touchedEntries();
        } catch (SQLException failed) {
            throw new UncategorizedSQLException("take a file in", null, failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, database);
        }
        coverage.recount(table);
        activity.note(person, table, ActivityService.NO_LANGUAGE, "taken_in", id, touched, at);
        live.tell(new LiveChange(table, List.of(), List.of()));
        masters.keep(table, intake, plan.exact(), at);
        intake.applied(table, json.writeValueAsString(preview.reply(plan.file())), at);
        progress.at(steps, steps);
    }

    private TableInfo tableFor(Plan plan) {
        IntakeOptions options = plan.options();
        if (plan.table().isEmpty()) {
            String name = Objects.requireNonNullElse(options.newTable(), "");
            return tables.create(name, plan.source(), plan.targets(), options.settlesOwn());
        }
        TableInfo table = plan.table().get();
        if (plan.rights().coordinator()) {
            tables.addLanguages(table.id(), plan.targets(), false);
        }
        return table;
    }
}
