package mellow.server.intake;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.format.FileReading.Field;
import mellow.core.format.Problem;
import mellow.core.format.csv.CsvReading;
import mellow.core.language.LanguageTag;
import mellow.core.merge.TextEffect.Arrival;
import mellow.server.common.Refusal;
import mellow.server.intake.Applier.Describing;
import mellow.server.intake.IntakeOptions.ColumnChoice;
import mellow.server.people.Rights;
import mellow.server.table.TableInfo;
import org.jspecify.annotations.Nullable;

/**
 * Everything that taking a file in depends on.
 *
 * @param base what the file's path held when it was last taken in
 * @param table where it goes, empty for a new table
 * @param source the source language
 * @param arrivals how texts arrive, by language; texts in other languages stay out
 */
record Plan(
        IntakeOptions options,
        Rights rights,
        CsvReading file,
        @Nullable CsvReading base,
        Optional<TableInfo> table,
        LanguageTag source,
        Map<LanguageTag, Arrival> arrivals) {

    /** Refuses to go on while something has to be corrected first. */
    void requireReady() {
        if (file.blocked()) {
            throw Refusal.unacceptable(
                    "file-blocked",
                    file.problems().stream()
                            .filter(problem -> problem.severity() == Problem.Severity.ERROR)
                            .findFirst()
                            .orElseThrow()
                            .sentence());
        }
        if (table.isEmpty()) {
            rights.requireCoordinator("make a new table");
            if (!file.languages().contains(source)) {
                throw Refusal.unacceptable(
                        "no-source-column",
                        "The file has no column in " + source
                                + ", the source language of the new table; choose the column of the source texts.");
            }
        }
    }

    /** The file's languages without the source. */
    List<LanguageTag> targets() {
        return file.languages().stream().filter(tag -> !tag.equals(source)).toList();
    }

    Describing describing() {
        return new Describing(
                file.has(Field.NOTE), file.has(Field.REFERENCE), file.has(Field.SECTION), file.has(Field.LIMIT));
    }

    Preview preview() {
        return new Preview(arrivals, options.meaningMoves(), rights.coordinator());
    }

    Comparison comparison() {
        return new Comparison(file, base, source, arrivals);
    }

    /** The options with every guess written down, so that the file is read the same way for ever. */
    IntakeOptions exact() {
        return new IntakeOptions(
                file.encoding().charset().name(),
                String.valueOf(file.dialect().delimiter()),
                String.valueOf(file.dialect().quote()),
                file.layout().headerRow(),
                file.layout().columns().stream().map(ColumnChoice::of).toList(),
                options.table(),
                options.newTable(),
                options.source(),
                options.settlesOwn(),
                options.arrival(),
                options.meaningChanged());
    }
}
