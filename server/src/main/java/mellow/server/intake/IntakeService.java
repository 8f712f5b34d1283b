package mellow.server.intake;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.csv.CsvFormat;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.set.FileSet;
import mellow.server.common.LongWork;
import mellow.server.common.Refusal;
import mellow.server.file.FileStore;
import mellow.server.intake.IntakeReply.ReadingReply;
import mellow.server.master.ReadingChoice;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Progress;
import mellow.server.run.RunService.RunReply;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.data.domain.Limit;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/** Brings files in: read, see what it would do, decide, apply. Nothing changes in a table before it is applied, and then all of it or nothing. */
@Service
public class IntakeService {

    static final String RUN = "intake";
    static final String COMPARE_RUN = "compare";
    static final String UNDO_RUN = "undo";
    private static final int LISTED = 50;
    private static final int MOST_LINES = 500;
    private static final int ANALYZED_FROM = 1_000;
    private static final Duration WAITS = Duration.ofMillis(900);
    /** Activity is added up in slots of ten minutes. */
    private static final Duration SLOTS = Duration.ofMinutes(11);

    private final IntakeRepository intakes;
    private final IntakeFiles members;
    private final ReadingShown shown;
    private final Sets sets;
    private final Planner planner;
    private final Taking taking;
    private final Comparing comparing;
    private final Undoing undoing;
    private final LineStore lines;
    private final Guesses guesses;
    private final FileStore files;
    private final TableService tables;
    private final PeopleService people;
    private final RunService runs;
    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final int openIntakes;

    IntakeService(
            IntakeRepository intakes,
            IntakeFiles members,
            ReadingShown shown,
            Sets sets,
            Planner planner,
            FileStore files,
            TableService tables,
            PeopleService people,
            RunService runs,
            JdbcClient jdbc,
            JsonMapper json,
            Taking taking,
            Comparing comparing,
            Undoing undoing,
            LineStore lines,
            Guesses guesses,
            TransactionTemplate transaction,
            Clock clock,
            @Value("${mellow.uploads.open-intakes:1000}") int openIntakes) {
        this.intakes = intakes;
        this.members = members;
        this.shown = shown;
        this.sets = sets;
        this.planner = planner;
        this.taking = taking;
        this.comparing = comparing;
        this.undoing = undoing;
        this.lines = lines;
        this.guesses = guesses;
        this.files = files;
        this.tables = tables;
        this.people = people;
        this.runs = runs;
        this.jdbc = jdbc;
        this.json = json;
        this.transaction = transaction;
        this.clock = clock;
        this.openIntakes = openIntakes;
        runs.handle(RUN, (order, progress) -> apply(order.person(), order.subject(), progress));
        runs.handle(COMPARE_RUN, (order, progress) -> comparing.compare(order.person(), order.subject(), progress));
        runs.handle(
                UNDO_RUN,
                (order, progress) ->
                        undo(order.person(), order.subject(), order.arguments().equals("true")));
    }

    /** Refuses before anything is sent: by right, by name, and by how many files of one's own nobody has decided about. */
    @Transactional(readOnly = true)
    public void requireMayUpload(long person, String name) {
        people.rights(person).requireAny("bring files in");
        Paths.checked(name);
        if (intakes.countByPersonIdAndStatus(person, "open") >= openIntakes) {
            throw Refusal.tooMany(
                    "too-many-open",
                    openIntakes + " files that you brought wait to be decided about; take some in or leave them first.",
                    Map.of());
        }
    }

    /**
     * Keeps an uploaded file and reads it.
     *
     * @param name the file's name or path; names the base of the comparison
     * @return the new intake's number
     * @throws mellow.core.format.UnreadableFileException when it cannot be read; then nothing is kept
     */
    @Transactional
    public long upload(long person, String name, byte[] content) {
        String path = Paths.checked(name);
        Rights rights = people.rights(person);
        rights.requireAny("bring files in");
        long file = files.store(person, path, content);
        IntakeOptions options = guesses.about(path, file, () -> content, rights);
        Planner.requireRightIn(
                rights, Optional.ofNullable(options.where().table()).map(tables::find));
        return kept(person, path, file, options);
    }

    /**
     * The same, but a file that cannot be read as it seems is kept as well: somebody may know its format or character set better.
     *
     * @return the new intake's number
     */
    @Transactional
    public long bring(long person, String name, byte[] content) {
        String path = Paths.checked(name);
        people.rights(person).requireAny("bring files in");
        return kept(person, path, files.store(person, path, content), () -> content);
    }

    private long kept(long person, String path, long file, IntakeOptions options) {
        Intake intake = new Intake(person, path, json.writeValueAsString(options), clock.instant());
        intake.decide(
                json.writeValueAsString(options),
                options.where().table() == null
                        ? null
                        : tables.find(options.where().table()).id());
        long id = intakes.saveAndFlush(intake).id();
        members.addOnly(id, path, file);
        shown.note(intake, options);
        return id;
    }

    /** An intake of a stored file, as it tells; of one that cannot be read as it seems, as its path tells. */
    private long kept(long person, String path, long file, Supplier<byte[]> content) {
        Rights rights = people.rights(person);
        IntakeOptions options;
        try {
            options = guesses.about(path, file, content, rights);
        } catch (UnreadableFileException unread) {
            options = guesses.aboutUnread(path, rights);
        }
        Planner.requireRightIn(
                rights, Optional.ofNullable(options.where().table()).map(tables::find));
        return kept(person, path, file, options);
    }

    /** An intake of a stored file by itself, into the table that its set tells. */
    @Transactional
    public long makeOfOne(long person, FileSet set, long file, String name) {
        FileSet.Member only = set.members().get(0);
        IntakeOptions guessed = guesses.about(only.path(), file, () -> files.load(file), people.rights(person));
        Optional<TableInfo> table = Optional.ofNullable(set.table()).map(tables::find);
        ReadingChoice how = guessed.how().language() == null && only.language().isPresent()
                ? guessed.how().in(only.language().get().value())
                : guessed.how();
        Destination where = guessed.where()
                .into(
                        table.map(TableInfo::slug).orElse(null),
                        table.isEmpty() ? name : null,
                        guessed.where().arrival());
        if (table.isPresent()) {
            where = where.from(table.get().source().value());
        }
        return kept(person, only.path(), file, new IntakeOptions(how, where));
    }

    /** An intake of a stored file by itself, as it tells. */
    @Transactional
    public long makeOfOne(long person, String path, long file) {
        return kept(person, path, file, () -> files.load(file));
    }

    /**
     * Takes a file into a table by a policy, or says what that would do and keeps nothing.
     *
     * @param policy what is done about whole kinds of changes; others are done as usual
     */
    PreviewReply push(
            long person,
            String name,
            byte[] content,
            String table,
            @Nullable String language,
            Arrival arrival,
            Map<ChangeKind, Choice> policy,
            boolean dryRun) {
        checkPolicy(policy);
        return java.util.Objects.requireNonNull(transaction.execute(status -> {
            LongWork.mayTakeItsTime(jdbc);
            long id = upload(person, name, content);
            IntakeOptions options = planner.options(planner.open(person, id));
            Destination where = options.where().into(table, null, arrival);
            for (Map.Entry<ChangeKind, Choice> one : policy.entrySet()) {
                where = where.choosing(one.getKey(), one.getValue());
            }
            ReadingChoice how = language == null ? options.how() : options.how().in(language);
            decide(person, id, new IntakeOptions(how, where));
            taking.take(person, id, Progress.UNWATCHED);
            PreviewReply done =
                    java.util.Objects.requireNonNull(reply(person, id).report());
            if (dryRun) {
                // The truth of what would be done is doing it, and then not keeping it.
                status.setRollbackOnly();
            }
            return done;
        }));
    }

    /** Refuses a policy that decides something otherwise than it can be. */
    static void checkPolicy(Map<ChangeKind, Choice> policy) {
        policy.forEach((kind, choice) -> {
            if (!kind.choices().contains(choice)) {
                throw Refusal.unacceptable(
                        "no-such-choice",
                        "What can be done about " + kind + " is " + kind.choices() + ", not " + choice + ".");
            }
        });
    }

    /** Refuses a file by its size alone. */
    public static void refuseSize(String name, long bytes) {
        if (bytes > Limits.DEFAULT.bytes()) {
            throw Refusal.tooLarge(
                    "file-too-large",
                    String.valueOf(CsvFormat.tooLarge(new Problems(name), bytes, Limits.DEFAULT.bytes())
                            .getMessage()));
        }
    }

    /** Changes what was decided; what was chosen before stays when this cannot be read. */
    @Transactional
    void decide(long person, long id, IntakeOptions options) {
        Intake intake = planner.open(person, id);
        if (intake.pattern().isPresent()) {
            sets.decide(intake, new Sets.SetChoice(options, List.of()));
            return;
        }
        Optional<TableInfo> into = Optional.ofNullable(options.where().table()).map(tables::find);
        Planner.requireRightIn(people.rights(person), into);
        boolean unread = shown.of(intake, planner.options(intake)).unread();
        intake.decide(json.writeValueAsString(options), into.map(TableInfo::id).orElse(null));
        if (!unread) {
            // Refused in a way that it cannot be read in, so what was chosen before stays; one that never could be is
            // tried in any way.
            planner.read(intake, options, Progress.UNWATCHED);
        }
        shown.note(intake, options);
    }

    /** Changes what was decided about a set and its files. */
    @Transactional
    void decideSet(long person, long id, Sets.SetChoice choice) {
        Intake intake = planner.open(person, id);
        if (intake.pattern().isEmpty()) {
            throw Refusal.unacceptable("no-set", "This is an intake of one file and no set.");
        }
        sets.decide(intake, choice);
    }

    /**
     * Says where a file goes and how its texts arrive; how it is read is found out.
     *
     * @param table the table's name in addresses, or null to make {@code newTable}
     */
    @Transactional
    public void decide(long person, long id, @Nullable String table, @Nullable String newTable, Arrival arrival) {
        Intake intake = planner.open(person, id);
        IntakeOptions options = planner.options(intake);
        decide(person, id, options.going(options.where().into(table, newTable, arrival)));
    }

    /** The intake with everything its screen needs. */
    @Transactional(readOnly = true)
    IntakeReply reply(long person, long id) {
        Intake intake = planner.mine(person, id);
        IntakeOptions options = planner.options(intake);
        Optional<RunReply> run = runs.latest(RUN, id);
        // A screen that watches the progress asks often; reading the file again and again would slow down what it
        // watches.
        boolean going = run.filter(RunReply::open).isPresent();
        // A table that was made for it is gone when it is taken back.
        Optional<TableInfo> table = intake.table().flatMap(tables::there);
        boolean looksAtIt = intake.open() && !going && intake.pattern().isEmpty();
        ReadingReply reading = looksAtIt ? shown.of(intake, options) : null;
        return new IntakeReply(
                intake.id(),
                intake.fileName(),
                intake.status(),
                personName(intake.person()),
                intake.createdAt(),
                intake.appliedAt().orElse(null),
                options,
                reading,
                table.map(TableInfo::slug).orElse(null),
                table.map(TableInfo::name).orElse(null),
                intake.report()
                        .map(report -> json.readValue(report, PreviewReply.class))
                        .orElse(null),
                intake.undoReport()
                        .map(report -> json.readValue(report, Undoing.UndoReply.class))
                        .orElse(null),
                intake.undoneAt().orElse(null),
                intake.undoneBy().map(this::personName).orElse(null),
                sets.reply(intake).orElse(null),
                (intake.open() ? run : runs.latest(UNDO_RUN, id).or(() -> run)).orElse(null));
    }

    /** The newest intakes, all of them for a coordinator, else one's own. */
    @Transactional(readOnly = true)
    List<IntakeReply.Listed> all(long person, long before) {
        Rights rights = people.rights(person);
        Map<Long, TableInfo> known = tables.all().stream()
                .map(TableService.Listed::table)
                .collect(Collectors.toMap(TableInfo::id, table -> table));
        List<Intake> shown = rights.coordinator()
                ? intakes.findByIdLessThanOrderByIdDesc(before, Limit.of(LISTED))
                : intakes.findByPersonIdAndIdLessThanOrderByIdDesc(person, before, Limit.of(LISTED));
        Map<Long, Integer> counts =
                members.counts(shown.stream().map(Intake::id).toList());
        return shown.stream()
                .map(intake -> listed(intake, intake.table().map(known::get), counts.getOrDefault(intake.id(), 0)))
                .toList();
    }

    IntakeReply.Listed listed(long person, long id) {
        return java.util.Objects.requireNonNull(transaction.execute(status -> {
            Intake intake = planner.mine(person, id);
            return listed(
                    intake,
                    intake.table().flatMap(tables::there),
                    members.counts(List.of(id)).getOrDefault(id, 0));
        }));
    }

    private IntakeReply.Listed listed(Intake intake, Optional<TableInfo> table, int files) {
        PreviewReply report = intake.report()
                .map(told -> json.readValue(told, PreviewReply.class))
                .orElse(null);
        return new IntakeReply.Listed(
                intake.id(),
                intake.fileName(),
                intake.status(),
                personName(intake.person()),
                table.map(TableInfo::slug).orElse(null),
                table.map(TableInfo::name).orElse(null),
                intake.createdAt(),
                intake.appliedAt().orElse(null),
                files,
                report == null ? Map.of() : sums(report));
    }

    private static Map<ChangeKind, Integer> sums(PreviewReply report) {
        Map<ChangeKind, Integer> sums = new EnumMap<>(ChangeKind.class);
        report.groups().forEach(group -> sums.put(group.kind(), group.count()));
        return sums;
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
            boolean started = runs.startWhen(COMPARE_RUN, id, person, "", () -> needsComparing(person, id, anew[0]));
            runs.await(COMPARE_RUN, id, WAITS);
            if (!started) {
                break;
            }
            anew[0] = false;
        }
        return java.util.Objects.requireNonNull(transaction.execute(status -> compared(person, id)));
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
        Intake intake = planner.mine(person, id);
        RunReply run = runs.latest(COMPARE_RUN, id).orElse(null);
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
                sums.arrivals().getOrDefault(Arrival.SETTLED, 0),
                sums.arrivals().getOrDefault(Arrival.OFFERED, 0),
                sums.arrivals().getOrDefault(Arrival.PENCILLED, 0),
                sums.stale(),
                null,
                result.unchanged(),
                result.problems(),
                result.problemCount());
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
    LineStore.Page lines(long person, long id, ChangeKind kind, String find, int from, int size) {
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
            @Nullable @jakarta.validation.constraints.Size(max = 10_000) List<Integer> lines,
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
            intake.comparison()
                    .orElseThrow(() -> Refusal.conflict(
                            "not-compared", "This file has to be compared again first; reload the page.", Map.of()));
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

    /** What taking an intake back would do. Changes nothing. */
    @Transactional
    Undoing.UndoReply undoing(long person, long id) {
        return undoing.look(person, planner.mine(person, id));
    }

    /** Starts taking an intake back, as a run. */
    public void startUndo(long person, long id, boolean all) {
        transaction.executeWithoutResult(status -> undoing.look(person, planner.mine(person, id)));
        runs.start(UNDO_RUN, id, person, Boolean.toString(all));
    }

    /**
     * Takes an intake back now: what it changed becomes what it was before.
     *
     * @param all put back what was changed since, too
     */
    public void undo(long person, long id, boolean all) {
        undoing.undo(person, id, all);
    }

    /** Starts applying as a run. */
    public void start(long person, long id) {
        transaction.executeWithoutResult(status -> {
            Intake intake = planner.open(person, id);
            if (intake.pattern().isEmpty()) {
                planner.plan(person, intake, Progress.UNWATCHED).requireReady();
            } else {
                sets.requireReady(person, intake);
            }
        });
        runs.start(RUN, id, person, "");
    }

    /** Applies the intake now, all of it in one transaction. */
    public void apply(long person, long id, Progress progress) {
        int touched = taking.take(person, id, progress);
        if (touched > ANALYZED_FROM) {
            // What came by the thousand is unknown to the planner, and until it is known everybody's queries suffer.
            jdbc.sql("analyze entry, cell").update();
        }
    }

    /** Leaves the file alone; it stays in the list. */
    @Transactional
    public void leave(long person, long id) {
        planner.open(person, id).left();
        lines.forget(id);
    }

    /** Cancels applying. */
    @Transactional
    public void cancel(long person, long id) {
        planner.mine(person, id);
        runs.cancel(RUN, id);
    }

    private String personName(long person) {
        return jdbc.sql("select name from person where id = :id")
                .param("id", person)
                .query(String.class)
                .single();
    }
}
