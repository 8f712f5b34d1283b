package mellow.server.launch;

import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** Ends a server that was started with the same data folder, and its database. */
@Command(name = "stop", description = "Ends the server and its database.", mixinStandardHelpOptions = true)
final class StopCommand implements Runnable {

    private static final int PATIENCE_SECONDS = 40;

    @Option(names = "--data", description = "The data folder (default: data).", defaultValue = "data")
    private Path data = Path.of("data");

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Override
    public void run() {
        PidFile pid = new PidFile(data);
        Optional<ProcessHandle> server = pid.running();
        server.ifPresent(this::end);
        new PrivateCluster(data).stop();
        pid.delete();
        spec.commandLine()
                .getOut()
                .println(server.isPresent() ? "Mellow Ledger has stopped." : "Mellow Ledger was not running.");
    }

    private void end(ProcessHandle process) {
        process.destroy();
        try {
            process.onExit().get(PATIENCE_SECONDS, TimeUnit.SECONDS);
        } catch (TimeoutException tooLong) {
            throw new LaunchException("The server (process " + process.pid() + ") did not end within "
                    + PATIENCE_SECONDS + " seconds; try again.");
        } catch (InterruptedException | ExecutionException interrupted) {
            Thread.currentThread().interrupt();
            throw new LaunchException("Interrupted while waiting for the server to end.");
        }
    }
}
