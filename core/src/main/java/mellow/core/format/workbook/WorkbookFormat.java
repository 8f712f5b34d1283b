package mellow.core.format.workbook;

import java.util.Map;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.Problem;
import mellow.core.format.ReadOptions;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.sheet.SheetLayout;

/** Workbooks, which can be read as somebody says that their sheets are laid out. */
public interface WorkbookFormat extends FileFormat {

    /**
     * Reads a workbook. One without a sheet of keys and texts is read too, blocked, so that its layout can be corrected.
     *
     * @param layouts what the columns of sheets hold, by the name of the sheet; without columns they are guessed below the header row, and with
     *     header row -1 the sheet is left out; sheets that are not named are guessed
     * @throws UnreadableFileException when it is no workbook
     */
    WorkbookReading read(String file, byte[] bytes, ReadOptions options, Map<String, SheetLayout> layouts);

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
