package mellow.server.launch;

import java.io.IOException;
import java.net.http.HttpRequest.BodyPublishers;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code mellow deliver}: delivers a product of a running server, so that a build has its texts; when a gate stops it, it ends with 1 and a sentence. */
@Command(name = "deliver", description = "Delivers a product of a running server.", mixinStandardHelpOptions = true)
final class DeliverCommand extends RemoteCommand implements Callable<Integer> {

    @Parameters(paramLabel = "PRODUCT", description = "the product, by its name in addresses")
    private String product = "";

    @Option(names = "--try", description = "make everything and keep nothing")
    private boolean only;

    @Option(
            names = "--to",
            paramLabel = "FOLDER",
            description = "where its files go; otherwise they stay on the server")
    private @Nullable Path folder;

    @Override
    public Integer call() throws IOException {
        String at = "/api/products/" + encoded(product) + "/deliveries";
        if (only) {
            byte[] archive = send(request(at + "/try", Map.of()).GET().build()).body();
            if (folder != null) {
                Unpacking.zip(archive, folder, List.of(), spec.commandLine().getOut());
            }
            spec.commandLine().getOut().println(product + ": it can be delivered; nothing was kept.");
            return 0;
        }
        send(request(at, Map.of()).POST(BodyPublishers.noBody()).build());
        await(at + "/run", "the delivery", "It was not delivered.");
        int number = json(at).path(0).path("number").asInt();
        if (folder != null) {
            byte[] archive = send(request(at + "/" + number + "/archive", Map.of())
                            .GET()
                            .build())
                    .body();
            Unpacking.zip(archive, folder, List.of(), spec.commandLine().getOut());
        }
        spec.commandLine().getOut().println(product + ": delivered as no. " + number + ".");
        return 0;
    }
}
