package mellow.server.rehearsal;

import java.util.Map;

/**
 * Something about a text where it stands.
 *
 * @param code stable, such as {@code too-wide}
 * @param wrong whether it is to be mended, and not only to be minded
 */
public record SceneFinding(String code, boolean wrong, Map<String, Object> values) {

    static SceneFinding wrong(String code, Map<String, Object> values) {
        return new SceneFinding(code, true, values);
    }

    static SceneFinding mind(String code, Map<String, Object> values) {
        return new SceneFinding(code, false, values);
    }
}
