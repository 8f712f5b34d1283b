package mellow.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeSet;
import mellow.core.merge.Arrival;
import mellow.server.support.Http;
import mellow.server.support.ServerTest;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.system.CapturedOutput;
import org.springframework.boot.test.system.OutputCaptureExtension;
import org.springframework.http.HttpMethod;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * Sends values that nobody sends to every parameter and every field of every body that the interface describes: each is refused or understood, and none is a
 * fault of the server. What is new in the description is tried by itself.
 */
@ExtendWith(OutputCaptureExtension.class)
class HostileRequestsTest extends ServerTest {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final JsonNode API = api();

    /** Values for places of text. */
    private static final List<String> TEXTS = List.of(
            "",
            " ",
            "\0",
            "a\0b",
            "\uFFFF",
            "null",
            "-1",
            "0",
            "9223372036854775807",
            "9223372036854775808",
            "1e400",
            "NaN",
            "2026-13-45",
            "+292278994-08-17T07:12:55.807Z",
            "../../etc/passwd",
            "C:\\x",
            "' or 1=1; --",
            "%_\\",
            "(a+)+$",
            "{\"a\":1}",
            "x".repeat(6_000),
            "ja-Zzzz-ZZ-x-private",
            "\u202e\u0634\ud83d\udea2",
            "[[[[[[[[");

    /** Values for places of JSON, as they are written. */
    private static final List<String> VALUES = List.of(
            "null",
            "true",
            "\"\"",
            "\" \"",
            "\"a\\u0000b\"",
            "\"\\ud800\"",
            "-1",
            "0",
            "2147483648",
            "9223372036854775807",
            "1e400",
            "1.5",
            "[]",
            "[null]",
            "{}",
            "{\"a\":null}",
            "{\"\\u0000\":\"x\"}",
            "[[[[]]]]",
            "\"" + "x".repeat(6_000) + "\"",
            "\"2026-13-45T99:00:00Z\"",
            "\"+292278994-08-17T07:12:55.807Z\"",
            "\"(a+)+$\"",
            "[" + "1,".repeat(3_000) + "1]");

    @Autowired
    private Http http;

    private long mara;
    private final TreeSet<String> wrong = new TreeSet<>();

    private static JsonNode api() {
        try {
            return JSON.readTree(Files.readString(Path.of("../docs/openapi.json")));
        } catch (IOException missing) {
            throw new UncheckedIOException(missing);
        }
    }

    @BeforeEach
    void aTable() {
        mara = ledger.coordinator("mara");
        ledger.takeIn(mara, "Ramp", "key,en,de\nup,Ramp up,Rampe hoch\n", Arrival.SETTLED);
    }

    @Test
    void noValueOfAnyParameterIsAFaultOfTheServer(CapturedOutput output) throws Exception {
        for (Map.Entry<String, JsonNode> path : API.path("paths").properties()) {
            for (Map.Entry<String, JsonNode> operation : path.getValue().properties()) {
                boolean tried = List.of("get", "post", "put", "delete").contains(operation.getKey());
                if (tried && !path.getKey().equals("/api/live")) {
                    parameters(operation.getKey(), path.getKey(), operation.getValue());
                }
            }
        }
        assertThat(wrong).isEmpty();
        assertThat(output.getOut()).doesNotContain("A request failed");
    }

    @Test
    void noValueOfAnyFieldIsAFaultOfTheServer(CapturedOutput output) throws Exception {
        for (Map.Entry<String, JsonNode> path : API.path("paths").properties()) {
            for (Map.Entry<String, JsonNode> operation : path.getValue().properties()) {
                JsonNode schema = operation
                        .getValue()
                        .path("requestBody")
                        .path("content")
                        .path("application/json")
                        .path("schema");
                if (!schema.isMissingNode()) {
                    bodies(operation.getKey(), path(path.getKey(), operation.getValue(), Map.of()), schema);
                }
            }
        }
        assertThat(wrong).isEmpty();
        assertThat(output.getOut()).doesNotContain("A request failed");
    }

    private void parameters(String method, String path, JsonNode operation) throws Exception {
        for (JsonNode parameter : operation.path("parameters")) {
            for (String value : TEXTS) {
                Map<String, String> given = new LinkedHashMap<>();
                given.put(parameter.path("name").asString(), value);
                send(
                        method,
                        path(path, operation, given),
                        sample(bodySchema(operation), 0).toString());
            }
        }
    }

    private static JsonNode bodySchema(JsonNode operation) {
        return operation
                .path("requestBody")
                .path("content")
                .path("application/json")
                .path("schema");
    }

    /** The path with what it needs: what is given, else something that may exist. */
    private static String path(String path, JsonNode operation, Map<String, String> given) {
        String filled = path;
        StringBuilder query = new StringBuilder();
        for (JsonNode parameter : operation.path("parameters")) {
            String name = parameter.path("name").asString();
            boolean inPath = parameter.path("in").asString().equals("path");
            String usual = name.equals("language") ? "de" : name.equals("table") || name.equals("slug") ? "ramp" : "1";
            String value = given.getOrDefault(name, usual);
            if (inPath) {
                filled = filled.replace("{" + name + "}", value.isEmpty() ? "%20" : encoded(value));
            } else if (given.containsKey(name) || parameter.path("required").asBoolean()) {
                query.append(query.isEmpty() ? '?' : '&')
                        .append(name)
                        .append('=')
                        .append(encoded(value));
            }
        }
        return filled + query;
    }

    private static String encoded(String value) {
        return URLEncoder.encode(value, StandardCharsets.UTF_8).replace("+", "%20");
    }

    private void bodies(String method, String path, JsonNode schema) throws Exception {
        for (String value : VALUES) {
            send(method, path, value);
        }
        JsonNode sample = sample(schema, 0);
        for (List<Object> place : places(sample, List.of())) {
            for (String value : VALUES) {
                JsonNode changed = sample.deepCopy();
                put(changed, place, JSON.readTree(value.equals("1e400") ? "1e40" : value));
                send(method, path, changed.toString());
            }
        }
    }

    /** Every place in a body that holds something. */
    private static List<List<Object>> places(JsonNode body, List<Object> here) {
        List<List<Object>> places = new ArrayList<>();
        for (Map.Entry<String, JsonNode> field : body.properties()) {
            List<Object> there = new ArrayList<>(here);
            there.add(field.getKey());
            places.add(there);
            places.addAll(places(field.getValue(), there));
        }
        for (int i = 0; body.isArray() && i < body.size(); i++) {
            List<Object> there = new ArrayList<>(here);
            there.add(i);
            places.addAll(places(body.get(i), there));
        }
        return places;
    }

    private static void put(JsonNode body, List<Object> place, JsonNode value) {
        JsonNode at = body;
        for (Object step : place.subList(0, place.size() - 1)) {
            at = step instanceof String name ? at.get(name) : at.get((Integer) step);
        }
        ((ObjectNode) at).set((String) place.get(place.size() - 1), value);
    }

    /** A body that the schema describes, as small as can be. */
    private static JsonNode sample(JsonNode schema, int depth) {
        String reference = schema.path("$ref").asString("");
        if (!reference.isEmpty()) {
            String name = reference.substring(reference.lastIndexOf('/') + 1);
            return depth > 6
                    ? JSON.nullNode()
                    : sample(API.path("components").path("schemas").path(name), depth + 1);
        }
        if (schema.has("enum")) {
            return schema.get("enum").get(0);
        }
        switch (schema.path("type").asString("object")) {
            case "integer", "number" -> {
                return JSON.getNodeFactory().numberNode(1);
            }
            case "boolean" -> {
                return JSON.getNodeFactory().booleanNode(false);
            }
            case "string" -> {
                return JSON.getNodeFactory().stringNode("de");
            }
            case "array" -> {
                ArrayNode array = JSON.createArrayNode();
                array.add(sample(schema.path("items"), depth + 1));
                return array;
            }
            default -> {
                ObjectNode object = JSON.createObjectNode();
                schema.path("properties")
                        .properties()
                        .forEach(one -> object.set(one.getKey(), sample(one.getValue(), depth + 1)));
                JsonNode more = schema.path("additionalProperties");
                if (more.isObject()) {
                    object.set("de", sample(more, depth + 1));
                }
                return object;
            }
        }
    }

    private void send(String method, String path, String body) throws Exception {
        // Whatever was understood before, the coordinator is one.
        ledger.run("update person set ended_at = null, coordinator = true where id = " + mara);
        HttpMethod verb = HttpMethod.valueOf(method.toUpperCase(Locale.ROOT));
        Http.Reply reply = verb == HttpMethod.GET ? http.get(mara, path) : http.json(mara, verb, path, body);
        if (reply.status() > 499) {
            String shown = body.length() > 200 ? body.substring(0, 200) + "…" : body;
            wrong.add(verb + " " + (path.length() > 160 ? path.substring(0, 160) + "…" : path)
                    + (verb == HttpMethod.GET ? "" : " " + shown) + " → " + reply.status());
        }
    }
}
