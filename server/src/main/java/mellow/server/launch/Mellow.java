package mellow.server.launch;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.OutputStreamWriter;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** The launcher's commands that need Java. The script {@code mellow} installs and builds what is missing, then calls this. */
@Command(
        name = "mellow",
        description = "Mellow Ledger: shared translation tables, kept well.",
        mixinStandardHelpOptions = true,
        version = "Mellow Ledger 0.1.0",
        subcommands = {
            StartCommand.class,
            StopCommand.class,
            AuditCommand.class,
            InspectCommand.class,
            ConvertCommand.class,
            PushCommand.class,
            PullCommand.class,
            DeliverCommand.class,
            ScanCommand.class,
            DrafterCommand.class
        })
public final class Mellow {

    private static final int FAILED = 1;

    private Mellow() {}

    /** Runs a command; its exit code is 0 when it did what it says, 1 with one sentence when it could not, 2 when it was called wrongly. */
    public static void main(String[] arguments) {
        // UTF-8 whatever the terminal speaks: programs read it.
        PrintWriter out = new PrintWriter(
                new OutputStreamWriter(new FileOutputStream(FileDescriptor.out), StandardCharsets.UTF_8));
        int exit = commands().setOut(out).execute(arguments);
        out.flush();
        if (exit != 0) {
            System.exit(exit);
        }
    }

    static CommandLine commands() {
        return new CommandLine(new Mellow()).setExecutionExceptionHandler(Mellow::explain);
    }

    private static int explain(Exception failure, CommandLine command, CommandLine.ParseResult result)
            throws Exception {
        if (failure instanceof LaunchException known) {
            command.getErr().println(known.getMessage());
            return FAILED;
        }
        throw failure;
    }
}
