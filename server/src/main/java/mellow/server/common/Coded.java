package mellow.server.common;

import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.cell.CellState;
import mellow.core.cell.Offer;
import mellow.core.cell.Standing;

/**
 * Coded columns in SQL by the names of their values: <code>{state.stale}</code>, <code>{standing.settled}</code>, <code>{answer.open}</code>. The numbers are
 * the order of core's values; once stored they never change.
 */
public final class Coded {

    private static final Pattern NAME = Pattern.compile("\\{(\\w+)\\.(\\w+)}");

    private static final Map<String, Integer> NUMBERS = new HashMap<>();

    static {
        name("state", CellState.values());
        name("standing", Standing.values());
        name("answer", Offer.Answer.values());
    }

    private Coded() {}

    private static void name(String kind, Enum<?>... values) {
        for (Enum<?> value : values) {
            NUMBERS.put(kind + "." + value.name().toLowerCase(Locale.ROOT), value.ordinal());
        }
    }

    /**
     * {@code named} with numbers for names.
     *
     * @throws IllegalArgumentException when there is no such value
     */
    public static String sql(String named) {
        return NAME.matcher(named)
                .replaceAll(found -> Matcher.quoteReplacement(number(found.group(1), found.group(2))));
    }

    private static String number(String kind, String value) {
        Integer number = NUMBERS.get(kind + "." + value);
        if (number == null) {
            throw new IllegalArgumentException("no " + kind + " is called " + value);
        }
        return number.toString();
    }
}
