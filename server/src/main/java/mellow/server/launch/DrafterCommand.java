package mellow.server.launch;

import java.io.IOException;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import mellow.server.drafter.StandIn;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** {@code mellow drafter}: a stand-in for a drafting service, until it is ended. */
@Command(
        name = "drafter",
        description = "Starts a stand-in for a drafting service on 127.0.0.1.",
        mixinStandardHelpOptions = true)
final class DrafterCommand implements Callable<Integer> {

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Option(names = "--port", defaultValue = "8090", description = "The port on 127.0.0.1 (default: 8090).")
    private int port;

    @Option(names = "--secret", defaultValue = "", description = "What it wants as the secret (default: nothing).")
    private String secret = "";

    @Option(names = "--slow", defaultValue = "0", description = "Milliseconds before each answer.")
    private int slow;

    @Option(names = "--fail", defaultValue = "0", description = "One text of so many is not drafted.")
    private int fail;

    @Option(names = "--lose", defaultValue = "0", description = "One text of so many loses its marks.")
    private int lose;

    @Option(names = "--busy", defaultValue = "0", description = "One request of so many is answered as too busy.")
    private int busy;

    @Override
    public Integer call() throws IOException {
        try (StandIn drafter = new StandIn(port, new StandIn.Manner(secret, slow, fail, lose, busy))) {
            spec.commandLine()
                    .getOut()
                    .println("A stand-in for a drafting service is at http://" + drafter.authority()
                            + "/ – start the server with --drafting " + drafter.authority()
                            + " and add it under Memory, Drafts. Ctrl+C ends it.");
            spec.commandLine().getOut().flush();
            new CountDownLatch(1).await();
        } catch (java.net.BindException taken) {
            throw new LaunchException("Port " + port
                    + " on 127.0.0.1 is in use by another program; end that, or choose another with --port.");
        } catch (InterruptedException ended) {
            Thread.currentThread().interrupt();
        }
        return 0;
    }
}
