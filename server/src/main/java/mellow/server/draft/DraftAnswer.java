package mellow.server.draft;

import java.util.HashMap;
import java.util.Map;
import mellow.core.text.Keepable;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What a service answered, as the protocol has it (docs/drafting.md). */
final class DraftAnswer {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final int LONGEST_REASON = 200;

    private DraftAnswer() {}

    /**
     * A draft.
     *
     * @param text with marks, empty where there is none
     * @param failure why there is none, empty where there is one
     */
    record One(String text, String failure) {}

    /**
     * Reads the drafts of an answer by the numbers under which they were asked for; of two for the same text neither can be trusted.
     *
     * @throws JacksonException when it is no JSON
     * @throws IllegalArgumentException when it has no list of drafts
     */
    static Map<String, One> read(byte[] body) {
        JsonNode drafts = JSON.readTree(body).path("drafts");
        if (!drafts.isArray()) {
            throw new IllegalArgumentException("no drafts");
        }
        Map<String, One> read = new HashMap<>();
        for (JsonNode draft : drafts) {
            String id = draft.path("id").asString("");
            String failure = draft.path("failure").asString("");
            One one = new One(draft.path("text").asString(""), Keepable.shown(failure, LONGEST_REASON));
            read.merge(id, one, (first, second) -> new One("", "It answered twice for this text."));
        }
        return read;
    }
}
