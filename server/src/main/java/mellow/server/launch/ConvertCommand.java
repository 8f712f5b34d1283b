package mellow.server.launch;

import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code mellow convert}: a file in another format, by the ending of its name. The new file appears whole or not at all. */
@Command(name = "convert", description = "Writes a file in another format.", mixinStandardHelpOptions = true)
final class ConvertCommand extends FileCommand implements Callable<Integer> {

    private static final int REFUSED = 2;

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Parameters(index = "0", paramLabel = "IN")
    private Path in = Path.of("");

    @Parameters(index = "1", paramLabel = "OUT")
    private Path out = Path.of("");

    @Override
    public Integer call() throws IOException {
        FileFormat format = Formats.forNew(out.toString())
                .orElseThrow(() -> new LaunchException("No format is written into files named like " + out + "."));
        try {
            FileReading reading = read(in).reading();
            reading.problems().forEach(problem -> spec.commandLine().getErr().println(problem.sentence()));
            write(format, chosen(reading));
            return 0;
        } catch (UnreadableFileException | UnwritableTextException refused) {
            spec.commandLine().getErr().println(refused.getMessage());
            return REFUSED;
        }
    }

    /** The source and the language that was asked for, when the file has more. */
    private EntryList chosen(FileReading reading) {
        LanguageTag wanted = language().orElse(null);
        if (wanted == null
                || !reading.languages().contains(wanted)
                || reading.languages().size() < 3) {
            return reading;
        }
        List<LanguageTag> languages = new ArrayList<>();
        reading.sourceLanguage().filter(source -> !source.equals(wanted)).ifPresent(languages::add);
        languages.add(wanted);
        List<FileEntry> entries = new ArrayList<>(reading.size());
        for (int i = 0; i < reading.size(); i++) {
            FileEntry entry = reading.entry(i);
            entries.add(entry.with(languages.stream()
                    .map(language -> entry.texts().get(reading.languages().indexOf(language)))
                    .toList()));
        }
        return EntryList.of(reading.sourceLanguage().filter(languages::contains), languages, entries);
    }

    private void write(FileFormat format, EntryList entries) throws IOException {
        Path folder = out.toAbsolutePath().getParent();
        Path whole = Files.createTempFile(folder, ".mellow-", ".part");
        try {
            try (OutputStream to = new BufferedOutputStream(Files.newOutputStream(whole))) {
                format.write(entries, to);
            }
            Files.move(whole, out, StandardCopyOption.REPLACE_EXISTING);
        } finally {
            Files.deleteIfExists(whole);
        }
    }
}
