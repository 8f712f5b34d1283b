package mellow.core.delivery;

import java.util.Map;
import mellow.core.text.Places;

/** What stops a recipe, in a sentence with a stable code and its values. */
public final class UndeliverableException extends RuntimeException {

    private final String code;
    private final String pattern;
    private final transient Map<String, Object> values;

    /** A reason; {@code values} fill the {@linkplain Places places} of {@code pattern}. */
    public UndeliverableException(String code, String pattern, Map<String, Object> values) {
        super(Places.filled(pattern, values));
        this.code = code;
        this.pattern = pattern;
        this.values = values;
    }

    /** The stable code. */
    public String code() {
        return code;
    }

    /** The sentence with its places. */
    public String pattern() {
        return pattern;
    }

    /** What fills them. */
    public Map<String, Object> values() {
        return values;
    }
}
