package mellow.server.intake;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import mellow.core.format.UnreadableFileException;
import mellow.core.language.LanguageTag;
import mellow.core.merge.Arrival;
import mellow.core.set.SetNames;
import mellow.server.common.Refusal;
import mellow.server.common.TextRules;
import mellow.server.master.FileRead;
import mellow.server.master.MasterFiles;
import mellow.server.master.ReadingChoice;
import mellow.server.master.ReadingChoice.ColumnChoice;
import mellow.server.master.Readings;
import mellow.server.people.Rights;
import mellow.server.table.TableInfo;
import mellow.server.table.TableService;
import org.springframework.stereotype.Component;

/** What is supposed about a file that nobody has said anything about. Needs a transaction around it. */
@Component
class Guesses {

    private static final LanguageTag ENGLISH = new LanguageTag("en");

    private final MasterFiles masters;
    private final TableService tables;
    private final Readings readings;
    private final TextRules texts;

    Guesses(MasterFiles masters, TableService tables, Readings readings, TextRules texts) {
        this.readings = readings;
        this.masters = masters;
        this.tables = tables;
        this.texts = texts;
    }

    /**
     * Where the same path went and how it was read then; else what the file and its name tell.
     *
     * @param file the stored file's number
     * @param content its content
     */
    IntakeOptions about(String path, long file, Supplier<byte[]> content, Rights rights) {
        Optional<TableInfo> table = table(path);
        ReadingChoice remembered = masters.optionsOf(path).orElse(ReadingChoice.UNDECIDED);
        LanguageTag from = table.map(TableInfo::source).orElse(ENGLISH);
        FileRead read = readAgain(path, file, content, remembered, from);
        texts.require(path, read.reading());
        ReadingChoice habits = remembered;
        if (table.isPresent() && !readSame(read, remembered)) {
            FileRead seen = read;
            habits = masters.likeOf(table.get().id(), read.format().name())
                    .map(like -> ReadingChoice.UNDECIDED.understood(
                            seen.raw().habits().key().isEmpty() ? null : like.keys(),
                            seen.raw().habits().siblings().isEmpty() ? null : like.siblings()))
                    .orElse(ReadingChoice.UNDECIDED);
            read = readings.of(path, file, content, habits, from, Map.of());
        }
        List<LanguageTag> languages = read.reading().languages();
        FileRead known = read;
        LanguageTag source = table.map(TableInfo::source)
                .orElseGet(() -> languages.contains(ENGLISH) || languages.isEmpty()
                        ? ENGLISH
                        : known.reading()
                                .sourceLanguage()
                                .filter(tag -> !tag.equals(LanguageTag.UNDETERMINED))
                                .orElse(languages.get(0)));
        return new IntakeOptions(
                readSame(read, remembered) ? remembered : habits.habits(), into(path, table, source, rights));
    }

    /** The same of a file that cannot be read as it seems: somebody may know better. */
    IntakeOptions aboutUnread(String path, Rights rights) {
        Optional<TableInfo> table = table(path);
        Destination into = into(path, table, table.map(TableInfo::source).orElse(ENGLISH), rights);
        return new IntakeOptions(ReadingChoice.UNDECIDED, into);
    }

    private Optional<TableInfo> table(String path) {
        return masters.tableOf(path).map(tables::find).or(() -> tables.all().stream()
                .map(TableService.Listed::table)
                .filter(table -> table.name().equalsIgnoreCase(SetNames.title(path)))
                .findFirst());
    }

    private static Destination into(String path, Optional<TableInfo> table, LanguageTag source, Rights rights) {
        return Destination.UNDECIDED
                .into(
                        table.map(TableInfo::slug).orElse(null),
                        table.isEmpty() ? SetNames.title(path) : null,
                        rights.coordinator() ? Arrival.SETTLED : Arrival.OFFERED)
                .from(source.equals(LanguageTag.UNDETERMINED) ? ENGLISH.value() : source.value());
    }

    /** What was said about a path last time may not fit what it holds now; then the file is read as it seems. */
    private FileRead readAgain(
            String path, long file, Supplier<byte[]> content, ReadingChoice remembered, LanguageTag source) {
        if (!remembered.equals(ReadingChoice.UNDECIDED)) {
            try {
                FileRead read = readings.of(path, file, content, remembered, source, Map.of());
                if (read.blocked().isEmpty() && sameHeadings(read, remembered)) {
                    return read;
                }
            } catch (UnreadableFileException | Refusal otherThanBefore) {
                return readings.of(path, file, content, ReadingChoice.UNDECIDED, source, Map.of());
            }
        }
        return readings.of(path, file, content, ReadingChoice.UNDECIDED, source, Map.of());
    }

    private static boolean readSame(FileRead read, ReadingChoice remembered) {
        return read.format().name().equals(remembered.format()) && sameHeadings(read, remembered);
    }

    private static boolean sameHeadings(FileRead read, ReadingChoice remembered) {
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
