package mellow.server.review;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mellow.server.cell.CellChange.Action;
import mellow.server.cell.CellChanged.Many;
import mellow.server.cell.CellChanged.RefusedCell;
import mellow.server.cell.CellService;
import mellow.server.cell.ManyChanges;
import mellow.server.common.Refusal;
import mellow.server.people.PeopleService;
import mellow.server.review.Strips.Waiting;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Order;
import mellow.server.run.RunService.Progress;
import mellow.server.run.RunService.RunReply;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Gives all offers that match one answer, as a run: one transaction, one change, one undo. */
@Service
public class AnsweringService {

    private static final String RUN = "answering";
    private static final JsonMapper JSON = JsonMapper.shared();
    private static final TypeReference<List<RefusedCell>> TOLD = new TypeReference<>() {};

    private final Strips strips;
    private final CellService cells;
    private final PeopleService people;
    private final RunService runs;
    private final JdbcClient jdbc;

    AnsweringService(Strips strips, CellService cells, PeopleService people, RunService runs, JdbcClient jdbc) {
        this.strips = strips;
        this.cells = cells;
        this.people = people;
        this.runs = runs;
        this.jdbc = jdbc;
        runs.handle(RUN, this::answer);
    }

    /** What is answered, and how, as the run keeps it. */
    private record Asked(ReviewQuery query, Action action, @Nullable String reason, long upTo) {}

    /**
     * How far it is, and what came of it.
     *
     * @param change the change's number, for undo
     * @param status queued, going, done, failed, cancelled, or lost when its servers stopped again and again
     * @param done offers that were looked at
     * @param message why it failed, empty otherwise
     * @param changed offers that were answered
     * @param refused offers that were not
     * @param told why, the first of them
     */
    public record Answering(
            long change,
            String status,
            long done,
            long total,
            String message,
            int changed,
            int refused,
            List<RefusedCell> told) {}

    /**
     * Begins to answer all that match. Cells with several offers are left for a choice, and named.
     *
     * @param upTo the highest number of an offer that the person can have seen; later ones stay
     * @return the change's number
     */
    long start(long person, ReviewQuery query, Action action, @Nullable String reason, long upTo) {
        if (action != Action.SETTLE && action != Action.RETURN) {
            throw Refusal.unacceptable(
                    "bad-answer", "All can be settled or returned in one go.", Map.of("field", "action"));
        }
        if (!people.rights(person).reviews(query.language())) {
            throw Refusal.forbidden("no-right-to-settle", "Only a reviewer of this language can do that.");
        }
        if (action == Action.RETURN && (reason == null || reason.isBlank())) {
            throw Refusal.unacceptable(
                    "reason-missing", "Say why they go back, so that their authors can improve them.", Map.of());
        }
        long change = cells.newChange();
        runs.start(RUN, change, person, JSON.writeValueAsString(new Asked(query, action, reason, upTo)));
        return change;
    }

    private void answer(Order order, Progress progress) {
        Asked asked = JSON.readValue(order.arguments(), Asked.class);
        ReviewQuery query = asked.query();
        long person = order.person();
        long change = order.subject();
        Map<Long, ManyChanges.One> wanted = new LinkedHashMap<>();
        String tag = query.language().value();
        for (Waiting one : strips.waiting(person, query)) {
            if (one.offer() <= asked.upTo()) {
                // No offer is named: where several wait, the cell is refused, because somebody has to choose.
                wanted.put(one.entry(), new ManyChanges.One(one.entry(), tag, one.version(), null, null, null));
            }
        }
        ManyChanges changes =
                new ManyChanges(asked.action(), List.copyOf(wanted.values()), asked.reason(), false, null);
        Many done = cells.changeMany(person, changes, change, progress);
        jdbc.sql(
                        "insert into answering (change_id, person_id, changed, refused, told) values (:change, :person, :changed, :refused, :told::jsonb)")
                .param("change", change)
                .param("person", person)
                .param("changed", done.changed())
                .param("refused", done.refusedInAll())
                .param("told", JSON.writeValueAsString(done.refused()))
                .update();
    }

    /** How far a run of one's own is. */
    Answering state(long person, long change) {
        RunReply run = runs.latest(RUN, change, person).orElseThrow(AnsweringService::unknown);
        return jdbc.sql("select changed, refused, told from answering where change_id = :change")
                .param("change", change)
                .query((row, n) ->
                        reply(change, run, row.getInt(1), row.getInt(2), JSON.readValue(row.getString(3), TOLD)))
                .optional()
                .orElseGet(() -> reply(change, run, 0, 0, List.of()));
    }

    private static Answering reply(long change, RunReply run, int changed, int refused, List<RefusedCell> told) {
        return new Answering(change, run.status(), run.done(), run.total(), run.message(), changed, refused, told);
    }

    /** Stops it; nothing is answered then. */
    void cancel(long person, long change) {
        if (runs.latest(RUN, change, person).isEmpty()) {
            throw unknown();
        }
        runs.cancel(RUN, change);
    }

    private static Refusal unknown() {
        return Refusal.notFound("no-such-answering", "There is no such work.");
    }
}
