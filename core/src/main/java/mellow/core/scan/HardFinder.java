package mellow.core.scan;

import java.util.BitSet;
import java.util.List;
import java.util.Set;
import mellow.core.scan.HardText.Spot;
import mellow.core.scan.Likelihood.Where;
import mellow.core.scan.Tokens.Kind;
import org.jspecify.annotations.Nullable;

/** Finds the texts of a file that people would see and that have no key. */
final class HardFinder {

    /** How far back what a string is for may stand. */
    private static final int FAR = 80;
    /** Longer stretches are not patched by line. */
    private static final int LONGEST_SPOT = 1_000;

    private static final Set<String> NO_CALL = Set.of(
            "if", "while", "for", "switch", "return", "when", "catch", "and", "or", "not", "in", "match", "until");
    private static final Set<String> HIDING_WORDS = Set.of(
            "throw", "throws", "raise", "case", "assert", "import", "from", "package", "include", "require", "use",
            "using", "panic", "extern", "typedef");
    private static final Set<String> SHAPES =
            Set.of("format", "formatted", "sprintf", "Sprintf", "trim", "trimIndent", "stripIndent");
    private static final Set<String> COMPARES = Set.of("==", "!=", "===", "!==", "<=", ">=");
    private static final Set<String> GOES_ON =
            Set.of(",", "(", "[", "{", "+", "=", ":", "?", "&&", "||", "??", "?:", ".", "=>", "->", "+=", "..", "&");

    private final Source source;
    private final Tokens tokens;
    private final String text;
    private final BitSet taken;
    private final List<HardText> found;

    HardFinder(Source source, BitSet taken, List<HardText> found) {
        this.source = source;
        this.tokens = source.tokens();
        this.text = source.text();
        this.taken = taken;
        this.found = found;
    }

    void find() {
        boolean xml = source.path().endsWith(".xml");
        String tag = "";
        int at = 0;
        while (at < tokens.size()) {
            Kind kind = tokens.kind(at);
            if (kind == Kind.TAG) {
                tag = tokens.spelled(at).substring(1);
            } else if (kind == Kind.TEXT && !taken.get(at) && !xml) {
                markup(at, tag);
            } else if (kind == Kind.STRING && tokens.is(at - 1, Kind.ATTRIBUTE)) {
                attribute(at);
            } else if (kind == Kind.STRING || kind == Kind.OPENING) {
                at = code(at);
                continue;
            }
            at++;
        }
    }

    private void markup(int at, String tag) {
        String said = Literal.seen(tokens.spelled(at));
        int likelihood = Likelihood.inMarkup(said, tag);
        // Text beside a hole or an element is a piece of a sentence.
        boolean composed = tokens.is(at - 1, "}") || tokens.is(at + 1, "{");
        add(said, HardText.Kind.TEXT, likelihood, composed, at, at);
    }

    private void attribute(int at) {
        if (!taken.get(at)) {
            String said = Literal.seen(Literal.value(tokens, at, text));
            add(said, HardText.Kind.ATTRIBUTE, Likelihood.ofAttribute(said, tokens.spelled(at - 1)), false, at, at);
        }
    }

    /** What is joined to one text: its words, and numbers in braces for its holes. */
    private static final class Joined {
        private final StringBuilder said = new StringBuilder();
        private int holes;

        void hole() {
            said.append('{').append(holes++).append('}');
        }
    }

    /** A string with all that is joined to it; where the reading goes on. */
    private int code(int start) {
        Joined joined = new Joined();
        if (tokens.is(start - 1, "+") && !tokens.is(start - 2, Kind.STRING)) {
            joined.hole();
        }
        boolean known = taken.get(start);
        int strings = 0;
        int at = start;
        int last = start;
        while (at < tokens.size()) {
            if (tokens.is(at, Kind.STRING)) {
                joined.said.append(Literal.value(tokens, at, text));
                strings++;
                last = at;
                at++;
            } else if (tokens.is(at, Kind.OPENING)) {
                strings++;
                at = string(at, joined);
                last = at - 1;
            } else {
                joined.hole();
                at = operand(at);
            }
            if (!tokens.is(at, "+") && !(tokens.is(at, Kind.STRING) && adjacent(at))) {
                break;
            }
            at += tokens.is(at, "+") ? 1 : 0;
        }
        int next = Math.max(at, start + 1);
        if (!known && strings > 0) {
            judge(joined.said.toString(), joined.holes > 0, start, last, next);
        }
        return next;
    }

    /** Strings beside each other are one, in languages that join them so; on lines of their own or not. */
    private boolean adjacent(int at) {
        return tokens.is(at - 1, Kind.STRING) && source.syntax().joinsNeighbours();
    }

    /** A string with holes from its beginning; the place behind it. Strings in its holes are texts of their own. */
    private int string(int from, Joined joined) {
        joined.said.append(Literal.value(tokens, from, text));
        joined.hole();
        int depth = 0;
        int at = from + 1;
        while (at < tokens.size()) {
            if (depth == 0 && tokens.is(at, Kind.BETWEEN)) {
                joined.said.append(Literal.value(tokens, at, text));
                joined.hole();
            } else if (depth == 0 && tokens.is(at, Kind.CLOSING)) {
                joined.said.append(Literal.value(tokens, at, text));
                return at + 1;
            } else if (tokens.is(at, Kind.STRING) || tokens.is(at, Kind.OPENING)) {
                at = code(at);
                continue;
            } else if (tokens.opens(at)) {
                depth++;
            } else if (tokens.closes(at)) {
                depth--;
            }
            at++;
        }
        return at;
    }

    /** Goes over something that is joined and no string. */
    private int operand(int from) {
        int depth = 0;
        int at = from;
        while (at < tokens.size() && at < from + FAR) {
            if (tokens.opens(at)) {
                depth++;
            } else if (tokens.closes(at)) {
                if (depth == 0) {
                    return at;
                }
                depth--;
            } else if (depth == 0
                    && (tokens.is(at, "+")
                            || tokens.is(at, ",")
                            || tokens.is(at, ";")
                            || tokens.is(at, ":")
                            || tokens.is(at, "?"))) {
                return at;
            } else if (depth == 0
                    && at > from
                    && source.line(tokens.start(at)) > source.line(tokens.start(at - 1))
                    && !tokens.is(at, ".")) {
                return at;
            }
            at++;
        }
        return at;
    }

    private void judge(String said, boolean composed, int start, int last, int next) {
        if (said.isBlank() || hiddenByNeighbours(start, next)) {
            return;
        }
        Where where = where(start);
        if (where == null) {
            return;
        }
        boolean attribute = where.callee().isEmpty() && where.name().startsWith("=");
        int likelihood =
                attribute ? Likelihood.ofAttribute(said, where.name().substring(1)) : Likelihood.inCode(said, where);
        add(said, HardText.Kind.LITERAL, likelihood, composed || fixed(start), start, last);
    }

    /** Whether a string is the value of a constant of a class, which nothing can be called for. */
    private boolean fixed(int start) {
        for (int at = start - 1; at >= 0 && at > start - FAR; at--) {
            if (tokens.is(at, ";") || tokens.is(at, "{") || tokens.is(at, "}")) {
                return false;
            }
            if (tokens.is(at, "static") || tokens.is(at, "const") && tokens.is(at + 1, "val")) {
                return true;
            }
        }
        return false;
    }

    private boolean hiddenByNeighbours(int start, int next) {
        int before = tokens.before(start);
        boolean keys = tokens.is(next, ":") && (tokens.is(before, "{") || tokens.is(before, ","));
        boolean compared = before >= 0 && tokens.is(before, Kind.SIGN) && COMPARES.contains(tokens.spelled(before))
                || next < tokens.size() && tokens.is(next, Kind.SIGN) && COMPARES.contains(tokens.spelled(next));
        boolean leads =
                tokens.is(next, "=>") || tokens.is(next, "->") || tokens.is(before, "|") || tokens.is(next, "|");
        return keys || compared || leads || alone(before, start, next);
    }

    /** A string that is a statement of its own is a note or a setting. */
    private boolean alone(int before, int start, int next) {
        boolean begins = before < 0
                || tokens.is(before, ";")
                || tokens.is(before, "{")
                || tokens.is(before, "}")
                || tokens.is(before, ":");
        boolean newLine = before < 0 || source.line(tokens.start(before)) < source.line(tokens.start(start));
        boolean ends = next >= tokens.size()
                || tokens.is(next, ";")
                || source.line(tokens.start(next)) > source.line(tokens.end(next - 1) - 1);
        return begins && newLine && ends && !tokens.is(before, "{") || begins && newLine && tokens.is(next, ";");
    }

    /** What a string is for; null when nobody sees it. */
    private @Nullable Where where(int start) {
        if (source.syntax().panel()) {
            return panel(start);
        }
        String name = "";
        boolean comma = false;
        boolean returned = false;
        int depth = 0;
        for (int at = start - 1; at >= 0 && at > start - FAR; at--) {
            if (tokens.is(at, Kind.COMMENT)) {
                continue;
            }
            if (depth == 0 && endsBefore(at)) {
                break;
            }
            if (tokens.closes(at)) {
                depth++;
            } else if (tokens.opens(at)) {
                if (depth > 0) {
                    depth--;
                    continue;
                }
                if (tokens.is(at, "(")) {
                    if (!tokens.is(at - 1, Kind.WORD) || NO_CALL.contains(tokens.spelled(at - 1))) {
                        continue;
                    }
                    if (!SHAPES.contains(tokens.spelled(at - 1))) {
                        return called(at - 1, name, returned);
                    }
                    // What shapes a text gives it to whatever it stands in.
                    comma = true;
                    at--;
                    while (tokens.is(at - 1, ".") && tokens.is(at - 2, Kind.WORD)) {
                        at -= 2;
                    }
                    continue;
                }
                if (tokens.is(at, "[")) {
                    if (tokens.is(at - 1, Kind.WORD) || tokens.is(at - 1, ")") || tokens.is(at - 1, "]")) {
                        return null;
                    }
                    continue;
                }
                if (tokens.is(at - 1, Kind.ATTRIBUTE)) {
                    return new Where("", "", "=" + tokens.spelled(at - 1), false, false);
                }
                break;
            } else if (depth == 0) {
                if (tokens.is(at, ";")) {
                    break;
                } else if (tokens.is(at, ",")) {
                    comma = true;
                } else if (!comma && name.isEmpty() && (tokens.is(at, "=") || tokens.is(at, ":") && property(at))) {
                    name = name(at - 1);
                    if (tokens.is(at, "=")) {
                        return new Where("", "", name, false, false);
                    }
                } else if (tokens.is(at, Kind.WORD)) {
                    String word = tokens.spelled(at);
                    if (HIDING_WORDS.contains(word)) {
                        return null;
                    }
                    returned |= word.equals("return");
                }
            }
        }
        return new Where("", "", name, false, returned);
    }

    private Where called(int callee, String name, boolean returned) {
        String word = tokens.spelled(callee);
        String owner =
                tokens.is(callee - 1, Kind.SIGN) && tokens.is(callee - 2, Kind.WORD) && !tokens.is(callee - 1, "=")
                        ? tokens.spelled(callee - 2)
                        : "";
        boolean hidden = word.endsWith("Exception")
                || word.endsWith("Error")
                || tokens.is(callee - 1, "@")
                || tokens.is(callee - 1, "throw");
        return new Where(word, owner, name, hidden, returned);
    }

    /** In a script of a panel the last word before a text says what is done with it. */
    private @Nullable Where panel(int start) {
        int line = source.line(tokens.start(start));
        for (int at = start - 1; at >= 0 && source.line(tokens.start(at)) == line; at--) {
            if (tokens.is(at, Kind.WORD) && Character.isLetter(tokens.first(at))) {
                return new Where(tokens.spelled(at), "", "", false, false);
            }
        }
        return new Where("", "", "", false, false);
    }

    /** Whether a statement ends behind a token: with its line, unless it is open. */
    private boolean endsBefore(int at) {
        int next = at + 1;
        if (next >= tokens.size() || source.line(tokens.end(at) - 1) == source.line(tokens.start(next))) {
            return false;
        }
        boolean open = tokens.is(at, Kind.SIGN) && GOES_ON.contains(tokens.spelled(at)) || tokens.is(at, "return");
        boolean goesOn = tokens.is(next, Kind.SIGN) && (GOES_ON.contains(tokens.spelled(next)) || tokens.closes(next));
        return !open && !goesOn;
    }

    /** Whether a colon stands behind the name of a property, and not in a choice. */
    private boolean property(int colon) {
        int name = tokens.before(colon);
        if (!tokens.is(name, Kind.WORD) && !tokens.is(name, Kind.STRING)) {
            return false;
        }
        int before = tokens.before(name);
        return before < 0
                || tokens.is(before, "{")
                || tokens.is(before, ",")
                || tokens.is(before, "(")
                || source.line(tokens.start(before)) < source.line(tokens.start(name));
    }

    /** The name that ends at a token: of a variable, a property, or with its type behind it. */
    private String name(int at) {
        if (tokens.is(at, Kind.STRING)) {
            return Literal.value(tokens, at, text);
        }
        if (tokens.is(at, Kind.WORD)) {
            boolean type = tokens.is(at - 1, ":") && tokens.is(at - 2, Kind.WORD);
            return tokens.spelled(type ? at - 2 : at);
        }
        if (tokens.is(at, "]") && tokens.is(at - 1, Kind.STRING)) {
            return Literal.value(tokens, at - 1, text);
        }
        return "";
    }

    private void add(String said, HardText.Kind kind, int likelihood, boolean composed, int first, int last) {
        if (likelihood < Likelihood.TOLD || said.isBlank()) {
            return;
        }
        int from = tokens.start(first);
        int to = tokens.end(last);
        found.add(new HardText(
                Texts.kept(said),
                kind,
                likelihood,
                composed,
                source.place(from),
                composed ? Spot.NONE : spot(from, to)));
    }

    private Spot spot(int from, int to) {
        int line = source.line(from);
        int lastLine = source.line(to - 1);
        int start = source.lineStart(line);
        int end = source.lineEnd(lastLine);
        String lines = end - start > LONGEST_SPOT ? "" : text.substring(start, end);
        // A line that holds what no record can keep is left to the programmer.
        if (lines.isEmpty() || !Texts.sound(lines)) {
            return Spot.NONE;
        }
        return new Spot(lines, from - start, to - start, end == text.length());
    }
}
