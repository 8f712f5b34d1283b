package mellow.server.draft;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpHandler;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import mellow.server.draft.DraftServices.DraftSettings;
import mellow.server.support.Receiver;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A drafting service in a test: the receiver, answering by the protocol. */
public final class Drafter {

    private static final JsonMapper JSON = JsonMapper.shared();

    private Drafter() {}

    /** Settings that a test can live with. */
    public static DraftSettings settings(String name) {
        return settings(name, 1_000_000, List.of(), List.of());
    }

    /** The same for some languages, with so many characters a day, for all but some tables. */
    public static DraftSettings settings(String name, long day, List<String> languages, List<String> withheld) {
        return new DraftSettings(
                name, "http://" + Receiver.authority() + "/drafts", languages, withheld, day, 10_000_000, 10, 2, 5);
    }

    /** Has it answer each text with what {@code draft} makes of it; null for no answer. */
    public static void drafts(Function<String, String> draft) {
        Receiver.answer(answering(draft));
    }

    /** That answer. */
    public static HttpHandler answering(Function<String, String> draft) {
        return exchange -> {
            JsonNode question = JSON.readTree(exchange.getRequestBody().readAllBytes());
            List<Map<String, String>> drafts = new java.util.ArrayList<>();
            for (JsonNode text : question.path("texts")) {
                String answer = draft.apply(text.path("text").asString());
                if (answer != null) {
                    Map<String, String> one = new LinkedHashMap<>();
                    one.put("id", text.path("id").asString());
                    one.put(answer.startsWith("!") ? "failure" : "text", answer.replaceFirst("^!", ""));
                    drafts.add(one);
                }
            }
            reply(exchange, 200, JSON.writeValueAsString(Map.of("drafts", drafts)));
        };
    }

    /** Sends a body with a status. */
    public static void reply(HttpExchange exchange, int status, String body) throws IOException {
        byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
        exchange.sendResponseHeaders(status, bytes.length == 0 ? -1 : bytes.length);
        if (bytes.length > 0) {
            exchange.getResponseBody().write(bytes);
        }
        exchange.close();
    }
}
