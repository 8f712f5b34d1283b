package mellow.core.scan;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.scan.Tokens.Kind;

/**
 * What an expression of code can be: strings that are known, or that are known in part, as {@code "lamp." + state} is {@code lamp.*}. Follows choices
 * ({@code on ? "lamp.on" : "lamp.off"}), strings in pieces and constants of the same file; everything else is a hole.
 */
final class Value {

    /** What stands for a part that is not known: no character of Unicode (§23.7). */
    static final char ANYTHING = '\uFFFF';

    /** How that is told. */
    static final char TOLD = '*';

    private static final Set<String> CHOICES = Set.of("?", ":", "??", "||", "?:");
    private static final Set<String> JOINS = Set.of("+", "..", ".", "&");
    private static final Set<String> FORMATS = Set.of("format", "sprintf", "Sprintf");

    private final Tokens tokens;
    private final String text;
    private final Map<String, String> constants = new HashMap<>();

    Value(Tokens tokens, String text) {
        this.tokens = tokens;
        this.text = text;
        findConstants();
    }

    /** Names that are given a string once: {@code final String KEY = "menu.title"}. */
    private void findConstants() {
        for (int at = 1; at + 1 < tokens.size(); at++) {
            if (tokens.is(at, "=") && tokens.is(at + 1, Kind.STRING)) {
                int name = at - 1;
                if (tokens.is(name, "String") || tokens.is(name, "string")) {
                    // A name with its type behind it: val KEY: String = "…"
                    name -= tokens.is(name - 1, ":") ? 2 : 1;
                }
                boolean whole = at + 2 >= tokens.size() || !JOINS.contains(tokens.spelled(at + 2));
                if (whole && tokens.is(name, Kind.WORD)) {
                    String value = Literal.value(tokens, at + 1, text);
                    constants.merge(tokens.spelled(name), value, (was, now) -> was.equals(now) ? was : "");
                }
            }
        }
    }

    /**
     * What the tokens from {@code from} up to {@code to} can be: whole strings, and ones with {@link #ANYTHING} where a part is not known. Empty when nothing is
     * known.
     */
    List<String> of(int from, int to) {
        List<String> found = new ArrayList<>();
        int start = from;
        int depth = 0;
        for (int at = from; at < to; at++) {
            if (tokens.opens(at)) {
                depth++;
            } else if (tokens.closes(at)) {
                depth--;
            } else if (depth == 0 && tokens.is(at, Kind.SIGN) && CHOICES.contains(tokens.spelled(at))) {
                add(branch(start, at), found);
                start = at + 1;
            } else if (depth == 0 && (tokens.is(at, "if") || tokens.is(at, "else"))) {
                add(branch(start, at), found);
                // What is asked stands in parentheses, or between "if" and "else".
                start = tokens.is(at, "if") && tokens.is(at + 1, "(") ? closing(at + 1, to) + 1 : at + 1;
                at = start - 1;
            }
        }
        add(branch(start, to), found);
        return found;
    }

    private static void add(String value, List<String> found) {
        if (value.chars().anyMatch(c -> c != ANYTHING) && !found.contains(value)) {
            found.add(value);
        }
    }

    /** One branch; {@link #ANYTHING} alone when nothing of it is known. */
    private String branch(int from, int to) {
        StringBuilder value = new StringBuilder();
        int at = from;
        while (at < to) {
            at = part(at, to, value);
        }
        return value.toString();
    }

    /** Adds what one token says; where the next part begins. */
    private int part(int at, int to, StringBuilder value) {
        if (tokens.is(at, Kind.STRING) || tokens.is(at, Kind.BETWEEN) || tokens.is(at, Kind.CLOSING)) {
            value.append(Literal.value(tokens, at, text));
            return at + 1;
        }
        if (tokens.is(at, Kind.OPENING)) {
            value.append(Literal.value(tokens, at, text));
            return hole(at + 1, to, value);
        }
        if (tokens.is(at, Kind.COMMENT) || tokens.is(at, Kind.SIGN) && JOINS.contains(tokens.spelled(at))) {
            return at + 1;
        }
        if (tokens.is(at, "(") && onlyStrings(at + 1, closing(at, to))) {
            return at + 1;
        }
        if (tokens.is(at, ")")) {
            return at + 1;
        }
        return unknown(at, to, value);
    }

    /** Goes over what is in holes of a string, which is not known. */
    private int hole(int from, int to, StringBuilder value) {
        anything(value);
        int depth = 0;
        for (int at = from; at < to; at++) {
            if (depth == 0 && tokens.is(at, Kind.BETWEEN)) {
                value.append(Literal.value(tokens, at, text));
                anything(value);
            } else if (depth == 0 && tokens.is(at, Kind.CLOSING)) {
                value.append(Literal.value(tokens, at, text));
                return at + 1;
            } else if (tokens.opens(at)) {
                depth++;
            } else if (tokens.closes(at)) {
                depth--;
            }
        }
        return to;
    }

    private boolean onlyStrings(int from, int to) {
        for (int at = from; at < to; at++) {
            if (!tokens.is(at, Kind.STRING) && !(tokens.is(at, Kind.SIGN) && JOINS.contains(tokens.spelled(at)))) {
                return false;
            }
        }
        return to > from;
    }

    /** A name, a call or anything else up to the next sign that joins. */
    private int unknown(int from, int to, StringBuilder value) {
        int at = from;
        int words = 0;
        while (at < to && !joins(at)) {
            words += tokens.is(at, Kind.WORD) ? 1 : 0;
            if (tokens.opens(at)) {
                if (at > from && FORMATS.contains(tokens.spelled(at - 1)) && tokens.is(at + 1, Kind.STRING)) {
                    value.append(holesOfFormat(Literal.value(tokens, at + 1, text)));
                    return closing(at, to) + 1;
                }
                at = closing(at, to);
                words = 0;
            }
            at++;
        }
        String constant = words > 0 ? constants.get(tokens.spelled(at - 1)) : null;
        if (constant != null && !constant.isEmpty()) {
            value.append(constant);
        } else {
            anything(value);
        }
        return Math.max(at, from + 1);
    }

    /** A dot joins strings only where it does not join names. */
    private boolean joins(int at) {
        if (!tokens.is(at, Kind.SIGN) || !JOINS.contains(tokens.spelled(at))) {
            return false;
        }
        return !tokens.is(at, ".") || tokens.is(at + 1, Kind.STRING) || tokens.is(at - 1, Kind.STRING);
    }

    private static void anything(StringBuilder value) {
        if (value.isEmpty() || value.charAt(value.length() - 1) != ANYTHING) {
            value.append(ANYTHING);
        }
    }

    /** {@code lamp.%s} as {@code lamp.*}; {@code lamp.{0}} likewise. */
    private static String holesOfFormat(String format) {
        return format.replaceAll("%[-+0-9.$#]{0,12}[a-zA-Z]|\\{[0-9]{0,3}\\}", String.valueOf(ANYTHING));
    }

    /** The place of the token that closes what opens at {@code at}; {@code to} when nothing does. */
    int closing(int at, int to) {
        int depth = 0;
        for (int i = at; i < to; i++) {
            if (tokens.opens(i)) {
                depth++;
            } else if (tokens.closes(i) && --depth == 0) {
                return i;
            }
        }
        return to;
    }
}
