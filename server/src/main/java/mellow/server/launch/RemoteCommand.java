package mellow.server.launch;

import java.io.IOException;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What the commands that speak with a server have in common: where it is, and the token that lets them in. */
abstract class RemoteCommand {

    private static final int FIRST_ERROR = 400;
    private static final long BETWEEN_LOOKS_MILLIS = 250;
    static final int REFUSED = 2;

    @Spec
    CommandSpec spec = CommandSpec.create();

    @Option(
            names = "--server",
            paramLabel = "ADDRESS",
            description = "the server's address; MELLOW_SERVER or ${DEFAULT-VALUE} otherwise",
            defaultValue = "http://127.0.0.1:8080")
    private String server = "";

    @Option(
            names = "--token",
            paramLabel = "SECRET",
            description = "the token; MELLOW_TOKEN otherwise, which no other process sees")
    private @Nullable String token;

    @Option(
            names = "--table",
            paramLabel = "NAME",
            description = "the table, by its name in addresses; a folder may tell it")
    String table = "";

    /** The table, which has to be named. */
    String requiredTable() {
        if (table.isEmpty()) {
            throw new LaunchException("Say which table: --table NAME, by its name in addresses.");
        }
        return table;
    }

    /** Made with the first request: it reads the trust store, which every other command would wait for too. */
    private static final class Http {
        static final HttpClient CLIENT = HttpClient.newHttpClient();
    }

    /** A request to {@code path} with a query; the token goes along. */
    HttpRequest.Builder request(String path, Map<String, String> query) {
        String secret = Optional.ofNullable(token)
                .or(() -> Optional.ofNullable(System.getenv("MELLOW_TOKEN")))
                .orElseThrow(
                        () -> new LaunchException(
                                "A token is needed: a coordinator makes one under People; give it as MELLOW_TOKEN or --token."));
        boolean given = spec.commandLine().getParseResult().hasMatchedOption("--server");
        String address = given
                ? server
                : Optional.ofNullable(System.getenv("MELLOW_SERVER")).orElse(server);
        String asked = query.entrySet().stream()
                .map(one -> one.getKey() + "=" + encoded(one.getValue()))
                .collect(Collectors.joining("&"));
        try {
            return HttpRequest.newBuilder(URI.create(address.replaceFirst("/+$", "") + path + "?" + asked))
                    .header("Authorization", "Bearer " + secret)
                    .header("Accept", "*/*");
        } catch (IllegalArgumentException notOne) {
            throw new LaunchException(
                    "“" + address + "” is no address of a server; expected one such as http://127.0.0.1:8080.");
        }
    }

    static String encoded(String value) {
        return URLEncoder.encode(value, StandardCharsets.UTF_8);
    }

    /**
     * Sends a request.
     *
     * @throws LaunchException with the server's sentence when it refuses, or saying that it cannot be reached
     */
    HttpResponse<byte[]> send(HttpRequest request) {
        HttpResponse<byte[]> response;
        try {
            response = Http.CLIENT.send(request, BodyHandlers.ofByteArray());
        } catch (IOException unreachable) {
            throw new LaunchException("The server at " + request.uri().getAuthority() + " cannot be reached.");
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new LaunchException("Stopped.");
        }
        if (response.statusCode() >= FIRST_ERROR) {
            throw new LaunchException(sentence(response));
        }
        return response;
    }

    /** What a server says at an address. */
    JsonNode json(String path) {
        return JsonMapper.shared()
                .readTree(send(request(path, Map.of()).GET().build()).body());
    }

    /**
     * Waits until work at an address is over.
     *
     * @param goesOn what the server goes on with when somebody stops the command
     * @return how it ended
     * @throws LaunchException with the server's sentence when it did not end well, or {@code otherwise} when it has none
     */
    JsonNode await(String path, String goesOn, String otherwise) {
        try {
            while (true) {
                JsonNode run = json(path);
                String status = run.path("status").asString("");
                if (status.equals("done")) {
                    return run;
                }
                if (!status.equals("queued") && !status.equals("going")) {
                    throw new LaunchException(run.path("message").asString(otherwise));
                }
                Thread.sleep(BETWEEN_LOOKS_MILLIS);
            }
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new LaunchException("Stopped; the server goes on with " + goesOn + ".");
        }
    }

    private static String sentence(HttpResponse<byte[]> response) {
        try {
            String detail =
                    JsonMapper.shared().readTree(response.body()).path("detail").asString("");
            return detail.isEmpty() ? "The server answered with " + response.statusCode() + " and no reason." : detail;
        } catch (JacksonException notJson) {
            return "The server answered with " + response.statusCode() + " and no reason.";
        }
    }
}
