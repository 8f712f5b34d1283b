package mellow.core.scan;

import java.util.List;
import java.util.Set;
import mellow.core.scan.Habit.Resource;
import mellow.core.scan.Tokens.Kind;
import org.jspecify.annotations.Nullable;

/** Finds keys in markup: attributes that hold one, references to resources, and comments that name the key of the text behind them, in code as well. */
final class MarkupKeys {

    private final Tokens tokens;
    private final String text;
    private final Arguments arguments;
    private final FoundKeys found;

    MarkupKeys(Source source, Arguments arguments, FoundKeys found) {
        this.tokens = source.tokens();
        this.text = source.text();
        this.arguments = arguments;
        this.found = found;
    }

    /** Looks whether a string or text refers to a resource: {@code @string/menu_title}. */
    void reference(int at, Resource resource) {
        String said = tokens.kind(at) == Kind.TEXT ? tokens.spelled(at) : Literal.value(tokens, at, text);
        if (!said.startsWith("@")) {
            return;
        }
        for (String kind : resource.kinds()) {
            String begins = "@" + kind + "/";
            if (said.startsWith(begins) && said.length() > begins.length() && name(said, begins.length())) {
                found.add(said.substring(begins.length()), true, null, null, found.note(at), null, at);
                found.take(at);
            }
        }
    }

    private static boolean name(String said, int from) {
        return said.chars().skip(from).allMatch(c -> Character.isLetterOrDigit(c) || c == '_' || c == '.');
    }

    /** Looks whether an attribute of an element holds a key. */
    void attribute(int at, String tag, Set<String> names) {
        String name = tokens.spelled(at);
        boolean computed = name.startsWith(":");
        String bare = computed ? name.substring(1) : name;
        if (!names.contains(bare) && !names.contains(tag + "." + bare)) {
            return;
        }
        List<String> keys = List.of();
        if (tokens.is(at + 1, Kind.STRING)) {
            keys = List.of(Literal.value(tokens, at + 1, text).strip());
            found.take(at + 1);
        } else if (tokens.is(at + 1, "{")) {
            int close = arguments.closing(at + 1);
            keys = arguments.valuesOf(at + 2, close);
            found.take(at + 2, close);
        } else if (computed && tokens.is(at + 1, Kind.SIGN)) {
            int close = at + 2;
            while (close < tokens.size() && close < at + Arguments.LONGEST_CALL && !endsComputed(close)) {
                close++;
            }
            keys = arguments.valuesOf(at + 2, close);
            found.take(at + 2, close);
        }
        // What the element says is the text of one key, not of all that may stand there.
        boolean one = keys.size() == 1 && keys.get(0).indexOf(Value.ANYTHING) < 0;
        String said = one ? said(at) : null;
        for (String key : keys) {
            found.add(key, false, null, said, found.note(at), null, at);
        }
    }

    private boolean endsComputed(int at) {
        return tokens.is(at, Kind.ATTRIBUTE) || tokens.is(at, Kind.TAG_END) || tokens.is(at, Kind.TAG);
    }

    /** What the element says whose attribute is at a token, when that is one text. */
    private @Nullable String said(int at) {
        int end = at;
        while (end < tokens.size() && end < at + Arguments.LONGEST_CALL && !tokens.is(end, Kind.TAG_END)) {
            end++;
        }
        boolean empty = end < tokens.size() && tokens.spelled(end).equals("/>");
        if (!empty && tokens.is(end + 1, Kind.TEXT) && tokens.is(end + 2, Kind.TAG_END)) {
            found.take(end + 1);
            return Literal.seen(tokens.spelled(end + 1));
        }
        return null;
    }

    /** Looks whether a comment names the key of what stands behind it. */
    void comment(int at, List<String> words) {
        String said = found.inside(at);
        for (String word : words) {
            if (!said.startsWith(word)) {
                continue;
            }
            String rest = said.substring(word.length()).strip();
            int bar = rest.indexOf('|');
            String key = (bar < 0 ? rest : rest.substring(0, bar)).strip();
            String note = bar < 0 ? "" : rest.substring(bar + 1).strip();
            if (key.isEmpty() || key.chars().anyMatch(Character::isWhitespace)) {
                return;
            }
            int next = at + 1;
            String says = null;
            if (tokens.is(next, Kind.TEXT)) {
                says = Literal.seen(tokens.spelled(next));
                found.take(next);
            } else if (tokens.is(next, Kind.STRING)) {
                says = Literal.value(tokens, next, text);
                found.take(next);
            }
            found.add(key, false, null, says, note, null, at);
            return;
        }
    }
}
