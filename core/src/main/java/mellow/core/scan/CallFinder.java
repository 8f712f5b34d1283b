package mellow.core.scan;

import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.scan.Habit.Call;
import mellow.core.scan.Habit.Resource;
import mellow.core.scan.KeyUse.Values;
import mellow.core.scan.Tokens.Kind;
import org.jspecify.annotations.Nullable;

/** Finds keys in code: those that functions are given, and names of resources. */
final class CallFinder {

    private static final Set<String> OWN_OBJECT = Set.of("this", "self", "$this", "props", "$root");
    private static final Set<String> GET_RESOURCE =
            Set.of("getString", "getQuantityString", "stringResource", "pluralStringResource");

    private final Source source;
    private final Tokens tokens;
    private final Arguments arguments;
    private final FoundKeys found;

    CallFinder(Source source, Arguments arguments, FoundKeys found) {
        this.source = source;
        this.tokens = source.tokens();
        this.arguments = arguments;
        this.found = found;
    }

    /** Looks whether a word calls one of the functions; {@code calls} are those by the last part of their names. */
    void call(int at, String word, Map<String, List<Call>> calls) {
        List<Call> of = calls.get(word);
        if (of == null) {
            return;
        }
        for (Call call : of) {
            if (!called(at, word, call)) {
                continue;
            }
            if (tokens.is(at + 1, "(")) {
                keys(at, call, arguments.in(at + 1));
            } else if (source.syntax().callsWithoutParentheses()
                    && (tokens.is(at + 1, Kind.STRING) || tokens.is(at + 1, Kind.OPENING))
                    && source.line(tokens.start(at + 1)) == source.line(tokens.start(at))) {
                keys(at, call, arguments.split(at + 1, arguments.statementEnd(at + 1)));
            }
            return;
        }
    }

    /** Whether the function at a token is the one that is meant, and not another's of the same name. */
    private boolean called(int at, String word, Call call) {
        String owner = "";
        int dot = at - 1;
        if (tokens.is(dot, ".")
                || tokens.is(dot, "?.")
                || tokens.is(dot, "::")
                || tokens.is(dot, "->")
                || tokens.is(dot, ":")) {
            if (tokens.is(dot - 1, Kind.WORD)) {
                owner = tokens.spelled(dot - 1);
            } else if (!tokens.is(dot, ":")) {
                owner = "?";
            }
        }
        boolean declares = tokens.is(at - 1, "function")
                || tokens.is(at - 1, "def")
                || tokens.is(at - 1, "fun")
                || tokens.is(at - 1, "func");
        if (declares) {
            return false;
        }
        for (String name : call.functions()) {
            int last = name.lastIndexOf('.');
            if (!name.substring(last + 1).equals(word)) {
                continue;
            }
            if (last < 0 && (owner.isEmpty() || tokens.is(dot, ":") || OWN_OBJECT.contains(owner))) {
                return true;
            }
            if (last >= 0) {
                String wanted = name.substring(name.lastIndexOf('.', last - 1) + 1, last);
                if (wanted.equals(owner) || wanted.equals("*") && !owner.isEmpty()) {
                    return true;
                }
            }
        }
        return false;
    }

    private void keys(int at, Call call, List<int[]> spans) {
        if (call.key() >= spans.size()) {
            return;
        }
        String said = arguments.whole(spans, call.text());
        String context = arguments.whole(spans, call.context());
        Values given = call.values() < 0 ? null : arguments.given(spans, call.values());
        List<String> keys = arguments.values(spans, call.key());
        for (String key : keys) {
            found.add(key, false, context, said, found.note(at), given, spans.get(call.key())[0]);
        }
        if (!keys.isEmpty()) {
            take(spans, call.key());
            take(spans, call.text());
            take(spans, call.context());
        }
    }

    private void take(List<int[]> spans, int index) {
        if (index >= 0 && index < spans.size()) {
            found.take(spans.get(index)[0], spans.get(index)[1]);
        }
    }

    /** Looks whether a word begins the name of a resource. */
    void resource(int at, String word, Resource resource) {
        if (!word.equals(resource.owner()) || !tokens.is(at + 1, ".") || !tokens.is(at + 3, ".")) {
            getIdentifier(at, word);
            return;
        }
        // android.R and other people's R are not ours.
        boolean others = tokens.is(at - 1, ".") && tokens.is(at - 2, "android");
        if (others || !tokens.is(at + 4, Kind.WORD) || !resource.kinds().contains(tokens.spelled(at + 2))) {
            return;
        }
        found.add(
                tokens.spelled(at + 4),
                true,
                null,
                null,
                found.note(at),
                resourceValues(at, tokens.is(at + 2, "plurals") ? 1 : 0),
                at);
    }

    /** {@code getIdentifier("lamp_" + state, "string", …)} looks a resource up by a name that is computed. */
    private void getIdentifier(int at, String word) {
        if (!word.equals("getIdentifier") || !tokens.is(at + 1, "(")) {
            return;
        }
        List<int[]> spans = arguments.in(at + 1);
        if (spans.size() > 1 && "string".equals(arguments.whole(spans, 1))) {
            arguments.values(spans, 0).forEach(key -> found.add(key, true, null, null, "", null, at));
            take(spans, 0);
        }
    }

    private @Nullable Values resourceValues(int at, int skip) {
        int open = at - 1;
        if (tokens.is(at - 1, ".") && tokens.is(at - 2, Kind.WORD)) {
            return null;
        }
        if (!tokens.is(open, "(")
                || !tokens.is(open - 1, Kind.WORD)
                || !GET_RESOURCE.contains(tokens.spelled(open - 1))) {
            return null;
        }
        return arguments.given(arguments.in(open), 1 + skip);
    }
}
