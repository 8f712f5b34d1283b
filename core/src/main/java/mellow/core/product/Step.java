package mellow.core.product;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import mellow.core.text.Places;

/**
 * One step on the way to an answer.
 *
 * @param code stable, such as {@code not-listed}
 * @param pattern what it says, with {@linkplain Places places} for what differs
 * @param values what fills them
 */
public record Step(String code, String pattern, Map<String, Object> values) {

    /** What it says. */
    public String said() {
        return Places.filled(pattern, values);
    }

    /** All steps as one line: "7 → not listed → start language → Finnish". */
    public static String line(List<Step> steps) {
        return steps.stream().map(Step::said).collect(Collectors.joining(" → "));
    }
}
