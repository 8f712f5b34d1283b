package mellow.server.launch;

import java.io.IOException;
import java.io.Writer;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import mellow.core.format.UnreadableFileException;
import mellow.core.format.registry.Inspection;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** {@code mellow inspect}: a JSON object per file with all that was read of it. Exit code 2 when any file was refused. */
@Command(name = "inspect", description = "Says what files hold, as JSON.", mixinStandardHelpOptions = true)
final class InspectCommand extends FileCommand implements Callable<Integer> {

    private static final int REFUSED = 2;

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Parameters(arity = "1..*", paramLabel = "FILE")
    private List<Path> files = List.of();

    @Override
    public Integer call() throws IOException {
        int exit = 0;
        Writer out = spec.commandLine().getOut();
        Inspection inspection = new Inspection(out);
        for (Path file : files) {
            try {
                Read read = read(file);
                inspection.print(file.toString(), read.format(), read.reading());
            } catch (UnreadableFileException refused) {
                inspection.refused(file.toString(), List.of(refused.problem()));
                exit = REFUSED;
            }
        }
        out.flush();
        return exit;
    }
}
