package mellow.server.delivery;

import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import mellow.server.common.Refusal;

/** Words of which one has to be chosen. */
final class Choices {

    private Choices() {}

    /** Refuses a word that is none of those known, and names them. */
    static void require(String field, String said, Set<String> known) {
        if (!known.contains(said)) {
            throw Refusal.unacceptable(
                    "unknown-choice",
                    "“{said}” is no choice for {field}; expected one of {expected}.",
                    Map.of("field", field, "said", said, "expected", String.join(", ", new TreeSet<>(known))));
        }
    }
}
