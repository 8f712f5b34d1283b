package mellow.server.intake;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import mellow.core.cell.Actor;
import mellow.core.check.Ground;
import mellow.core.format.EntryId;
import mellow.core.format.FileReading;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.merge.ChangeKind;
import mellow.core.merge.Choice;
import mellow.core.merge.Comparison;
import mellow.core.merge.Terms;
import mellow.core.set.SetReading;
import mellow.core.text.Shape;
import mellow.server.check.Inspector;
import mellow.server.common.Refusal;
import mellow.server.common.TextRules;
import mellow.server.language.LanguageService;
import mellow.server.master.MasterFiles;
import mellow.server.master.Readings;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import mellow.server.table.TableInfo.Kept;
import mellow.server.table.TableService;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Finds intakes that a person may touch and puts together what taking them in depends on. Needs a transaction around it. */
@Component
class Planner {

    private static final String REMOVED =
            """
            select distinct on (key, context) id, key, context from entry
            where table_id = :table and removed_at is not null order by key, context, removed_at desc
            """;
    private static final String DECIDED =
            "select kind, key, context, language, choice from intake_decision where intake_id = :intake";
    private static final String THERE_THEN =
            """
            select e.key, e.context from entry e
            where e.table_id = :table and e.removed_at is null
              and not exists (
                select 1 from entry_story s join master_file m on m.table_id = :table and m.path = :path
                where s.entry_id = e.id and s.at > m.taken_at and s.what in ('added', 'put_back', 'moved', 'renamed', 'undone'))
            """;

    private final IntakeRepository intakes;
    private final IntakeFiles members;
    private final SetReader sets;
    private final Readings readings;
    private final MasterFiles masters;
    private final TableService tables;
    private final PeopleService people;
    private final LanguageService languages;
    private final TextRules texts;
    private final Inspector inspector;
    private final JdbcClient jdbc;
    private final JsonMapper json;

    Planner(
            Inspector inspector,
            IntakeRepository intakes,
            IntakeFiles members,
            SetReader sets,
            Readings readings,
            MasterFiles masters,
            TableService tables,
            PeopleService people,
            LanguageService languages,
            TextRules texts,
            JdbcClient jdbc,
            JsonMapper json) {
        this.inspector = inspector;
        this.intakes = intakes;
        this.members = members;
        this.sets = sets;
        this.readings = readings;
        this.masters = masters;
        this.tables = tables;
        this.people = people;
        this.languages = languages;
        this.texts = texts;
        this.jdbc = jdbc;
        this.json = json;
    }

    /** The intake, if the person brought it or is a coordinator. */
    Intake mine(long person, long id) {
        Intake intake = intakes.findById(id)
                .orElseThrow(() -> Refusal.notFound("no-such-intake", "This intake does not exist."));
        if (intake.person() != person && !people.rights(person).coordinator()) {
            throw Refusal.forbidden(
                    "not-your-intake", "Only the person who brought this file, or a coordinator, can see it.");
        }
        return intake;
    }

    /** The same, if it has been neither taken in nor left. */
    Intake open(long person, long id) {
        Intake intake = mine(person, id);
        if (!intake.open()) {
            throw Refusal.conflict(
                    "intake-closed",
                    intake.status().equals("applied")
                            ? "This file has been taken in already."
                            : "This file was left or taken back; bring it again to take it in.",
                    Map.of());
        }
        return intake;
    }

    /** What was decided about an intake. */
    IntakeOptions options(Intake intake) {
        return json.readValue(intake.options(), IntakeOptions.class);
    }

    /** The intake's files, read as was decided. */
    IntakeRead read(Intake intake, IntakeOptions options, Progress progress) {
        LanguageTag source = source(intake.table().map(tables::find), options.where());
        Map<EntryId, Shape> formed = intake.table().map(masters::formed).orElse(Map.of());
        List<IntakeFile> all = members.of(intake.id());
        IntakeFile file = all.get(0);
        IntakeRead read = intake.pattern().isPresent()
                ? sets.read(all, source, formed, progress).read()
                : IntakeRead.of(file, readings.of(file.path(), file.file(), options.how(), source, formed));
        for (IntakeRead.Member member : read.members()) {
            if (member.read() != null) {
                texts.require(member.file().path(), member.read().reading());
            }
        }
        return read;
    }

    /** Refuses whoever has no right to anything in the table that a file goes into; only coordinators make tables. */
    static void requireRightIn(Rights rights, Optional<TableInfo> table) {
        rights.requireAny("bring files in");
        boolean some = rights.coordinator()
                || table.isEmpty()
                || table.get().languages().stream().anyMatch(kept -> rights.contributes(kept.tag()));
        if (!some) {
            throw Refusal.forbidden(
                    "no-right-in-table",
                    "You may offer texts in no language of {table}; ask a coordinator for it.",
                    Map.of("table", table.get().name()));
        }
    }

    /** The source language of the table it goes into. */
    LanguageTag source(Optional<TableInfo> table, Destination into) {
        return table.map(TableInfo::source)
                .orElseGet(() -> languages.parse(Objects.requireNonNullElse(into.source(), "en")));
    }

    /** The source language of the table that an intake went into. */
    LanguageTag sourceOf(Intake intake) {
        return source(intake.table().map(tables::find), options(intake).where());
    }

    /** Why the table that it would make cannot be made; empty when it can, or is there. */
    Optional<String> nameTaken(Destination into) {
        String name = Objects.requireNonNullElse(into.newTable(), "").strip();
        boolean taken = into.table() == null
                && tables.all().stream().anyMatch(table -> table.table().name().equalsIgnoreCase(name));
        return taken
                ? Optional.of("There is a table called “" + name
                        + "” already; choose another name, or take this into that table.")
                : Optional.empty();
    }

    Plan plan(long person, Intake intake, Progress progress) {
        IntakeOptions options = options(intake);
        Rights rights = people.rights(person);
        IntakeRead file = read(intake, options, progress);
        Optional<TableInfo> table = intake.table().map(tables::find);
        requireRightIn(rights, table);
        LanguageTag source = source(table, options.where());
        FileReading base = table.map(known -> base(intake, file, known)).orElse(null);
        Set<LanguageTag> settlesOwn = settlesOwn(file.reading(), table, options.where());
        Map<LanguageTag, Arrival> arrivals = arrivals(file.reading(), source, options.where(), rights, settlesOwn);
        if (!rights.coordinator()) {
            // Only a coordinator adds a language to a table.
            arrivals.keySet()
                    .removeIf(tag -> table.flatMap(known -> known.language(tag)).isEmpty());
        }
        Map<EntryId, Long> removed = new HashMap<>();
        boolean removes = false;
        if (base != null && table.isPresent()) {
            long number = table.get().id();
            jdbc.sql(REMOVED).param("table", number).query(row -> {
                removed.put(new EntryId(row.getString("key"), row.getString("context")), row.getLong("id"));
            });
            removes = file.reading().sourceColumn(source) >= 0
                    && Comparison.holdsMost(file.reading(), base)
                    && !oneOfSeveral(intake, file, number)
                    && covers(base, number, file.members().get(0).file().path());
        }
        Decisions decisions = new Decisions(options.where().decisions(), removes);
        jdbc.sql(DECIDED).param("intake", intake.id()).query((RowCallbackHandler) row -> decisions.decide(
                ChangeKind.values()[row.getInt("kind")],
                new EntryId(row.getString("key"), row.getString("context")),
                row.getString("language").isEmpty() ? null : new LanguageTag(row.getString("language")),
                Choice.values()[row.getInt("choice")]));
        Set<LanguageTag> reviews =
                arrivals.keySet().stream().filter(rights::reviews).collect(Collectors.toSet());
        Set<LanguageTag> fourEyes = arrivals.keySet().stream()
                .filter(tag -> !settlesOwn.contains(tag))
                .collect(Collectors.toSet());
        Terms terms = new Terms(
                source,
                arrivals,
                new Terms.May(fourEyes, reviews, rights.coordinator()),
                removes,
                removed.keySet(),
                decisions,
                grounds(table, source, arrivals.keySet()));
        return new Plan(options, rights, file, base, table, new Plan.Ground(terms, decisions, removed));
    }

    /**
     * What texts in each of the languages are looked at by: as the table has it, or as usual for a table or a language that is made by the intake. It is read
     * before anything is written, for while the record is written by the thousand its connection answers nothing.
     */
    private Function<LanguageTag, Ground> grounds(Optional<TableInfo> table, LanguageTag source, Set<LanguageTag> in) {
        Inspector.Look look = inspector.look();
        Map<LanguageTag, Ground> grounds = new HashMap<>();
        for (LanguageTag tag : in) {
            Optional<Integer> number = languages.known(tag);
            grounds.put(
                    tag,
                    table.isPresent() && number.isPresent()
                            ? look.ground(table.get().id(), number.get())
                            : Ground.of(source, tag));
        }
        return tag -> Objects.requireNonNull(grounds.get(tag), tag::value);
    }

    /** What the intake's files held when they were last taken into the table; null when none of them was. */
    private @Nullable FileReading base(Intake intake, IntakeRead now, TableInfo table) {
        List<SetReading.Part> parts = new ArrayList<>();
        for (IntakeRead.Member member : now.members()) {
            if (member.read() != null) {
                masters.read(table, member.file().path())
                        .ifPresent(then -> parts.add(new SetReading.Part(
                                member.file().path(),
                                then.reading(),
                                member.file().source())));
            }
        }
        if (parts.isEmpty()) {
            return null;
        }
        return intake.pattern().isEmpty() ? parts.get(0).file() : new SetReading(table.source(), parts);
    }

    /** A catalogue of one language among others says nothing about entries: what it lost, the others may have. */
    private boolean oneOfSeveral(Intake intake, IntakeRead file, long table) {
        return intake.pattern().isEmpty()
                && file.only().format().bilingual()
                && masters.of(table).size() > 1;
    }

    /** Whether the base held all of the table but what came since: a file that covers a part removes nothing. */
    private boolean covers(FileReading base, long table, String path) {
        Set<EntryId> held = new HashSet<>(2 * base.size());
        for (int i = 0; i < base.size(); i++) {
            held.add(base.id(i));
        }
        return jdbc
                .sql(THERE_THEN)
                .param("table", table)
                .param("path", path)
                .query((row, n) -> new EntryId(row.getString("key"), row.getString("context")))
                .stream()
                .allMatch(held::contains);
    }

    /** The file's languages in which reviewers settle their own texts: as the table says, or as it will when it is made. */
    private static Set<LanguageTag> settlesOwn(FileReading file, Optional<TableInfo> table, Destination into) {
        return file.languages().stream()
                .filter(tag -> table.map(known ->
                                known.language(tag).map(Kept::settlesOwn).orElse(false))
                        .orElse(into.settlesOwn()))
                .collect(Collectors.toSet());
    }

    /** How texts arrive, by language: as chosen where the person may settle, as offers where they may contribute, not at all elsewhere. */
    private static Map<LanguageTag, Arrival> arrivals(
            FileReading file, LanguageTag source, Destination into, Rights rights, Set<LanguageTag> settlesOwn) {
        Arrival chosen = Objects.requireNonNullElse(into.arrival(), Arrival.OFFERED);
        Map<LanguageTag, Arrival> arrivals = new HashMap<>();
        for (LanguageTag tag : file.languages()) {
            boolean target = !tag.equals(source) && !tag.equals(LanguageTag.UNDETERMINED);
            if (target && rights.contributes(tag)) {
                Actor actor = new Actor(rights.person(), true, rights.reviews(tag), settlesOwn.contains(tag), false);
                arrivals.put(tag, chosen.by(actor, rights.coordinator()));
            }
        }
        return arrivals;
    }
}
