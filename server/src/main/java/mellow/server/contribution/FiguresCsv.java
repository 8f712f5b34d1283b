package mellow.server.contribution;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import mellow.core.format.csv.CsvRow;
import mellow.server.contribution.ContributionService.Contribution;
import mellow.server.contribution.ContributionService.Figures;
import mellow.server.contribution.ReportService.Answerer;
import mellow.server.contribution.ReportService.InTable;
import mellow.server.contribution.ReportService.Report;
import org.jspecify.annotations.Nullable;

/** Figures as sheets. */
final class FiguresCsv {

    private static final double PERCENT = 100.0;

    private FiguresCsv() {}

    /** A row per language, person and kind of text: their own, or a machine's that they put forward. */
    static String contributions(List<Contribution> contributions) {
        StringBuilder csv = new StringBuilder(CsvRow.of(List.of(
                "language",
                "person",
                "texts",
                "offered",
                "settled",
                "settled by rule",
                "amended",
                "returned",
                "set aside",
                "withdrawn",
                "waiting",
                "words",
                "percent changed by amending",
                "median seconds to answer",
                "settled in a row")));
        for (Contribution one : contributions) {
            csv.append(row(one, "own", one.own(), one.inARow()));
            if (!one.machine().equals(Figures.NONE)) {
                csv.append(row(one, "machine", one.machine(), null));
            }
        }
        return csv.toString();
    }

    private static String row(Contribution one, String texts, Figures figures, @Nullable Integer inARow) {
        List<@Nullable Object> values = new ArrayList<>(List.of(
                one.language(),
                one.name(),
                texts,
                figures.offered(),
                figures.settled(),
                figures.byRule(),
                figures.amended(),
                figures.returned(),
                figures.setAside(),
                figures.withdrawn(),
                figures.waiting(),
                figures.words()));
        values.add(figures.changedOf() == 0 ? null : Math.round(PERCENT * figures.changed() / figures.changedOf()));
        values.add(figures.medianSeconds());
        values.add(inARow);
        return CsvRow.of(values);
    }

    /** Who put texts in force, then in which tables; a column says which of the two a row is. */
    static String report(Report report) {
        StringBuilder csv = new StringBuilder(CsvRow.of(List.of(
                "language",
                "from",
                "to",
                "by",
                "name",
                "how",
                "settled",
                "settled by rule",
                "amended",
                "returned",
                "still holds",
                "put back",
                "stale answered",
                "words",
                "entries")));
        for (Answerer one : report.answerers()) {
            csv.append(CsvRow.of(start(
                    report,
                    "person",
                    one.name(),
                    one.fromFiles() ? "file" : "answer",
                    one.settled(),
                    one.byRule(),
                    one.amended(),
                    one.returned(),
                    one.stillHolds(),
                    one.putBack(),
                    one.staleAnswered(),
                    one.words(),
                    null)));
        }
        for (InTable one : report.tables()) {
            csv.append(CsvRow.of(start(
                    report,
                    "table",
                    one.name(),
                    null,
                    one.times(),
                    null,
                    null,
                    null,
                    null,
                    null,
                    one.staleAnswered(),
                    one.words(),
                    one.entries())));
        }
        return csv.toString();
    }

    private static List<@Nullable Object> start(Report report, @Nullable Object... rest) {
        List<@Nullable Object> values = new ArrayList<>(List.of(report.language(), report.from(), report.to()));
        values.addAll(Arrays.asList(rest));
        return values;
    }
}
