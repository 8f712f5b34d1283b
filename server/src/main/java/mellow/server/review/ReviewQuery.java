package mellow.server.review;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import mellow.core.check.Finding;
import mellow.core.language.LanguageTag;
import mellow.server.common.Refusal;

/**
 * Which offers are looked at.
 *
 * @param number the language's number
 * @param tables numbers of tables
 * @param person only offers of this person; 0 for everyone's
 * @param olderThanDays only offers that have waited for so many days
 */
record ReviewQuery(
        LanguageTag language,
        int number,
        List<Long> tables,
        long person,
        int olderThanDays,
        Checked checks,
        Order order) {

    /** In which order the cells come. */
    enum Order {
        OLDEST,
        NEWEST,
        TABLE
    }

    /** What the checks found in the offered text. */
    enum Checked {
        ALL,
        SOUND,
        WARNED,
        BLOCKED;

        boolean holds(List<Finding> findings) {
            boolean blocked = findings.stream().anyMatch(finding -> finding.severity() == Finding.Severity.BLOCKER);
            return switch (this) {
                case ALL -> true;
                case SOUND -> findings.isEmpty();
                case WARNED -> !blocked && !findings.isEmpty();
                case BLOCKED -> blocked;
            };
        }
    }

    static Order order(String word) {
        return parse(Order.values(), word, "order");
    }

    static Checked checked(String word) {
        return parse(Checked.values(), word, "checks");
    }

    private static <T extends Enum<T>> T parse(T[] values, String word, String field) {
        return Arrays.stream(values)
                .filter(value -> value.name().toLowerCase(Locale.ROOT).equals(word))
                .findFirst()
                .orElseThrow(() -> Refusal.unacceptable(
                        "unknown-" + field,
                        "“{said}” is no {field}; expected one of {expected}.",
                        Map.of(
                                "field",
                                field,
                                "said",
                                word,
                                "expected",
                                Arrays.toString(values).toLowerCase(Locale.ROOT))));
    }
}
