package mellow.server.intake;

import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import mellow.core.format.FileReading.Field;
import mellow.core.format.Limits;
import mellow.core.format.Problem;
import mellow.core.format.Problems;
import mellow.core.format.csv.CsvFormat;
import mellow.core.format.csv.CsvReading;
import mellow.core.language.LanguageTag;
import mellow.core.merge.TextEffect.Arrival;
import mellow.server.common.Refusal;
import mellow.server.coverage.CoverageService;
import mellow.server.file.FileStore;
import mellow.server.intake.Applier.Describing;
import mellow.server.intake.IntakeOptions.ColumnChoice;
import mellow.server.intake.IntakeReply.ReadingReply;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.record.RecordReader;
import mellow.server.run.RunService;
import mellow.server.run.RunService.Progress;
import mellow.server.run.RunService.RunReply;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DataSourceUtils;
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
    private final FileStore files;
    private final MasterFiles masters;
    private final TableService tables;
    private final PeopleService people;
    private final LanguageService languages;
    private final CoverageService coverage;
    private final RecordReader records;
    private final RunService runs;
    private final JdbcClient jdbc;
    private final DataSource database;
    private final JsonMapper json;
    private final TransactionTemplate transaction;
    private final Clock clock;

    IntakeService(
            IntakeRepository intakes,
            FileStore files,
            MasterFiles masters,
            TableService tables,
            PeopleService people,
            LanguageService languages,
            CoverageService coverage,
            RecordReader records,
            RunService runs,
            JdbcClient jdbc,
            DataSource database,
            JsonMapper json,
            TransactionTemplate transaction,
            Clock clock) {
        this.intakes = intakes;
        this.files = files;
        this.masters = masters;
        this.tables = tables;
        this.people = people;
        this.languages = languages;
        this.coverage = coverage;
        this.records = records;
        this.runs = runs;
        this.jdbc = jdbc;
        this.database = database;
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
        Intake intake = open(person, id);
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
        Intake intake = mine(person, id);
        IntakeOptions options = options(intake);
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
        CsvReading reading = CsvFormat.read(intake.fileName(), files.load(intake.file()), options.csv());
        Set<LanguageTag> kept = intake.table()
                .map(tables::find)
                .map(table -> table.languages().stream().map(Kept::tag).collect(Collectors.toSet()))
                .orElse(Set.of());
        LanguageTag source =
                intake.table().map(table -> tables.find(table).source()).orElseGet(() -> sourceOf(options));
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
                        .filter(tag -> !tag.equals(source) && !kept.contains(tag))
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
        Intake intake = open(person, id);
        Plan plan = plan(person, intake);
        Preview preview = new Preview(
                plan.arrivals(), plan.options().meaningMoves(), plan.rights().coordinator());
        Comparison comparison = new Comparison(plan.file(), plan.base(), plan.source(), plan.arrivals());
        plan.table().ifPresent(table -> records.read(table.id(), person, entry -> comparison.compare(entry, preview)));
        comparison.rest(preview);
        return preview.reply(plan.file());
    }

    /** Starts applying as a run. */
    public void start(long person, long id) {
        transaction.executeWithoutResult(status -> requireReady(plan(person, open(person, id))));
        runs.start(RUN, id, person, progress -> apply(person, id, progress));
    }

    /** Applies the intake now, all of it in one transaction. */
    public void apply(long person, long id, Progress progress) {
        apply(person, id, progress, clock.instant());
    }

    /** The same at a given time, for demo data with a past. */
    public void apply(long person, long id, Progress progress, Instant at) {
        transaction.executeWithoutResult(status -> applyInTransaction(person, id, progress, at));
    }

    private void applyInTransaction(long person, long id, Progress progress, Instant at) {
        Intake intake = open(person, id);
        Plan plan = plan(person, intake);
        requireReady(plan);
        TableInfo table = tableFor(plan);
        tables.holdAlone(table.id());
        Map<LanguageTag, Short> numbers = new HashMap<>();
        tables.find(table.id()).languages().forEach(kept -> numbers.put(kept.tag(), kept.number()));
        Preview preview = new Preview(
                plan.arrivals(), plan.options().meaningMoves(), plan.rights().coordinator());
        Comparison comparison = new Comparison(plan.file(), plan.base(), plan.source(), plan.arrivals());
        Connection connection = DataSourceUtils.getConnection(database);
        Applier.Order order = new Applier.Order(
                table.id(),
                id,
                person,
                at,
                plan.options().meaningMoves(),
                plan.rights().coordinator(),
                describing(plan.file()));
        try (Applier applier = new Applier(
                connection, order, plan.arrivals(), numbers, plan.file().size())) {
            Comparison.Listener both = new CountedListeners(
                    preview, applier, progress, 2L * plan.file().size());
            records.read(table.id(), person, entry -> comparison.compare(entry, both));
            applier.reserve(comparison.unmet());
            applier.recordIsRead();
            comparison.rest(both);
            applier.send();
        } catch (SQLException failed) {
            throw new org.springframework.jdbc.UncategorizedSQLException("apply intake", null, failed);
        } finally {
            DataSourceUtils.releaseConnection(connection, database);
        }
        coverage.recount(table.id());
        masters.keep(table.id(), intake, exact(plan), at);
        intake.applied(table.id(), json.writeValueAsString(preview.reply(plan.file())), at);
        progress.at(2L * plan.file().size(), 2L * plan.file().size());
    }

    /** Leaves the file alone; it stays in the list. */
    @Transactional
    public void leave(long person, long id) {
        open(person, id).left();
    }

    /** Cancels applying. */
    @Transactional
    public void cancel(long person, long id) {
        mine(person, id);
        runs.cancel(RUN, id);
    }

    private Plan plan(long person, Intake intake) {
        IntakeOptions options = options(intake);
        Rights rights = people.rights(person);
        CsvReading file = CsvFormat.read(intake.fileName(), files.load(intake.file()), options.csv());
        Optional<TableInfo> table = intake.table().map(tables::find);
        LanguageTag source = table.map(TableInfo::source).orElseGet(() -> sourceOf(options));
        CsvReading base = table.flatMap(known -> masters.read(known.id(), intake.fileName()))
                .orElse(null);
        return new Plan(options, rights, file, base, table, source, arrivals(file, source, options, rights));
    }

    private LanguageTag sourceOf(IntakeOptions options) {
        return languages.parse(Objects.requireNonNullElse(options.source(), "en"));
    }

    /** How texts arrive, by language: as chosen where the person may settle, as offers where they may contribute, not at all elsewhere. */
    private static Map<LanguageTag, Arrival> arrivals(
            CsvReading file, LanguageTag source, IntakeOptions options, Rights rights) {
        Arrival chosen = options.arriving().orElse(Arrival.OFFERED);
        Map<LanguageTag, Arrival> arrivals = new HashMap<>();
        for (LanguageTag tag : file.languages()) {
            if (tag.equals(source) || !rights.contributes(tag)) {
                continue;
            }
            arrivals.put(tag, rights.reviews(tag) || chosen != Arrival.SETTLED ? chosen : Arrival.OFFERED);
        }
        return arrivals;
    }

    private static void requireReady(Plan plan) {
        if (plan.file().blocked()) {
            throw Refusal.unacceptable(
                    "file-blocked",
                    plan.file().problems().stream()
                            .filter(problem -> problem.severity() == Problem.Severity.ERROR)
                            .findFirst()
                            .orElseThrow()
                            .sentence());
        }
        if (plan.table().isEmpty()) {
            plan.rights().requireCoordinator("make a new table");
            if (!plan.file().languages().contains(plan.source())) {
                throw Refusal.unacceptable(
                        "no-source-column",
                        "The file has no column in " + plan.source()
                                + ", the source language of the new table; choose the column of the source texts.");
            }
        }
    }

    private TableInfo tableFor(Plan plan) {
        List<LanguageTag> targets = plan.file().languages().stream()
                .filter(tag -> !tag.equals(plan.source()))
                .toList();
        if (plan.table().isEmpty()) {
            return tables.create(
                    Objects.requireNonNullElse(plan.options().newTable(), ""),
                    plan.source(),
                    targets,
                    plan.options().settlesOwn());
        }
        TableInfo table = plan.table().get();
        if (plan.rights().coordinator()) {
            tables.addLanguages(table.id(), targets, false);
        } else {
            plan.arrivals()
                    .keySet()
                    .retainAll(table.languages().stream().map(Kept::tag).toList());
        }
        return table;
    }

    private static Describing describing(CsvReading file) {
        return new Describing(
                file.has(Field.NOTE), file.has(Field.REFERENCE), file.has(Field.SECTION), file.has(Field.LIMIT));
    }

    /** The options with every guess written down, so that the file is read the same way for ever. */
    private static IntakeOptions exact(Plan plan) {
        IntakeOptions chosen = plan.options();
        CsvReading file = plan.file();
        return new IntakeOptions(
                file.encoding().charset().name(),
                String.valueOf(file.dialect().delimiter()),
                String.valueOf(file.dialect().quote()),
                file.layout().headerRow(),
                file.layout().columns().stream().map(ColumnChoice::of).toList(),
                chosen.table(),
                chosen.newTable(),
                chosen.source(),
                chosen.settlesOwn(),
                chosen.arrival(),
                chosen.meaningChanged());
    }

    private IntakeOptions options(Intake intake) {
        return json.readValue(intake.options(), IntakeOptions.class);
    }

    private Intake mine(long person, long id) {
        Intake intake = intakes.findById(id)
                .orElseThrow(() -> Refusal.notFound("no-such-intake", "This intake does not exist."));
        if (intake.person() != person && !people.rights(person).coordinator()) {
            throw Refusal.forbidden(
                    "not-your-intake", "Only the person who brought this file, or a coordinator, can see it.");
        }
        return intake;
    }

    private Intake open(long person, long id) {
        Intake intake = mine(person, id);
        if (!intake.open()) {
            throw Refusal.conflict(
                    "intake-closed",
                    intake.status().equals("applied")
                            ? "This file has been taken in already."
                            : "This file was left; bring it again to take it in.",
                    Map.of());
        }
        return intake;
    }

    private String personName(long person) {
        return jdbc.sql("select name from person where id = :id")
                .param("id", person)
                .query(String.class)
                .single();
    }

    /** Everything that taking a file in depends on. */
    private record Plan(
            IntakeOptions options,
            Rights rights,
            CsvReading file,
            @Nullable CsvReading base,
            Optional<TableInfo> table,
            LanguageTag source,
            Map<LanguageTag, Arrival> arrivals) {}
}
