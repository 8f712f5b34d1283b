package mellow.core.scan;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholder.Kind;
import mellow.core.placeholder.Placeholders;
import mellow.core.scan.KeyUse.Values;

/** Compares the values that code puts into a text with the places that the text has for them. */
public final class GivenValues {

    private static final Set<Kind> FILLED = Set.of(
            Kind.PRINTF,
            Kind.NAMED_PRINTF,
            Kind.NUMBERED,
            Kind.BRACES,
            Kind.DOUBLE_BRACES,
            Kind.DOLLAR_BRACES,
            Kind.ICU_ARGUMENT);

    /**
     * What does not fit.
     *
     * @param missing places of the text that get no value, as spelled or by name
     * @param needless names of values that no place takes; for values without names how many, as one number
     */
    public record Misfit(List<String> missing, List<String> needless) {

        /** Copies of what is given. */
        public Misfit {
            missing = List.copyOf(missing);
            needless = List.copyOf(needless);
        }

        /** Whether everything fits. */
        public boolean none() {
            return missing.isEmpty() && needless.isEmpty();
        }
    }

    private GivenValues() {}

    /** What does not fit between a text and the values it is given. */
    public static Misfit misfit(String source, Values values) {
        List<String> spelled = new ArrayList<>();
        Set<String> seen = new HashSet<>();
        Set<String> names = new TreeSet<>();
        for (Placeholder one : Placeholders.COMMON.inValues(source)) {
            if (FILLED.contains(one.kind()) && !one.spelled().equals("%%")) {
                // "%s of %s" has two places, "{n} of {n}" has one.
                boolean inTurn = one.kind() == Kind.PRINTF && one.spelled().indexOf('$') < 0;
                if (seen.add(inTurn ? one.identity() + seen.size() : one.identity())) {
                    spelled.add(one.spelled());
                }
                names.add(name(one.spelled()));
            }
        }
        if (!values.names().isEmpty()) {
            List<String> missing = names.stream()
                    .filter(name -> !values.names().contains(name))
                    .toList();
            List<String> needless = values.names().stream()
                    .filter(name -> !names.contains(name))
                    .toList();
            return new Misfit(missing, needless);
        }
        int places = spelled.size();
        if (values.count() < places) {
            return new Misfit(spelled.subList(values.count(), places), List.of());
        }
        return values.count() > places
                ? new Misfit(List.of(), List.of(Integer.toString(values.count() - places)))
                : new Misfit(List.of(), List.of());
    }

    /** The name or number in a placeholder. */
    private static String name(String spelled) {
        int from = 0;
        while (from < spelled.length() && !part(spelled.charAt(from))) {
            from++;
        }
        int to = from;
        while (to < spelled.length() && part(spelled.charAt(to))) {
            to++;
        }
        return spelled.substring(from, to);
    }

    private static boolean part(char c) {
        return Character.isLetterOrDigit(c) || c == '_' || c == '.' || c == '-';
    }
}
