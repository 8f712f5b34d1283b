package mellow.server.intake;

import com.fasterxml.jackson.annotation.JsonUnwrapped;
import java.time.Clock;
import java.time.ZoneOffset;
import mellow.core.merge.Comparison;
import mellow.core.merge.RecordEntry;
import mellow.server.record.CopyFile;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService.Progress;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Finds out what an intake would do and keeps it for looking and deciding. Changes nothing in a table. */
@Component
class Comparing {

    private static final int TOLD_EVERY = 1000;

    private final Planner planner;
    private final RecordReader records;
    private final LineStore lines;
    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final Clock clock;

    Comparing(Planner planner, RecordReader records, LineStore lines, JdbcClient jdbc, JsonMapper json, Clock clock) {
        this.planner = planner;
        this.records = records;
        this.lines = lines;
        this.jdbc = jdbc;
        this.json = json;
        this.clock = clock;
    }

    /**
     * What is known once a file has been compared, beside its lines.
     *
     * @param lines number of its lines
     * @param unchanged entries that the file leaves as they are
     * @param wrong what is wrong with the file
     */
    record Result(int lines, int unchanged, @JsonUnwrapped ProblemList wrong) {}

    @Transactional
    public void compare(long person, long id, Progress progress) {
        Intake intake = planner.open(person, id);
        int decided = intake.decided();
        Plan plan = planner.plan(person, intake, Progress.UNWATCHED);
        plan.requireReady();
        long total = plan.file().reading().size();
        try (Lines found = new Lines(id, plan.decisions())) {
            Comparison comparison = plan.comparison();
            long[] seen = new long[1];
            plan.table()
                    .ifPresent(table -> records.read(
                            table.id(), person, plan.terms().arrivals().keySet(), (RecordEntry entry) -> {
                                comparison.compare(entry, found);
                                if (++seen[0] % TOLD_EVERY == 0) {
                                    progress.at(Math.min(seen[0], total), total);
                                }
                            }));
            comparison.rest(found);
            CopyFile rows = found.finish();
            lines.store(id, rows);
            // Not through the entity: somebody may decide otherwise meanwhile, which is no conflict; then this is
            // compared again.
            jdbc.sql(
                            "update intake set compared = :decided, compared_at = :now, comparison = cast(:result as jsonb) where id = :id")
                    .param("decided", decided)
                    .param("now", clock.instant().atOffset(ZoneOffset.UTC))
                    .param(
                            "result",
                            json.writeValueAsString(
                                    new Result((int) rows.rows(), found.unchanged(), ProblemList.of(plan.file()))))
                    .param("id", id)
                    .update();
        }
    }
}
