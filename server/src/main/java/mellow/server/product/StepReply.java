package mellow.server.product;

import java.util.List;
import java.util.Map;
import mellow.core.product.Step;

/**
 * A step on the way to an answer.
 *
 * @param code stable
 * @param said what it says, with its values
 */
public record StepReply(String code, Map<String, Object> values, String said) {

    /** Steps as they are told. */
    public static List<StepReply> of(List<Step> steps) {
        return steps.stream()
                .map(step -> new StepReply(step.code(), step.values(), step.said()))
                .toList();
    }
}
