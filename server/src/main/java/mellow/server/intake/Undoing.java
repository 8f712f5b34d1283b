package mellow.server.intake;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mellow.server.activity.ActivityService;
import mellow.server.check.Inspector;
import mellow.server.check.MaskKeeper;
import mellow.server.common.Refusal;
import mellow.server.coverage.CoverageService;
import mellow.server.live.LiveChange;
import mellow.server.live.LiveService;
import mellow.server.master.MasterFiles;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.record.BulkUndo;
import mellow.server.record.BulkUndo.Since;
import mellow.server.record.Lowering;
import mellow.server.recording.Recordings;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Takes an intake back: every cell and entry whose last change is that intake becomes what it was before; those changed since are left, or put back too
 * when somebody says so. One transaction, with the table held alone; the story tells it.
 */
@Component
class Undoing {

    private static final int LISTED = 200;

    private final IntakeRepository intakes;
    private final MasterFiles masters;
    private final TableService tables;
    private final PeopleService people;
    private final CoverageService coverage;
    private final ActivityService activity;
    private final LiveService live;
    private final BulkUndo record;
    private final Lowering lowering;
    private final MaskKeeper masks;
    private final Recordings recordings;
    private final Inspector inspector;
    private final Clock clock;
    private final JsonMapper json;

    Undoing(
            MaskKeeper masks,
            Recordings recordings,
            Inspector inspector,
            IntakeRepository intakes,
            MasterFiles masters,
            TableService tables,
            PeopleService people,
            CoverageService coverage,
            ActivityService activity,
            LiveService live,
            BulkUndo record,
            Lowering lowering,
            Clock clock,
            JsonMapper json) {
        this.masks = masks;
        this.recordings = recordings;
        this.inspector = inspector;
        this.intakes = intakes;
        this.masters = masters;
        this.tables = tables;
        this.people = people;
        this.coverage = coverage;
        this.activity = activity;
        this.live = live;
        this.lowering = lowering;
        this.record = record;
        this.clock = clock;
        this.json = json;
    }

    /**
     * What taking an intake back does, or did.
     *
     * @param texts texts and offers put back to how they were
     * @param entries entries put back to how they were
     * @param removed new entries that go again
     * @param changedSince what was changed since the intake: left, or put back too
     * @param changed the first of them
     * @param pencilled texts that came back pencilled, because they would not be settled today; null before it is done
     */
    record UndoReply(
            int texts,
            int entries,
            int removed,
            int changedSince,
            List<Since> changed,
            @Nullable Pencilled pencilled) {}

    /**
     * Texts that came back pencilled.
     *
     * @param amount how many
     * @param first the first of them, each with what the checks say
     */
    record Pencilled(int amount, List<Since> first) {}

    /** What taking it back would do. Changes nothing. */
    @Transactional
    public UndoReply look(long person, Intake intake) {
        require(person, intake);
        return reply(record.look(intake.id()), null);
    }

    /** Takes it back. */
    @Transactional
    public UndoReply undo(long person, long id, boolean all) {
        Instant at = clock.instant();
        Intake intake = intakes.findById(id).orElseThrow();
        require(person, intake);
        long table = intake.table().orElseThrow();
        tables.awaitAlone(table);
        BulkUndo.Found found = record.look(id);
        requireRights(person);
        Inspector.Look look = inspector.look().about(masks.entriesOf(id));
        List<Since> lowered = lowering.lower(
                id,
                all,
                (entry, in, language, measure, text) ->
                        look.blockers(new Inspector.Place(entry, in, language), measure, text));
        UndoReply reply = reply(
                found,
                new Pencilled(lowered.size(), lowered.stream().limit(LISTED).toList()));
        record.keyTaken(id, table).ifPresent(key -> {
            throw Refusal.conflict(
                    "key-taken",
                    "The key \u201c{key}\u201d has been given to another entry since; rename that one, then take the intake back.",
                    Map.of("key", key));
        });
        coverage.around(table, record.concerned(), () -> record.putBack(new BulkUndo.Order(id, person, at, all)));
        masks.ofIntake(id);
        recordings.followIntake(id);
        masters.putBack(table, id, intake.masterWas().orElse(null));
        int amount = reply.texts() + reply.entries() + reply.removed() + (all ? reply.changedSince() : 0);
        activity.note(person, table, ActivityService.NO_LANGUAGE, "taken_back", id, amount, at);
        if (intake.madeTable()) {
            tables.removeEmpty(table);
        }
        live.tell(new LiveChange(table, List.of(), List.of()));
        intake.undone(person, at, json.writeValueAsString(reply));
        return reply;
    }

    private void require(long person, Intake intake) {
        if (intake.person() != person && !people.rights(person).coordinator()) {
            throw Refusal.forbidden(
                    "not-your-intake", "Only the person who took this file in, or a coordinator, can take it back.");
        }
        if (!intake.applied()) {
            throw Refusal.conflict("not-applied", "Only a file that was taken in can be taken back.", Map.of());
        }
    }

    /** Taking an intake back changes texts and entries like any other way: by the rights that the person has now. */
    private void requireRights(long person) {
        Rights rights = people.rights(person);
        if (rights.coordinator()) {
            return;
        }
        if (record.concernsEntries()) {
            rights.requireCoordinator("take back what a file did to entries");
        }
        record.languages().forEach((tag, settled) -> {
            if (!(settled ? rights.reviews(tag) : rights.contributes(tag))) {
                throw Refusal.forbidden(
                        "no-right",
                        "Taking this file back changes texts in {language} that you may not change any more; ask a coordinator.",
                        Map.of("language", tag));
            }
        });
    }

    private static UndoReply reply(BulkUndo.Found found, @Nullable Pencilled pencilled) {
        return new UndoReply(
                found.texts(), found.entries(), found.removed(), found.changedSince(), found.changed(), pencilled);
    }
}
