package mellow.core.format.workbook;

import java.util.EnumSet;
import java.util.Map;
import java.util.Set;
import mellow.core.format.Aspect;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.Problem;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.archive.Archive;
import mellow.core.format.sheet.SheetLayout;
import mellow.core.format.source.SourceText;

/** Workbooks, which can be read as somebody says that their sheets are laid out. */
public interface WorkbookFormat extends FileFormat {

    /**
     * Reads a workbook. One without a sheet of keys and texts is read too, blocked, so that its layout can be corrected.
     *
     * @param layouts what the columns of sheets hold, by the name of the sheet; without columns they are guessed below the header row, and with
     *     header row -1 the sheet is left out; sheets that are not named are guessed
     * @throws UnreadableFileException when it is no workbook
     */
    default WorkbookReading read(String file, byte[] bytes, ReadOptions options, Map<String, SheetLayout> layouts) {
        Problems problems = new Problems(file);
        SourceText.checkSize(bytes, options.limits(), problems, "a workbook");
        return read(Archive.read(bytes, options.limits(), problems), options, layouts, problems);
    }

    /** The same of the archive that it is. */
    WorkbookReading read(Archive archive, ReadOptions options, Map<String, SheetLayout> layouts, Problems problems);

    /** What a workbook does not say about a text has no column in it. */
    @Override
    default Set<Aspect> keeps() {
        return EnumSet.complementOf(EnumSet.of(Aspect.STATE, Aspect.NOT_FOR_TRANSLATION));
    }

    /** Whether a file begins as ZIP archives do (APPNOTE.TXT 4.3.7). */
    static boolean zipped(Sample sample) {
        return sample.bytes().length > 4 && sample.bytes()[0] == 'P' && sample.bytes()[1] == 'K';
    }

    @Override
    default FileReading read(String file, byte[] bytes, ReadOptions options) {
        WorkbookReading reading = read(file, bytes, options, Map.of());
        reading.problems().stream()
                .filter(problem -> reading.blocked() && problem.severity() == Problem.Severity.ERROR)
                .findFirst()
                .ifPresent(problem -> {
                    throw new UnreadableFileException(problem);
                });
        return reading;
    }
}
