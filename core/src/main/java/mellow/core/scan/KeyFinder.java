package mellow.core.scan;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mellow.core.scan.Habit.Attribute;
import mellow.core.scan.Habit.Call;
import mellow.core.scan.Habit.Comment;
import mellow.core.scan.Habit.Mark;
import mellow.core.scan.Habit.Resource;
import mellow.core.scan.KeyUse.How;
import mellow.core.scan.KeyUse.Values;
import mellow.core.scan.Tokens.Kind;
import org.jspecify.annotations.Nullable;

/** Finds the keys that a file uses by the habits of a product. Keeps which tokens belong to a key, so that they are not taken for texts. */
final class KeyFinder {

    /** Arguments beyond are not looked at: no call that names a key has more. */
    private static final int LONGEST_CALL = 400;
    /** Nobody types a longer key; what is longer is a text. */
    private static final int LONGEST_KEY = 300;

    private static final List<String> FOR_TRANSLATORS = List.of("for translators", "translators");
    private static final Set<String> OWN_OBJECT = Set.of("this", "self", "$this", "props", "$root");
    private static final Set<String> GET_RESOURCE =
            Set.of("getString", "getQuantityString", "stringResource", "pluralStringResource");

    private final Source source;
    private final Tokens tokens;
    private final String text;
    private final Value value;
    private final List<KeyUse> uses;
    private final BitSet taken;

    /** Looks through a file; adds what it finds to {@code uses} and the tokens that belong to it to {@code taken}. */
    KeyFinder(Source source, List<KeyUse> uses, BitSet taken) {
        this.source = source;
        this.tokens = source.tokens();
        this.text = source.text();
        this.value = new Value(tokens, text);
        this.uses = uses;
        this.taken = taken;
    }

    void find(List<Habit> habits) {
        Map<String, List<Call>> calls = new HashMap<>();
        Set<String> attributes = new HashSet<>();
        List<Resource> resources = new ArrayList<>();
        List<Mark> marks = new ArrayList<>();
        List<String> words = new ArrayList<>();
        for (Habit habit : habits) {
            if (habit instanceof Call call) {
                call.functions().forEach(name -> calls.computeIfAbsent(
                                name.substring(name.lastIndexOf('.') + 1), none -> new ArrayList<>())
                        .add(call));
            } else if (habit instanceof Attribute attribute) {
                attributes.addAll(attribute.names());
            } else if (habit instanceof Resource resource) {
                resources.add(resource);
            } else if (habit instanceof Mark mark) {
                marks.add(mark);
            } else if (habit instanceof Comment comment) {
                words.add(comment.word());
            }
        }
        String tag = "";
        for (int at = 0; at < tokens.size(); at++) {
            Kind kind = tokens.kind(at);
            if (kind == Kind.WORD) {
                String word = tokens.spelled(at);
                call(at, word, calls);
                for (Resource resource : resources) {
                    resource(at, word, resource);
                }
            } else if (kind == Kind.TAG) {
                tag = tokens.spelled(at).substring(1);
            } else if (kind == Kind.ATTRIBUTE) {
                attribute(at, tag, attributes);
            } else if (kind == Kind.COMMENT && !words.isEmpty()) {
                comment(at, words);
            } else if (kind == Kind.STRING || kind == Kind.TEXT) {
                for (Resource resource : resources) {
                    reference(at, resource);
                }
            }
        }
        for (Mark mark : marks) {
            marks(mark);
        }
    }

    private void call(int at, String word, Map<String, List<Call>> calls) {
        List<Call> of = calls.get(word);
        if (of == null) {
            return;
        }
        for (Call call : of) {
            if (!called(at, word, call)) {
                continue;
            }
            if (tokens.is(at + 1, "(")) {
                int limit = Math.min(tokens.size(), at + 1 + LONGEST_CALL);
                arguments(at, call, split(at + 2, value.closing(at + 1, limit)));
            } else if (source.syntax().callsWithoutParentheses()
                    && (tokens.is(at + 1, Kind.STRING) || tokens.is(at + 1, Kind.OPENING))
                    && source.line(tokens.start(at + 1)) == source.line(tokens.start(at))) {
                arguments(at, call, split(at + 1, statementEnd(at + 1)));
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

    /** Where a call without parentheses ends: with its line. */
    private int statementEnd(int from) {
        int line = source.line(tokens.start(from));
        int at = from;
        while (at < tokens.size() && at < from + LONGEST_CALL && source.line(tokens.start(at)) == line) {
            at++;
        }
        return at;
    }

    /** The places where arguments begin and, last, where they end. */
    private List<int[]> split(int from, int to) {
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

    private void arguments(int at, Call call, List<int[]> arguments) {
        if (call.key() >= arguments.size()) {
            return;
        }
        List<String> keys = values(arguments, call.key());
        if (keys.isEmpty()) {
            return;
        }
        String said = whole(arguments, call.text());
        String context = whole(arguments, call.context());
        Values given = call.values() < 0 ? null : given(arguments, call.values());
        for (String key : keys) {
            add(key, false, context, said, note(at), given, arguments.get(call.key())[0]);
        }
        take(arguments, call.key());
        take(arguments, call.text());
        take(arguments, call.context());
    }

    private List<String> values(List<int[]> arguments, int index) {
        int[] span = arguments.get(index);
        int from = span[0];
        // A name before the value: key = "…" or key: "…".
        if (tokens.is(from, Kind.WORD) && (tokens.is(from + 1, "=") || tokens.is(from + 1, ":"))) {
            from += 2;
        }
        return value.of(from, span[1]);
    }

    private @Nullable String whole(List<int[]> arguments, int index) {
        if (index < 0 || index >= arguments.size()) {
            return null;
        }
        List<String> found = values(arguments, index);
        boolean known = found.size() == 1 && found.get(0).indexOf(Value.ANYTHING) < 0;
        return known ? found.get(0) : null;
    }

    /** What is put into the text: names of an object or of arguments, or how many. Null for a list that is spread or kept elsewhere. */
    private @Nullable Values given(List<int[]> arguments, int from) {
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

    private void take(List<int[]> arguments, int index) {
        if (index >= 0 && index < arguments.size()) {
            taken.set(arguments.get(index)[0], arguments.get(index)[1]);
        }
    }

    private void resource(int at, String word, Resource resource) {
        if (!word.equals(resource.owner()) || !tokens.is(at + 1, ".") || !tokens.is(at + 3, ".")) {
            getIdentifier(at, word);
            return;
        }
        // android.R and other people's R are not ours.
        boolean others = tokens.is(at - 1, ".") && tokens.is(at - 2, "android");
        if (others || !tokens.is(at + 4, Kind.WORD) || !resource.kinds().contains(tokens.spelled(at + 2))) {
            return;
        }
        add(
                tokens.spelled(at + 4),
                true,
                null,
                null,
                note(at),
                resourceValues(at, tokens.is(at + 2, "plurals") ? 1 : 0),
                at);
    }

    /** {@code getIdentifier("lamp_" + state, "string", …)} looks a resource up by a name that is computed. */
    private void getIdentifier(int at, String word) {
        if (!word.equals("getIdentifier") || !tokens.is(at + 1, "(")) {
            return;
        }
        List<int[]> arguments = split(at + 2, value.closing(at + 1, Math.min(tokens.size(), at + 1 + LONGEST_CALL)));
        if (arguments.size() > 1 && "string".equals(whole(arguments, 1))) {
            values(arguments, 0).forEach(key -> add(key, true, null, null, "", null, at));
            take(arguments, 0);
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
        List<int[]> arguments = split(open + 1, value.closing(open, Math.min(tokens.size(), open + LONGEST_CALL)));
        return given(arguments, 1 + skip);
    }

    /** {@code @string/menu_title} as the value of an attribute or as a text. */
    private void reference(int at, Resource resource) {
        String said = tokens.kind(at) == Kind.TEXT ? tokens.spelled(at) : Literal.value(tokens, at, text);
        if (!said.startsWith("@")) {
            return;
        }
        for (String kind : resource.kinds()) {
            String begins = "@" + kind + "/";
            if (said.startsWith(begins) && said.length() > begins.length() && name(said, begins.length())) {
                add(said.substring(begins.length()), true, null, null, note(at), null, at);
                taken.set(at);
            }
        }
    }

    private static boolean name(String said, int from) {
        return said.chars().skip(from).allMatch(c -> Character.isLetterOrDigit(c) || c == '_' || c == '.');
    }

    private void attribute(int at, String tag, Set<String> names) {
        String name = tokens.spelled(at);
        boolean computed = name.startsWith(":");
        String bare = computed ? name.substring(1) : name;
        if (!names.contains(bare) && !names.contains(tag + "." + bare)) {
            return;
        }
        List<String> keys = List.of();
        if (tokens.is(at + 1, Kind.STRING)) {
            keys = List.of(Literal.value(tokens, at + 1, text).strip());
            taken.set(at + 1);
        } else if (tokens.is(at + 1, "{")) {
            int close = value.closing(at + 1, Math.min(tokens.size(), at + LONGEST_CALL));
            keys = value.of(at + 2, close);
            taken.set(at + 2, close);
        } else if (computed && tokens.is(at + 1, Kind.SIGN)) {
            int close = at + 2;
            while (close < tokens.size() && close < at + LONGEST_CALL && !endsComputed(close)) {
                close++;
            }
            keys = value.of(at + 2, close);
            taken.set(at + 2, close);
        }
        // What the element says is the text of one key, not of all that may stand there.
        boolean one = keys.size() == 1 && keys.get(0).indexOf(Value.ANYTHING) < 0;
        String said = one ? said(at) : null;
        for (String key : keys) {
            add(key, false, null, said, note(at), null, at);
        }
    }

    private boolean endsComputed(int at) {
        return tokens.is(at, Kind.ATTRIBUTE) || tokens.is(at, Kind.TAG_END) || tokens.is(at, Kind.TAG);
    }

    /** What the element says whose attribute is at a token, when that is one text. */
    private @Nullable String said(int at) {
        int end = at;
        while (end < tokens.size() && end < at + LONGEST_CALL && !tokens.is(end, Kind.TAG_END)) {
            end++;
        }
        boolean empty = end < tokens.size() && tokens.spelled(end).equals("/>");
        if (!empty && tokens.is(end + 1, Kind.TEXT) && tokens.is(end + 2, Kind.TAG_END)) {
            taken.set(end + 1);
            return Literal.seen(tokens.spelled(end + 1));
        }
        return null;
    }

    private void comment(int at, List<String> words) {
        String said = inside(at);
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
                taken.set(next);
            } else if (tokens.is(next, Kind.STRING)) {
                says = Literal.value(tokens, next, text);
                taken.set(next);
            }
            add(key, false, null, says, note, null, at);
            return;
        }
    }

    /** What a comment says, without its signs. */
    private String inside(int at) {
        String said = tokens.spelled(at);
        for (String sign : List.of("<!--", "/**", "/*", "//", "--", "#")) {
            if (said.startsWith(sign)) {
                said = said.substring(sign.length());
                break;
            }
        }
        for (String sign : List.of("-->", "*/")) {
            if (said.endsWith(sign)) {
                said = said.substring(0, said.length() - sign.length());
                break;
            }
        }
        return said.strip();
    }

    /** What a comment on the line or the line before says to translators. */
    private String note(int at) {
        int line = source.line(tokens.start(at));
        for (int back = at - 1; back >= 0 && back > at - LONGEST_CALL; back--) {
            int theirs = source.line(Math.max(tokens.start(back), tokens.end(back) - 1));
            if (theirs < line - 1) {
                return "";
            }
            if (tokens.is(back, Kind.COMMENT)) {
                String said = inside(back);
                for (String begins : FOR_TRANSLATORS) {
                    if (said.length() > begins.length() && said.regionMatches(true, 0, begins, 0, begins.length())) {
                        return said.substring(begins.length())
                                .replaceFirst("^[:\\s]+", "")
                                .strip();
                    }
                }
            }
        }
        return "";
    }

    /** Keys between marks, in strings and texts where those are known, everywhere but in comments otherwise. */
    private void marks(Mark mark) {
        if (source.syntax().family() == Syntax.Family.DATA) {
            marks(mark, 0, text.length(), -1);
            return;
        }
        for (int at = 0; at < tokens.size(); at++) {
            Kind kind = tokens.kind(at);
            if (kind != Kind.COMMENT && kind != Kind.WORD && kind != Kind.SIGN && kind != Kind.TAG) {
                marks(mark, tokens.start(at), tokens.end(at), at);
            }
        }
    }

    private void marks(Mark mark, int from, int to, int token) {
        int at = from;
        while (at < to) {
            int open = indexOf(mark.open(), at, to);
            if (open < 0) {
                return;
            }
            int start = open + mark.open().length();
            int end = start;
            while (end < to && end - start < LONGEST_KEY && partOfKey(text.charAt(end))) {
                end++;
            }
            boolean closed = end > start
                    && text.startsWith(mark.close(), end)
                    && end + mark.close().length() <= to;
            if (closed && Character.isLetterOrDigit(text.charAt(end - 1))) {
                add(
                        text.substring(start, end),
                        false,
                        null,
                        null,
                        token < 0 ? "" : note(token),
                        null,
                        start,
                        How.WHOLE);
                if (token >= 0) {
                    taken.set(token);
                }
                at = end + mark.close().length();
            } else {
                if (token >= 0 && end > start && begins(token, end)) {
                    add(text.substring(start, end) + Value.TOLD, false, null, null, "", null, start, How.PART);
                    taken.set(token);
                }
                at = start;
            }
        }
    }

    /** Whether a piece of a string ends in the middle of a mark, and the code adds the rest: {@code "#lamp." + state + "#"}. */
    private boolean begins(int token, int end) {
        if (tokens.is(token, Kind.OPENING) || tokens.is(token, Kind.BETWEEN)) {
            return end == tokens.end(token);
        }
        return tokens.is(token, Kind.STRING) && end == tokens.end(token) - 1 && tokens.is(tokens.after(token), "+");
    }

    private int indexOf(String what, int from, int to) {
        for (int i = from; i + what.length() <= to; i++) {
            if (text.startsWith(what, i)) {
                return i;
            }
        }
        return -1;
    }

    private static boolean partOfKey(char c) {
        return Character.isLetterOrDigit(c) || c == '.' || c == '-' || c == '_' || c == '/' || c == ':';
    }

    private void add(
            String key,
            boolean folded,
            @Nullable String context,
            @Nullable String said,
            String note,
            @Nullable Values given,
            int token) {
        How how = key.indexOf(Value.ANYTHING) < 0 ? How.WHOLE : How.PART;
        add(key.replace(Value.ANYTHING, Value.TOLD), folded, context, said, note, given, tokens.start(token), how);
    }

    private void add(
            String key,
            boolean folded,
            @Nullable String context,
            @Nullable String said,
            String note,
            @Nullable Values given,
            int offset,
            How how) {
        if (!key.isBlank() && key.length() <= LONGEST_KEY && Texts.sound(key)) {
            uses.add(new KeyUse(
                    key,
                    how,
                    folded,
                    context == null ? null : Texts.kept(context),
                    said == null ? null : Texts.kept(said),
                    Texts.kept(note),
                    given,
                    source.place(offset)));
        }
    }
}
