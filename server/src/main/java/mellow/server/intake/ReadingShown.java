package mellow.server.intake;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.Habits;
import mellow.core.format.Problem;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.csv.CsvReading;
import mellow.core.format.registry.Formats;
import mellow.core.format.workbook.WorkbookReading;
import mellow.core.language.LanguageTag;
import mellow.core.text.Keepable;
import mellow.server.intake.IntakeReply.ReadingReply;
import mellow.server.master.FileRead;
import mellow.server.master.ReadingChoice.ColumnChoice;
import mellow.server.run.RunService.Progress;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** What the screen shows of how a file was read. Found out once per version of what was decided, and kept with the intake. Needs a transaction around it. */
@Component
class ReadingShown {

    private static final int SHOWN_ROWS = 14;
    private static final int SHOWN_ENTRIES = 8;
    private static final int LONGEST_SHOWN = 500;
    private static final int LONGEST_SENTENCE = 2_000;

    private final Planner planner;
    private final TableService tables;
    private final JsonMapper json;

    ReadingShown(Planner planner, TableService tables, JsonMapper json) {
        this.planner = planner;
        this.tables = tables;
        this.json = json;
    }

    /** How the intake's only file is read, as decided now; what depends on other tables is as it is at this moment. */
    ReadingReply of(Intake intake, IntakeOptions options) {
        ReadingReply known = intake.reading()
                .map(kept -> json.readValue(kept, ReadingReply.class))
                .orElseGet(() -> found(intake, options));
        Optional<TableInfo> table = intake.table().flatMap(tables::there);
        List<String> missing = known.held().newLanguages().stream()
                .filter(tag -> table.flatMap(there -> there.language(new LanguageTag(tag)))
                        .isEmpty())
                .toList();
        return known.now(
                known.trouble().blocked() == null
                        ? planner.nameTaken(options.where()).orElse(null)
                        : known.trouble().blocked(),
                missing);
    }

    /** Finds it out and keeps it. */
    ReadingReply note(Intake intake, IntakeOptions options) {
        ReadingReply found = found(intake, options);
        intake.noteReading(json.writeValueAsString(found));
        return found;
    }

    private ReadingReply found(Intake intake, IntakeOptions options) {
        try {
            return read(intake, options);
        } catch (UnreadableFileException unreadable) {
            return unread(intake, options, Keepable.shown(unreadable.problem().sentence(), LONGEST_SENTENCE));
        }
    }

    private ReadingReply unread(Intake intake, IntakeOptions options, String why) {
        String format = Optional.ofNullable(options.how().format())
                .or(() -> Formats.forNew(intake.fileName()).map(FileFormat::name))
                .orElse("");
        String charset =
                options.how().charset() == null ? "UTF-8" : options.how().charset();
        return ReadingReply.unread(format, charset, options.how().language(), why);
    }

    private ReadingReply read(Intake intake, IntakeOptions options) {
        FileRead file = planner.read(intake, options, Progress.UNWATCHED).only();
        Habits habits = file.raw().habits();
        FileReading reading = file.reading();
        Optional<CsvReading> csv = file.separated();
        Optional<TableInfo> table = intake.table().map(tables::find);
        LanguageTag source = planner.source(table, options.where());
        int sourceColumn = reading.sourceColumn(source);
        List<LanguageTag> languages = reading.languages().stream()
                .filter(tag -> !tag.equals(LanguageTag.UNDETERMINED))
                .toList();
        return new ReadingReply(
                new IntakeReply.Written(
                        file.format().name(),
                        reading.charset(),
                        csv.map(one -> one.encoding().byteOrderMark() > 0).orElse(false),
                        csv.map(one -> String.valueOf(one.dialect().delimiter()))
                                .orElse(null),
                        csv.map(one -> String.valueOf(one.dialect().quote())).orElse(null),
                        csv.map(CsvReading::guarded).orElse(false)),
                new IntakeReply.Shown(
                        csv.map(one -> one.layout().headerRow()).orElse(-1),
                        csv.map(one -> one.layout().columns().stream()
                                        .map(ColumnChoice::of)
                                        .toList())
                                .orElse(List.of()),
                        cut(csv.map(one -> one.firstRows(SHOWN_ROWS)).orElseGet(() -> firstEntries(reading))),
                        file.workbook()
                                .map(book -> book.sheets().stream()
                                        .map(ReadingShown::shown)
                                        .toList())
                                .orElse(List.of())),
                new IntakeReply.Held(
                        file.language(),
                        languages.stream().map(LanguageTag::value).toList(),
                        languages.stream()
                                .filter(tag -> reading.languages().indexOf(tag) != sourceColumn
                                        && !tag.equals(source)
                                        && table.flatMap(known -> known.language(tag))
                                                .isEmpty())
                                .map(LanguageTag::value)
                                .toList(),
                        reading.size()),
                new IntakeReply.Told(
                        habits.key().orElse(null),
                        habits.keys(),
                        habits.siblings().orElse(null),
                        habits.evidence()),
                new IntakeReply.Trouble(
                        false,
                        file.blocked().orElse(null),
                        new ProblemList(
                                reading.problems().stream()
                                        .map(Problem::sentence)
                                        .toList(),
                                file.problemCount())));
    }

    private static IntakeReply.SheetReply shown(WorkbookReading.SheetShown sheet) {
        return new IntakeReply.SheetReply(
                sheet.name(),
                sheet.taken(),
                sheet.layout().headerRow(),
                sheet.layout().columns().stream().map(ColumnChoice::of).toList(),
                cut(sheet.rows().stream().limit(SHOWN_ROWS).toList()));
    }

    /** Rows with cells as long as a screen can show. */
    private static List<List<String>> cut(List<List<String>> rows) {
        return rows.stream()
                .map(row -> row.stream()
                        .map(cell -> Keepable.shown(cell, LONGEST_SHOWN))
                        .toList())
                .toList();
    }

    /** A heading and the first entries as rows: key, then a text per language. */
    private static List<List<String>> firstEntries(FileReading reading) {
        List<List<String>> rows = new ArrayList<>();
        List<String> heading = new ArrayList<>(List.of("key"));
        reading.languages().forEach(tag -> heading.add(tag.equals(LanguageTag.UNDETERMINED) ? "?" : tag.value()));
        rows.add(heading);
        for (int i = 0; i < Math.min(SHOWN_ENTRIES, reading.size()); i++) {
            FileEntry entry = reading.entry(i);
            List<String> row = new ArrayList<>(List.of(entry.key()));
            entry.texts()
                    .forEach(text -> row.add(
                            text.forms().size() > 1
                                    ? String.join(" | ", text.forms().values())
                                    : text.main()));
            rows.add(row);
        }
        return rows;
    }
}
