package mellow.core.scan;

import java.util.ArrayList;
import java.util.List;
import mellow.core.scan.KeyUse.Values;
import mellow.core.scan.Tokens.Kind;
import org.jspecify.annotations.Nullable;

/** The arguments of a call: where each begins and ends, what it can be, and what is put into a text by them. A stretch is its first token and the one behind it. */
final class Arguments {

    /** What stands further from the beginning of a call is not looked at: no call that names a key has more. */
    static final int LONGEST_CALL = 400;

    private final Source source;
    private final Tokens tokens;
    private final String text;
    private final Value value;

    Arguments(Source source) {
        this.source = source;
        this.tokens = source.tokens();
        this.text = source.text();
        this.value = new Value(tokens, text);
    }

    /** Those between the parenthesis at a token and the one that closes it. */
    List<int[]> in(int open) {
        return split(open + 1, closing(open));
    }

    /** The token that closes what opens at one, or the last that is looked at. */
    int closing(int open) {
        return value.closing(open, Math.min(tokens.size(), open + LONGEST_CALL));
    }

    /** What a stretch of code can be, see {@link Value#of}. */
    List<String> valuesOf(int from, int to) {
        return value.of(from, to);
    }

    /** Where a call without parentheses ends: with its line. */
    int statementEnd(int from) {
        int line = source.line(tokens.start(from));
        int at = from;
        while (at < tokens.size() && at < from + LONGEST_CALL && source.line(tokens.start(at)) == line) {
            at++;
        }
        return at;
    }

    /** The places where arguments begin and, last, where they end. */
    List<int[]> split(int from, int to) {
        List<int[]> arguments = new ArrayList<>();
        int depth = 0;
        int start = from;
        for (int at = from; at < to; at++) {
            if (tokens.opens(at)) {
                depth++;
            } else if (tokens.closes(at)) {
                depth--;
            } else if (depth == 0 && tokens.is(at, ",")) {
                arguments.add(new int[] {start, at});
                start = at + 1;
            }
        }
        if (start < to) {
            arguments.add(new int[] {start, to});
        }
        return arguments;
    }

    List<String> values(List<int[]> arguments, int index) {
        int[] span = arguments.get(index);
        int from = span[0];
        // A name before the value: key = "…" or key: "…".
        if (tokens.is(from, Kind.WORD) && (tokens.is(from + 1, "=") || tokens.is(from + 1, ":"))) {
            from += 2;
        }
        return value.of(from, span[1]);
    }

    @Nullable
    String whole(List<int[]> arguments, int index) {
        if (index < 0 || index >= arguments.size()) {
            return null;
        }
        List<String> found = values(arguments, index);
        boolean known = found.size() == 1 && found.get(0).indexOf(Value.ANYTHING) < 0;
        return known ? found.get(0) : null;
    }

    /** What is put into the text: names of an object or of arguments, or how many. Null for a list that is spread or kept elsewhere. */
    @Nullable
    Values given(List<int[]> arguments, int from) {
        if (from >= arguments.size()) {
            return new Values(0, List.of());
        }
        List<String> names = new ArrayList<>();
        int count = 0;
        for (int[] span : arguments.subList(from, arguments.size())) {
            if (tokens.is(span[0], "{") && value.closing(span[0], span[1]) == span[1] - 1) {
                for (int[] pair : split(span[0] + 1, span[1] - 1)) {
                    if (!tokens.is(pair[0], Kind.WORD) && !tokens.is(pair[0], Kind.STRING)) {
                        return null;
                    }
                    names.add(
                            tokens.is(pair[0], Kind.WORD)
                                    ? tokens.spelled(pair[0])
                                    : Literal.value(tokens, pair[0], text));
                }
            } else if (tokens.is(span[0], Kind.WORD) && (tokens.is(span[0] + 1, "=") || tokens.is(span[0] + 1, ":"))) {
                names.add(tokens.spelled(span[0]));
            } else if (tokens.is(span[0], ".") || tokens.is(span[0], "*") || tokens.is(span[0], "..")) {
                return null;
            } else {
                count++;
            }
        }
        // One name that is no list of its own may be an object that holds them all.
        boolean perhapsAll = count == 1 && names.isEmpty() && singleWord(arguments.get(from));
        return perhapsAll ? null : new Values(names.isEmpty() ? count : names.size(), names);
    }

    private boolean singleWord(int[] span) {
        return span[1] - span[0] == 1
                && tokens.is(span[0], Kind.WORD)
                && source.syntax().patterns();
    }
}
