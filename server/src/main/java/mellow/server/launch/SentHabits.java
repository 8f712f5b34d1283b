package mellow.server.launch;

import java.util.List;
import mellow.core.scan.Habit;
import mellow.server.code.CodeSettings;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** How a product's code names keys, as its server says it. */
final class SentHabits {

    private SentHabits() {}

    static List<Habit> read(JsonNode settings) {
        try {
            return JsonMapper.shared().treeToValue(settings, CodeSettings.class).asHabits();
        } catch (JacksonException another) {
            throw new LaunchException("The server says it otherwise; use the command of its version.");
        }
    }
}
