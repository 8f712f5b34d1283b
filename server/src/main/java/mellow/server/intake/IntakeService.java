package mellow.server.intake;

import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import mellow.core.format.Limits;
import mellow.core.format.Problems;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.csv.CsvFormat;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.set.FileSet;
import mellow.server.common.Refusal;
import mellow.server.file.FileStore;
import mellow.server.master.ReadingChoice;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/** Brings files in: read, see what it would do, decide, apply. Nothing changes in a table before it is applied, and then all of it or nothing. */
@Service
public class IntakeService {

    static final String RUN = "intake";
    static final String UNDO_RUN = "undo";
    private static final int ANALYZED_FROM = 1_000;

    private final IntakeRepository intakes;
    private final IntakeFiles members;
    private final ReadingShown shown;
    private final Sets sets;
    private final Planner planner;
    private final Taking taking;
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
                    "{open} files that you brought wait to be decided about; take some in or leave them first.",
                    Map.of("open", openIntakes));
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
        boolean unread = shown.of(intake, planner.options(intake)).trouble().unread();
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

    /** Says of all changes of a kind what becomes of them. */
    @Transactional
    public void decide(long person, long id, ChangeKind kind, Choice choice) {
        IntakeOptions options = planner.options(planner.open(person, id));
        decide(person, id, options.going(options.where().choosing(kind, choice)));
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

    /** Why a table of that name cannot be made; empty when it can, or when files go into one that is there. */
    public Optional<String> nameTaken(@Nullable String table, @Nullable String newTable) {
        return planner.nameTaken(Destination.UNDECIDED.into(table, newTable, null));
    }

    /** Leaves alone a file that another takes the place of; nothing for one that was decided about. */
    @Transactional
    public void leaveOpen(long person, long id) {
        if (planner.mine(person, id).open()) {
            leave(person, id);
        }
    }

    /** Cancels applying. */
    @Transactional
    public void cancel(long person, long id) {
        planner.mine(person, id);
        runs.cancel(RUN, id);
    }
}
