package mellow.server.intake;

import jakarta.validation.constraints.Size;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.common.Refusal;
import mellow.server.run.RunService;
import mellow.server.run.RunService.RunReply;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/** What an intake would do if it were taken in now, and what is decided about it. */
@Service
class Previews {

    static final String RUN = "compare";

    private static final int MOST_LINES = 500;
    private static final Duration WAITS = Duration.ofMillis(900);
    /** Activity is added up in slots of ten minutes. */
    private static final Duration SLOTS = Duration.ofMinutes(11);

    private final Planner planner;
    private final Comparing comparing;
    private final LineStore lines;
    private final RunService runs;
    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final TransactionTemplate transaction;

    Previews(
            Planner planner,
            Comparing comparing,
            LineStore lines,
            RunService runs,
            JdbcClient jdbc,
            JsonMapper json,
            TransactionTemplate transaction) {
        this.planner = planner;
        this.comparing = comparing;
        this.lines = lines;
        this.runs = runs;
        this.jdbc = jdbc;
        this.json = json;
        this.transaction = transaction;
        runs.handle(RUN, (order, progress) -> comparing.compare(order.person(), order.subject(), progress));
    }

    /**
     * What the intake would do if it were taken in now. Compares it first where that has not been done or no longer holds; what takes longer than a
     * moment goes on as a run, and the answer says how far it is.
     *
     * @param fresh compare anew when the table has changed since
     */
    ComparedReply preview(long person, long id, boolean fresh) {
        boolean[] anew = {fresh};
        // What was decided may have changed while it was being compared; then it is compared once more.
        for (int round = 0; round < 2; round++) {
            boolean started = runs.startWhen(RUN, id, person, "", () -> needsComparing(person, id, anew[0]));
            runs.await(RUN, id, WAITS);
            if (!started) {
                break;
            }
            anew[0] = false;
        }
        return Objects.requireNonNull(transaction.execute(status -> compared(person, id)));
    }

    /** Asked again and again while a file is compared, so it looks at no file. */
    private boolean needsComparing(long person, long id, boolean fresh) {
        return Boolean.TRUE.equals(transaction.execute(status -> {
            Intake intake = planner.open(person, id);
            if (intake.comparison().isEmpty()) {
                return true;
            }
            // What would be done lives in a table that a crash empties.
            boolean lost = !lines.any(id)
                    && json.readValue(intake.comparison().get(), Comparing.Result.class)
                                    .lines()
                            > 0;
            return lost || (fresh && changedSince(intake));
        }));
    }

    private boolean changedSince(Intake intake) {
        Instant compared = intake.comparedAt().orElse(Instant.EPOCH);
        return intake.table().isPresent()
                && jdbc.sql(
                                "select exists (select 1 from activity where table_id = :table and last_at > :at and slot >= :slot)")
                        .param("table", intake.table().get())
                        .param("at", compared.atOffset(ZoneOffset.UTC))
                        .param("slot", compared.minus(SLOTS).atOffset(ZoneOffset.UTC))
                        .query(Boolean.class)
                        .single();
    }

    private ComparedReply compared(long person, long id) {
        RunReply run = runs.latest(RUN, id).orElse(null);
        Intake intake = planner.mine(person, id);
        return new ComparedReply(
                intake.comparison().map(known -> preview(id, known)).orElse(null),
                intake.comparison().flatMap(known -> intake.comparedAt()).orElse(null),
                run);
    }

    private PreviewReply preview(long id, String known) {
        Comparing.Result result = json.readValue(known, Comparing.Result.class);
        LineStore.Sums sums = lines.sums(id);
        return new PreviewReply(
                sums.groups(),
                PreviewReply.Arrivals.of(sums.arrivals()),
                sums.stale(),
                null,
                result.unchanged(),
                result.wrong());
    }

    /**
     * An intake that is or is being compared.
     *
     * @param preview what it would do, null while that is being found out
     * @param compared when that was found out; the numbers of its lines hold as long
     * @param run how finding out stands, null when it never started
     */
    record ComparedReply(@Nullable PreviewReply preview, @Nullable Instant compared, @Nullable RunReply run) {}

    /** Some lines of what an open intake would do; none once it is taken in or left, which a screen may hear of a moment later. */
    @Transactional(readOnly = true)
    public LineStore.Page lines(long person, long id, ChangeKind kind, String find, int from, int size) {
        planner.mine(person, id);
        return lines.page(id, kind, find.strip(), Math.max(0, from), Math.min(Math.max(1, size), MOST_LINES));
    }

    /**
     * What to do about changes of one kind.
     *
     * @param lines the numbers of the lines concerned; null for all that hold {@code find}
     * @param find words that the lines hold; empty for the whole kind
     * @param compared when the lines with these numbers were found out; refused when they have been found anew since
     */
    record ChoiceRequest(
            ChangeKind kind,
            Choice choice,
            @Nullable @Size(max = 10_000) List<Integer> lines,
            @Nullable String find,
            @Nullable Instant compared) {

        ChoiceRequest(ChangeKind kind, Choice choice, @Nullable List<Integer> lines, @Nullable String find) {
            this(kind, choice, lines, find, null);
        }
    }

    /**
     * Decides what to do about changes; the sums of all as they are then. Where that changes what else the file would do, it is compared anew, and the answer
     * may say how far that is.
     */
    ComparedReply choose(long person, long id, ChoiceRequest request) {
        boolean anew = Boolean.TRUE.equals(transaction.execute(status -> {
            Intake intake = planner.open(person, id);
            if (intake.comparison().isEmpty()) {
                throw Refusal.conflict(
                        "not-compared", "This file has to be compared again first; reload the page.", Map.of());
            }
            boolean renumbered = request.lines() != null
                    && request.compared() != null
                    && !intake.comparedAt().equals(Optional.of(request.compared()));
            if (renumbered) {
                throw Refusal.conflict(
                        "compared-anew",
                        "What this file would do has been found out anew meanwhile; look again and choose.",
                        Map.of());
            }
            String find = request.find() == null ? "" : request.find().strip();
            lines.choose(id, request.kind(), request.choice(), request.lines(), find);
            if (request.lines() == null && find.isEmpty()) {
                IntakeOptions options = planner.options(intake);
                intake.choose(json.writeValueAsString(
                        options.going(options.where().choosing(request.kind(), request.choice()))));
            }
            boolean shapes = request.kind().shapesOthers() && lines.shaped(id, request.kind());
            if (shapes) {
                intake.compareAnew();
            }
            return shapes;
        }));
        return anew
                ? preview(person, id, false)
                : Objects.requireNonNull(transaction.execute(status -> compared(person, id)));
    }
}
