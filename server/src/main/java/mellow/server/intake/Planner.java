package mellow.server.intake;

import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import mellow.core.format.csv.CsvFormat;
import mellow.core.format.csv.CsvReading;
import mellow.core.language.LanguageTag;
import mellow.core.merge.TextEffect.Arrival;
import mellow.server.common.Refusal;
import mellow.server.file.FileStore;
import mellow.server.language.LanguageService;
import mellow.server.people.PeopleService;
import mellow.server.people.Rights;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Finds intakes that a person may touch and puts together what taking them in depends on. Needs a transaction around it. */
@Component
class Planner {

    private final IntakeRepository intakes;
    private final FileStore files;
    private final MasterFiles masters;
    private final TableService tables;
    private final PeopleService people;
    private final LanguageService languages;
    private final JsonMapper json;

    Planner(
            IntakeRepository intakes,
            FileStore files,
            MasterFiles masters,
            TableService tables,
            PeopleService people,
            LanguageService languages,
            JsonMapper json) {
        this.intakes = intakes;
        this.files = files;
        this.masters = masters;
        this.tables = tables;
        this.people = people;
        this.languages = languages;
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
                            : "This file was left; bring it again to take it in.",
                    Map.of());
        }
        return intake;
    }

    /** What was decided about an intake. */
    IntakeOptions options(Intake intake) {
        return json.readValue(intake.options(), IntakeOptions.class);
    }

    /** The intake's file, read as was decided. */
    CsvReading read(Intake intake, IntakeOptions options) {
        return CsvFormat.read(intake.fileName(), files.load(intake.file()), options.csv());
    }

    /** The source language of the table it goes into. */
    LanguageTag source(Optional<TableInfo> table, IntakeOptions options) {
        return table.map(TableInfo::source)
                .orElseGet(() -> languages.parse(Objects.requireNonNullElse(options.source(), "en")));
    }

    Plan plan(long person, Intake intake) {
        IntakeOptions options = options(intake);
        Rights rights = people.rights(person);
        CsvReading file = read(intake, options);
        Optional<TableInfo> table = intake.table().map(tables::find);
        LanguageTag source = source(table, options);
        CsvReading base = table.flatMap(known -> masters.read(known.id(), intake.fileName()))
                .orElse(null);
        Map<LanguageTag, Arrival> arrivals = arrivals(file, source, options, rights);
        if (!rights.coordinator()) {
            // Only a coordinator adds a language to a table.
            arrivals.keySet()
                    .removeIf(tag -> table.flatMap(known -> known.language(tag)).isEmpty());
        }
        return new Plan(options, rights, file, base, table, source, arrivals);
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
}
