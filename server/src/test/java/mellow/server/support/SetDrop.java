package mellow.server.support;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import mellow.server.intake.IntakeService;
import mellow.server.run.RunService.Progress;
import org.awaitility.Awaitility;
import org.springframework.http.HttpMethod;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/** Drops files through the HTTP interface and takes in what comes of it, as a screen does. */
@Component
public class SetDrop {

    private final Http http;
    private final IntakeService intakes;

    SetDrop(Http http, IntakeService intakes) {
        this.http = http;
        this.intakes = intakes;
    }

    /** Drops files and waits until they are sorted; the reply. */
    public JsonNode drop(long person, Map<String, String> files) {
        try {
            String drop = "/api/drops/"
                    + http.json(person, HttpMethod.POST, "/api/drops", "")
                            .body()
                            .path("id")
                            .asLong();
            for (Map.Entry<String, String> file : files.entrySet()) {
                String name = URLEncoder.encode(file.getKey(), StandardCharsets.UTF_8);
                http.bytes(person, drop + "/files?name=" + name, file.getValue().getBytes(StandardCharsets.UTF_8));
            }
            http.json(person, HttpMethod.POST, drop + "/sort", "");
            return Awaitility.await().until(() -> http.get(person, drop).body(), reply -> reply.has("intakes"));
        } catch (Exception failed) {
            throw new IllegalStateException(failed);
        }
    }

    /** Drops files and takes everything in that they were sorted into. */
    public void take(long person, Map<String, String> files) {
        drop(person, files)
                .path("intakes")
                .forEach(one -> intakes.apply(person, one.path("id").asLong(), Progress.UNWATCHED));
    }
}
