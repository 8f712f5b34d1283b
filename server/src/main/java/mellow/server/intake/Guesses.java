package mellow.server.intake;

import java.util.List;
import java.util.Optional;
import mellow.core.format.UnreadableFileException;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.set.SetNames;
import mellow.server.common.Refusal;
import mellow.server.common.TextRules;
import mellow.server.intake.IntakeOptions.ColumnChoice;
import mellow.server.people.Rights;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.springframework.stereotype.Component;

/** What is supposed about a file that nobody has said anything about. Needs a transaction around it. */
@Component
class Guesses {

    private final MasterFiles masters;
    private final TableService tables;

    private final TextRules texts;

    Guesses(MasterFiles masters, TableService tables, TextRules texts) {
        this.masters = masters;
        this.tables = tables;
        this.texts = texts;
    }

    /** Where the same path went and how it was read then; else what the file and its name tell. */
    IntakeOptions about(String path, byte[] content, Rights rights) {
        Arrival arrival = rights.coordinator() ? Arrival.SETTLED : Arrival.OFFERED;
        Optional<TableInfo> earlier = masters.tableOf(path).map(tables::find);
        String title = SetNames.title(path);
        Optional<TableInfo> named = tables.all().stream()
                .map(TableService.Listed::table)
                .filter(table -> table.name().equalsIgnoreCase(title))
                .findFirst();
        Optional<TableInfo> table = earlier.or(() -> named);
        LanguageTag english = new LanguageTag("en");
        IntakeOptions remembered =
                masters.optionsOf(path).map(IntakeOptions.UNDECIDED::readAs).orElse(IntakeOptions.UNDECIDED);
        FileRead read = readAgain(
                path, content, remembered, table.map(TableInfo::source).orElse(english));
        texts.require(path, read.reading());
        List<LanguageTag> languages = read.reading().languages();
        LanguageTag source = table.map(TableInfo::source)
                .orElseGet(() -> languages.contains(english) || languages.isEmpty()
                        ? english
                        : read.reading()
                                .sourceLanguage()
                                .filter(tag -> !tag.equals(LanguageTag.UNDETERMINED))
                                .orElse(languages.get(0)));
        IntakeOptions into = new IntakeOptions(
                null,
                null,
                null,
                null,
                null,
                null,
                null,
                null,
                table.map(TableInfo::slug).orElse(null),
                table.isEmpty() ? title : null,
                source.equals(LanguageTag.UNDETERMINED) ? "en" : source.value(),
                false,
                arrival,
                null);
        return readSame(read, remembered) ? into.readAs(remembered) : into;
    }

    /** What was said about a path last time may not fit what it holds now; then the file is read as it seems. */
    private static FileRead readAgain(String path, byte[] content, IntakeOptions remembered, LanguageTag source) {
        if (!remembered.equals(IntakeOptions.UNDECIDED)) {
            try {
                FileRead read = FileRead.of(path, content, remembered, source);
                if (read.blocked().isEmpty() && sameHeadings(read, remembered)) {
                    return read;
                }
            } catch (UnreadableFileException | Refusal otherThanBefore) {
                return FileRead.of(path, content, IntakeOptions.UNDECIDED, source);
            }
        }
        return FileRead.of(path, content, IntakeOptions.UNDECIDED, source);
    }

    private static boolean readSame(FileRead read, IntakeOptions remembered) {
        return read.format().name().equals(remembered.format()) && sameHeadings(read, remembered);
    }

    private static boolean sameHeadings(FileRead read, IntakeOptions remembered) {
        List<ColumnChoice> columns = remembered.columns();
        Integer header = remembered.headerRow();
        return read.separated()
                .map(csv -> columns != null
                        && header != null
                        && header >= 0
                        && csv.firstRows(header + 1).size() > header
                        && csv.firstRows(header + 1)
                                .get(header)
                                .equals(columns.stream()
                                        .map(ColumnChoice::heading)
                                        .toList()))
                .orElse(true);
    }
}
