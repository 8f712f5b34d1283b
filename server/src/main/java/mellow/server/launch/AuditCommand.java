package mellow.server.launch;

import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import mellow.server.audit.Audit;
import mellow.server.audit.Audit.Finding;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** Recounts the whole record and says what differs from its counters; while the server runs or not. */
@Command(
        name = "audit",
        description = "Recounts everything and compares; the exit code is 1 when anything differs.",
        mixinStandardHelpOptions = true)
final class AuditCommand implements Callable<Integer> {

    @Option(names = "--data", description = "The data folder (default: data).", defaultValue = "data")
    private Path data = Path.of("data");

    @Spec
    private CommandSpec spec = CommandSpec.create();

    @Override
    public Integer call() {
        PrintWriter out = spec.commandLine().getOut();
        int differences = counted(out);
        out.println(differences + (differences == 1 ? " difference" : " differences"));
        out.flush();
        return differences == 0 ? 0 : 1;
    }

    private int counted(PrintWriter out) {
        Optional<PrivateCluster.Access> named = StartCommand.named(StartCommand.DATABASE_URL);
        if (named.isPresent()) {
            return tell(out, named.get());
        }
        PrivateCluster cluster = new PrivateCluster(data);
        if (!Files.exists(cluster.place())) {
            throw new LaunchException(
                    "There is no record in " + cluster.place().getParent() + " yet; nothing to recount.");
        }
        boolean ran = cluster.running();
        try {
            return tell(out, cluster.start());
        } finally {
            if (!ran) {
                cluster.stop();
            }
        }
    }

    private static int tell(PrintWriter out, PrivateCluster.Access access) {
        DriverManagerDataSource database = new DriverManagerDataSource(access.url(), access.user(), access.password());
        return tell(out, new Audit(JdbcClient.create(database)).run());
    }

    private static int tell(PrintWriter out, List<Finding> findings) {
        int differences = 0;
        for (Finding finding : findings) {
            differences += finding.differences();
            out.println((finding.differences() == 0 ? "holds: " : "BROKEN: ") + finding.check());
            finding.examples().forEach(example -> out.println("  " + example));
        }
        return differences;
    }
}
