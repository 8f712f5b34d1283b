package mellow.server.intake;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import mellow.core.format.Limits;
import mellow.core.format.Problem;
import mellow.core.format.Problems;
import mellow.core.format.csv.CsvFormat;
import mellow.core.format.csv.CsvReading;
import mellow.core.language.LanguageTag;
import mellow.core.merge.TextEffect.Arrival;
import mellow.server.common.Refusal;
import mellow.server.file.FileStore;
import mellow.server.intake.IntakeOptions.ColumnChoice;
import mellow.server.intake.IntakeReply.ReadingReply;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Progress;
import mellow.server.run.RunService.RunReply;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
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
    private static final int SHOWN_ROWS = 14;
    private static final int LISTED = 50;
    private static final int LONGEST_NAME = 300;

    private final IntakeRepository intakes;
    private final Planner planner;
    private final Taking taking;
    private final FileStore files;
    private final MasterFiles masters;
    private final TableService tables;
    private final PeopleService people;
    private final RecordReader records;
    private final RunService runs;
    private final JdbcClient jdbc;
    private final JsonMapper json;
    private final TransactionTemplate transaction;
    private final Clock clock;

    IntakeService(
            IntakeRepository intakes,
            Planner planner,
            FileStore files,
            MasterFiles masters,
            TableService tables,
            PeopleService people,
            RecordReader records,
            RunService runs,
            JdbcClient jdbc,
            JsonMapper json,
            Taking taking,
            TransactionTemplate transaction,
            Clock clock) {
        this.intakes = intakes;
        this.planner = planner;
        this.taking = taking;
        this.files = files;
        this.masters = masters;
        this.tables = tables;
        this.people = people;
        this.records = records;
        this.runs = runs;
        this.jdbc = jdbc;
        this.json = json;
        this.transaction = transaction;
        this.clock = clock;
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
        String path = name.strip();
        if (path.isEmpty() || path.length() > LONGEST_NAME) {
            throw Refusal.unacceptable(
                    "bad-name",
                    "A file needs a name of 1 to " + LONGEST_NAME + " characters.",
                    Map.of("field", "name"));
        }
        CsvReading reading = CsvFormat.read(path, content, IntakeOptions.UNDECIDED.csv());
        IntakeOptions guessed = guess(path, reading, people.rights(person));
        Intake intake =
                new Intake(person, files.store(path, content), path, json.writeValueAsString(guessed), clock.instant());
        intake.decide(
                json.writeValueAsString(guessed),
                guessed.table() == null ? null : tables.find(guessed.table()).id());
        return intakes.saveAndFlush(intake).id();
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

    private IntakeOptions guess(String path, CsvReading reading, Rights rights) {
        Arrival arrival = rights.coordinator() ? Arrival.SETTLED : Arrival.OFFERED;
        Optional<TableInfo> earlier = masters.tableOf(path).map(tables::find);
        String title = title(path);
        Optional<TableInfo> named = tables.all().stream()
                .map(TableService.Listed::table)
                .filter(table -> table.name().equalsIgnoreCase(title))
                .findFirst();
        String table = earlier.or(() -> named).map(TableInfo::slug).orElse(null);
        LanguageTag english = new LanguageTag("en");
        String source =
                reading.languages().contains(english) || reading.languages().isEmpty()
                        ? english.value()
                        : reading.languages().get(0).value();
        return new IntakeOptions(
                null, null, null, null, null, table, table == null ? title : null, source, false, arrival, true);
    }

    /** "panels/ramp-panel_v2.csv" reads "Ramp panel". */
    static String title(String path) {
        String file = path.substring(path.lastIndexOf('/') + 1).replaceFirst("\\.[A-Za-z0-9]{1,5}$", "");
        String words = file.replaceAll("[-_.]+", " ")
                .replaceFirst("(?i)\\s+(v|version)?\\s*[0-9]+$", "")
                .strip();
        return words.isEmpty() ? "Table" : Character.toUpperCase(words.charAt(0)) + words.substring(1);
    }

    /** Changes what was decided; what was chosen before stays when this cannot be read. */
    @Transactional
    void decide(long person, long id, IntakeOptions options) {
        Intake intake = planner.open(person, id);
        CsvFormat.read(intake.fileName(), files.load(intake.file()), options.csv());
        Long table = options.table() == null
                ? null
                : Long.valueOf(tables.find(options.table()).id());
        intake.decide(json.writeValueAsString(options), table);
    }

    /**
     * Says where a file goes and how its texts arrive; how it is read is found out.
     *
     * @param table the table's name in addresses, or null to make {@code newTable}
     */
    @Transactional
    public void decide(long person, long id, @Nullable String table, @Nullable String newTable, Arrival arrival) {
        decide(
                person,
                id,
                new IntakeOptions(null, null, null, null, null, table, newTable, null, false, arrival, true));
    }

    /** The intake with everything its screen needs. */
    @Transactional(readOnly = true)
    IntakeReply reply(long person, long id) {
        Intake intake = planner.mine(person, id);
        IntakeOptions options = planner.options(intake);
        Optional<RunReply> run = runs.latest(RUN, id);
        // A screen that watches the progress asks often; reading the file again and again would slow down what it
        // watches.
        boolean going = run.filter(one -> one.status().equals("going")).isPresent();
        ReadingReply reading = intake.open() && !going ? reading(intake, options) : null;
        return new IntakeReply(
                intake.id(),
                intake.fileName(),
                intake.status(),
                personName(intake.person()),
                intake.createdAt(),
                intake.appliedAt().orElse(null),
                options,
                reading,
                intake.table().map(table -> tables.find(table).slug()).orElse(null),
                intake.table().map(table -> tables.find(table).name()).orElse(null),
                intake.report()
                        .map(report -> json.readValue(report, PreviewReply.class))
                        .orElse(null),
                run.orElse(null));
    }

    private ReadingReply reading(Intake intake, IntakeOptions options) {
        CsvReading reading = planner.read(intake, options);
        Optional<TableInfo> table = intake.table().map(tables::find);
        LanguageTag source = planner.source(table, options);
        return new ReadingReply(
                "CSV",
                reading.encoding().charset().name(),
                reading.encoding().byteOrderMark() > 0,
                String.valueOf(reading.dialect().delimiter()),
                String.valueOf(reading.dialect().quote()),
                reading.guarded(),
                reading.layout().headerRow(),
                reading.layout().columns().stream().map(ColumnChoice::of).toList(),
                reading.firstRows(SHOWN_ROWS),
                reading.size(),
                reading.blocked(),
                reading.problems().stream().map(Problem::sentence).toList(),
                reading.problemCount(),
                reading.languages().stream()
                        .filter(tag -> !tag.equals(source)
                                && table.flatMap(known -> known.language(tag)).isEmpty())
                        .map(LanguageTag::value)
                        .toList());
    }

    /** The newest intakes, all of them for a coordinator, else one's own. */
    @Transactional(readOnly = true)
    List<IntakeReply.Listed> all(long person, long before) {
        Rights rights = people.rights(person);
        Map<Long, TableInfo> known = tables.all().stream()
                .map(TableService.Listed::table)
                .collect(Collectors.toMap(TableInfo::id, table -> table));
        return intakes.findByIdLessThanOrderByIdDesc(before, Limit.of(LISTED)).stream()
                .filter(intake -> rights.coordinator() || intake.person() == person)
                .map(intake -> {
                    Optional<TableInfo> table = intake.table().map(known::get);
                    return new IntakeReply.Listed(
                            intake.id(),
                            intake.fileName(),
                            intake.status(),
                            personName(intake.person()),
                            table.map(TableInfo::slug).orElse(null),
                            table.map(TableInfo::name).orElse(null),
                            intake.createdAt(),
                            intake.appliedAt().orElse(null));
                })
                .toList();
    }

    /** What the intake would do if it were applied now. Changes nothing. */
    @Transactional(readOnly = true)
    PreviewReply preview(long person, long id) {
        Intake intake = planner.open(person, id);
        Plan plan = planner.plan(person, intake);
        Preview preview = plan.preview();
        Comparison comparison = plan.comparison();
        plan.table().ifPresent(table -> records.read(table.id(), person, entry -> comparison.compare(entry, preview)));
        comparison.rest(preview);
        return preview.reply(plan.file());
    }

    /** Starts applying as a run. */
    public void start(long person, long id) {
        transaction.executeWithoutResult(
                status -> planner.plan(person, planner.open(person, id)).requireReady());
        runs.start(RUN, id, person, progress -> apply(person, id, progress));
    }

    /** Applies the intake now, all of it in one transaction. */
    public void apply(long person, long id, Progress progress) {
        apply(person, id, progress, clock.instant());
    }

    /** The same at a given time, for demo data with a past. */
    public void apply(long person, long id, Progress progress, Instant at) {
        taking.take(person, id, progress, at);
    }

    /** Leaves the file alone; it stays in the list. */
    @Transactional
    public void leave(long person, long id) {
        planner.open(person, id).left();
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
