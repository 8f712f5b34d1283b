package mellow.server.intake;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import mellow.core.merge.ChangeKind;
import mellow.server.intake.IntakeReply.ReadingReply;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.run.RunService;
import mellow.server.run.RunService.RunReply;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.data.domain.Limit;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** What screens show of intakes. */
@Service
class IntakeReplies {

    private static final int LISTED = 50;

    private final IntakeRepository intakes;
    private final IntakeFiles members;
    private final ReadingShown shown;
    private final Sets sets;
    private final Planner planner;
    private final TableService tables;
    private final PeopleService people;
    private final RunService runs;
    private final JdbcClient jdbc;
    private final JsonMapper json;

    IntakeReplies(
            IntakeRepository intakes,
            IntakeFiles members,
            ReadingShown shown,
            Sets sets,
            Planner planner,
            TableService tables,
            PeopleService people,
            RunService runs,
            JdbcClient jdbc,
            JsonMapper json) {
        this.intakes = intakes;
        this.members = members;
        this.shown = shown;
        this.sets = sets;
        this.planner = planner;
        this.tables = tables;
        this.people = people;
        this.runs = runs;
        this.jdbc = jdbc;
        this.json = json;
    }

    /** The intake with everything its screen needs, from one state of the record. */
    @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
    public IntakeReply reply(long person, long id) {
        Intake intake = planner.mine(person, id);
        IntakeOptions options = planner.options(intake);
        Optional<RunReply> run = runs.latest(IntakeService.RUN, id);
        // A screen that watches the progress asks often; reading the file again and again would slow down what it
        // watches.
        boolean going = run.filter(RunReply::open).isPresent();
        // A table that was made for it is gone when it is taken back.
        Optional<TableInfo> table = intake.table().flatMap(tables::there);
        boolean looksAtIt = intake.open() && !going && intake.pattern().isEmpty();
        ReadingReply reading = looksAtIt ? shown.of(intake, options) : null;
        return new IntakeReply(
                about(intake),
                options,
                reading,
                new IntakeReply.Into(
                        table.map(TableInfo::slug).orElse(null),
                        table.map(TableInfo::name).orElse(null)),
                sets.reply(intake).orElse(null),
                assetSet(intake.id()),
                new IntakeReply.Done(
                        intake.report()
                                .map(report -> json.readValue(report, PreviewReply.class))
                                .orElse(null),
                        intake.undoReport()
                                .map(report -> json.readValue(report, Undoing.UndoReply.class))
                                .orElse(null),
                        intake.undoneAt().orElse(null),
                        intake.undoneBy().map(this::personName).orElse(null),
                        (intake.open()
                                        ? run
                                        : runs.latest(IntakeService.UNDO_RUN, id)
                                                .or(() -> run))
                                .orElse(null)));
    }

    private IntakeReply.About about(Intake intake) {
        return new IntakeReply.About(
                intake.id(),
                intake.fileName(),
                intake.status(),
                personName(intake.person()),
                intake.createdAt(),
                intake.appliedAt().orElse(null));
    }

    /** The newest intakes, all of them for a coordinator, else one's own. */
    @Transactional(readOnly = true)
    public List<IntakeReply.Listed> all(long person, long before) {
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

    /** One of them. */
    @Transactional(readOnly = true)
    public IntakeReply.Listed listed(long person, long id) {
        Intake intake = planner.mine(person, id);
        return listed(
                intake,
                intake.table().flatMap(tables::there),
                members.counts(List.of(id)).getOrDefault(id, 0));
    }

    private IntakeReply.Listed listed(Intake intake, Optional<TableInfo> table, int files) {
        PreviewReply report = intake.report()
                .map(told -> json.readValue(told, PreviewReply.class))
                .orElse(null);
        return new IntakeReply.Listed(
                about(intake),
                table.map(TableInfo::slug).orElse(null),
                table.map(TableInfo::name).orElse(null),
                files,
                report == null ? Map.of() : sums(report));
    }

    private static Map<ChangeKind, Integer> sums(PreviewReply report) {
        Map<ChangeKind, Integer> sums = new EnumMap<>(ChangeKind.class);
        report.groups().forEach(group -> sums.put(group.kind(), group.count()));
        return sums;
    }

    /** The set of pictures and sounds that it was made of; null for other files. */
    private @Nullable Long assetSet(long intake) {
        return jdbc.sql("select id from asset_set where intake_id = :intake")
                .param("intake", intake)
                .query(Long.class)
                .optional()
                .orElse(null);
    }

    private String personName(long person) {
        return jdbc.sql("select name from person where id = :id")
                .param("id", person)
                .query(String.class)
                .single();
    }
}
