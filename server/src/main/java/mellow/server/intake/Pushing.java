package mellow.server.intake;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.server.common.LongWork;
import mellow.server.common.Refusal;
import mellow.server.intake.DropReply.NotTaken;
import mellow.server.master.ReadingChoice;
import mellow.server.run.RunService.Progress;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** For programs: takes a folder of files in at once, sorted into sets as people's drops are, by a policy that people would otherwise choose on the screen. */
@Service
class Pushing {

    private final Drops drops;
    private final IntakeService intakes;
    private final IntakeReplies replies;
    private final Planner planner;
    private final Taking taking;
    private final JdbcClient jdbc;
    private final TransactionTemplate transaction;

    Pushing(
            Drops drops,
            IntakeService intakes,
            IntakeReplies replies,
            Planner planner,
            Taking taking,
            JdbcClient jdbc,
            TransactionTemplate transaction) {
        this.drops = drops;
        this.intakes = intakes;
        this.replies = replies;
        this.planner = planner;
        this.taking = taking;
        this.jdbc = jdbc;
        this.transaction = transaction;
    }

    /**
     * What a program says about everything it pushes.
     *
     * @param table the only table that anything may go into, by its name in addresses; null for those that the files tell, which may be new
     * @param skip go on without files that cannot go in, instead of taking nothing
     * @param choices what is done about whole kinds of changes; others are done as usual
     */
    record Policy(@Nullable String table, Arrival arrival, boolean skip, Map<ChangeKind, Choice> choices) {

        /** Refuses one that decides something otherwise than it can be. */
        void check() {
            choices.forEach((kind, choice) -> {
                if (!kind.choices().contains(choice)) {
                    throw Refusal.unacceptable(
                            "no-such-choice",
                            "What can be done about {kind} is {choices}, not {choice}.",
                            Map.of("kind", kind, "choices", kind.choices(), "choice", choice));
                }
            });
        }

        /** Where a file goes by it that would go to {@code guessed}. */
        Destination of(Destination guessed) {
            Destination where = table == null
                    ? guessed.into(guessed.table(), guessed.newTable(), arrival)
                    : guessed.into(table, null, arrival);
            for (Map.Entry<ChangeKind, Choice> one : choices.entrySet()) {
                where = where.choosing(one.getKey(), one.getValue());
            }
            return where;
        }
    }

    /**
     * What came, or would come, of a folder.
     *
     * @param intakes sets, and files by themselves
     * @param refused files that are part of nothing, and why
     */
    record PushReply(List<Pushed> intakes, List<NotTaken> refused) {}

    /**
     * A set or a file by itself that was taken in, or would be.
     *
     * @param table the name of its table
     * @param source the table's source language
     * @param set its files; null for one file
     * @param report what it did
     */
    record Pushed(String name, String table, String source, Sets.@Nullable SetReply set, PreviewReply report) {}

    /** Takes all files of an archive in, all of it or nothing; or says what that would do and keeps nothing. */
    PushReply push(long person, byte[] archive, Policy policy, boolean dryRun) {
        policy.check();
        return Objects.requireNonNull(transaction.execute(status -> {
            LongWork.mayTakeItsTime(jdbc);
            long drop = drops.begin(person);
            drops.add(person, drop, "pushed.zip", archive);
            drops.sort(person, drop, Progress.UNWATCHED);
            DropReply sorted = drops.reply(person, drop);
            List<NotTaken> refused = new ArrayList<>(sorted.refused());
            List<Pushed> pushed = new ArrayList<>();
            List<IntakeReply.Listed> all = Objects.requireNonNull(sorted.intakes());
            for (IntakeReply.Listed one : all) {
                boolean elsewhere = policy.table() != null
                        && all.size() > 1
                        && !policy.table().equals(one.table());
                if (elsewhere) {
                    intakes.leave(person, one.about().id());
                    refused.add(new NotTaken(
                            one.about().fileName(),
                            one.about().fileName() + " does not belong to " + policy.table() + ".",
                            true));
                } else {
                    pushed.add(take(person, one.about().id(), policy));
                }
            }
            if (dryRun) {
                // The truth of what would be done is doing it, and then not keeping it.
                status.setRollbackOnly();
            }
            return new PushReply(pushed, refused);
        }));
    }

    /** Takes one file in; or says what that would do and keeps nothing. {@code language}: of its texts, null where it tells. */
    PreviewReply push(
            long person, String name, byte[] content, @Nullable String language, Policy policy, boolean dryRun) {
        policy.check();
        return Objects.requireNonNull(transaction.execute(status -> {
            LongWork.mayTakeItsTime(jdbc);
            long id = intakes.upload(person, name, content);
            IntakeOptions options = planner.options(planner.open(person, id));
            ReadingChoice how = language == null ? options.how() : options.how().in(language);
            intakes.decide(person, id, new IntakeOptions(how, policy.of(options.where())));
            taking.take(person, id, Progress.UNWATCHED);
            PreviewReply done =
                    Objects.requireNonNull(replies.reply(person, id).done().report());
            if (dryRun) {
                // The truth of what would be done is doing it, and then not keeping it.
                status.setRollbackOnly();
            }
            return done;
        }));
    }

    private Pushed take(long person, long id, Policy policy) {
        IntakeOptions options = planner.options(planner.open(person, id));
        IntakeOptions decided = options.going(policy.of(options.where()));
        intakes.decide(person, id, decided);
        Sets.SetReply set = replies.reply(person, id).set();
        if (set != null && set.waiting() > 0 && policy.skip()) {
            intakes.decideSet(person, id, new Sets.SetChoice(decided, without(set)));
        }
        taking.take(person, id, Progress.UNWATCHED);
        IntakeReply reply = replies.reply(person, id);
        return new Pushed(
                reply.about().fileName(),
                Objects.requireNonNull(reply.into().tableName()),
                planner.sourceOf(planner.mine(person, id)).value(),
                reply.set(),
                Objects.requireNonNull(reply.done().report()));
    }

    private static List<Sets.FileChoice> without(Sets.SetReply set) {
        return set.files().stream()
                .filter(file -> file.facts() != null && file.facts().blocked() != null)
                .map(file -> new Sets.FileChoice(file.path(), file.language(), file.source(), true, null, null))
                .toList();
    }
}
