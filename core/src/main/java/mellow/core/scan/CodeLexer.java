package mellow.core.scan;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Locale;
import java.util.Set;
import mellow.core.scan.Syntax.Holes;
import mellow.core.scan.Syntax.Quoted;
import mellow.core.scan.Tokens.Kind;

/**
 * Cuts code into words, signs, strings and comments, with strings that have holes and markup inside of code. Reads each character once; what does not end where its
 * kind of quotes must end is taken for a sign, so that one apostrophe does not swallow the rest of a file.
 */
final class CodeLexer {

    /** Deeper nesting than any person writes; what lies deeper is left out. */
    private static final int DEEPEST = 500;
    /** How long the inside of a letter in quotes may be, as in {@code '\\u{1F6A2}'}. */
    private static final int LONGEST_LETTER = 12;

    private static final Set<String> VALUE_FOLLOWS =
            Set.of("return", "typeof", "case", "in", "of", "default", "else", "do", "void", "await", "yield");
    /** Longer than any pattern a person writes on one line. */
    private static final int LONGEST_PATTERN = 1_000;
    /** So many quotes that never close are bad luck; more are no code. */
    private static final int MOST_UNCLOSED = 20;

    private enum Mode {
        CODE,
        STRING,
        TAG,
        CHILDREN
    }

    /** Where the reading is: in code up to a sign, in a string with holes, in a tag, between tags. */
    private static final class Frame {
        private Mode mode;
        /** For code: the sign that ends it, 0 for the end of the file. */
        private final char closing;
        /** For a string: what ends it. */
        private final String quote;

        private final Holes holes;
        private final boolean raw;
        /** For a string: where the piece that is being read begins. */
        private int start;
        /** For a string: whether a hole was before. For code: how many brackets are open. */
        private int depth;

        private Frame(Mode mode, char closing, String quote, Holes holes, boolean raw, int start) {
            this.mode = mode;
            this.closing = closing;
            this.quote = quote;
            this.holes = holes;
            this.raw = raw;
            this.start = start;
        }

        static Frame code(char closing) {
            return new Frame(Mode.CODE, closing, "", Holes.NONE, false, 0);
        }
    }

    private final String text;
    private final Syntax syntax;
    private final Tokens out;
    private final int end;
    private final Deque<Frame> frames = new ArrayDeque<>();
    private int at;
    private int unclosed;

    private CodeLexer(String text, int from, int end, Syntax syntax, Tokens out) {
        this.text = text;
        this.at = from;
        this.end = end;
        this.syntax = syntax;
        this.out = out;
        frames.push(Frame.code((char) 0));
    }

    /** Adds the tokens of a stretch of a file. */
    static void read(String text, int from, int end, Syntax syntax, Tokens out) {
        new CodeLexer(text, from, end, syntax, out).run();
    }

    private void run() {
        while (at < end) {
            Frame frame = frames.element();
            switch (frame.mode) {
                case CODE -> code(frame);
                case STRING -> string(frame);
                case TAG -> tag(frame);
                case CHILDREN -> children();
            }
        }
    }

    private char next(int ahead) {
        return at + ahead < end ? text.charAt(at + ahead) : 0;
    }

    private boolean startsWith(String what) {
        return at + what.length() <= end && text.startsWith(what, at);
    }

    private void push(Frame frame) {
        if (frames.size() < DEEPEST) {
            frames.push(frame);
        } else {
            at = end;
        }
    }

    private void code(Frame frame) {
        char c = text.charAt(at);
        if (Character.isWhitespace(c) || c == '\\' && (next(1) == '\n' || next(1) == '\r')) {
            at++;
        } else if (comment()) {
            return;
        } else if ((c == '@' || c == '$') && syntax.holes() == Holes.BRACE && announces()) {
            return;
        } else if (Character.isJavaIdentifierStart(c) || Character.isDigit(c)) {
            word();
        } else if (syntax.between(c) != Quoted.NOTHING) {
            quoted(at, at, false, false);
        } else if (c == '<'
                && syntax.elements()
                && valueMayStand()
                && (Character.isLetter(next(1)) || next(1) == '>')) {
            push(new Frame(Mode.TAG, (char) 0, "", Holes.NONE, false, at));
            tagName();
        } else if (c == '/' && syntax.patterns() && valueMayStand() && pattern()) {
            return;
        } else {
            sign(frame, c);
        }
    }

    private void sign(Frame frame, char c) {
        if (c == '(' || c == '[' || c == '{') {
            frame.depth++;
        } else if (c == ')' || c == ']' || c == '}') {
            if (frame.depth == 0 && c == frame.closing) {
                frames.pop();
                Frame outer = frames.element();
                if (outer.mode == Mode.STRING) {
                    at++;
                    outer.start = at;
                    return;
                }
            } else if (frame.depth > 0) {
                frame.depth--;
            }
        }
        int length = c == next(1) || next(1) == '=' || next(1) == '>' || next(1) == '.' && c == '?' ? length(c) : 1;
        out.add(Kind.SIGN, at, at + length);
        at += length;
    }

    /** How long a sign is whose second character may belong to it. */
    private int length(char c) {
        char second = next(1);
        boolean joined =
                switch (c) {
                    case '=' -> true;
                    case '!', '<', '+' -> second == '=';
                    case '>' -> second == '=';
                    case '-' -> second == '>';
                    case '?' -> second == '?' || second == '.';
                    case '&', '|', ':', '.' -> second == c;
                    default -> false;
                };
        if (!joined) {
            return 1;
        }
        return second == '=' && (c == '=' || c == '!') && next(2) == '=' ? 3 : 2;
    }

    private boolean comment() {
        for (String begins : syntax.lineComments()) {
            if (startsWith(begins)) {
                int line = text.indexOf('\n', at);
                int stop = line < 0 || line > end ? end : line;
                out.add(Kind.COMMENT, at, stop);
                at = stop;
                return true;
            }
        }
        if (syntax.blockComment() && startsWith("/*")) {
            int close = text.indexOf("*/", at + 2);
            int stop = close < 0 || close + 2 > end ? end : close + 2;
            out.add(Kind.COMMENT, at, stop);
            at = stop;
            return true;
        }
        return false;
    }

    private void word() {
        int start = at;
        while (at < end && Character.isJavaIdentifierPart(text.charAt(at))) {
            at++;
        }
        // A letter or two before quotes say how the string is meant: r"as it is", f"with holes".
        if (at - start <= 2 && at < end && syntax.between(text.charAt(at)) == Quoted.STRING) {
            String letters = text.substring(start, at).toLowerCase(Locale.ROOT);
            if (letters.chars().allMatch(letter -> "rfbul".indexOf(letter) >= 0)) {
                quoted(start, at, letters.contains("f"), letters.contains("r"));
                return;
            }
        }
        out.add(Kind.WORD, start, at);
    }

    private boolean announces() {
        int quote = at;
        boolean raw = false;
        boolean holes = false;
        while (quote < end && quote < at + 2 && (text.charAt(quote) == '@' || text.charAt(quote) == '$')) {
            raw |= text.charAt(quote) == '@';
            holes |= text.charAt(quote) == '$';
            quote++;
        }
        if (quote < end && text.charAt(quote) == '"') {
            quoted(at, quote, holes, raw);
            return true;
        }
        return false;
    }

    /** Whether a value may stand here, and so a pattern or an element: not after a value. */
    private boolean valueMayStand() {
        int last = out.before(out.size());
        if (last < 0) {
            return true;
        }
        if (out.is(last, Kind.WORD)) {
            return VALUE_FOLLOWS.contains(out.spelled(last));
        }
        return out.is(last, Kind.SIGN) && !out.closes(last);
    }

    /** A regular expression between slashes, on one line. */
    private boolean pattern() {
        boolean choice = false;
        for (int i = at + 1; i < Math.min(end, at + LONGEST_PATTERN); i++) {
            char c = text.charAt(i);
            if (c == '\n') {
                return false;
            } else if (c == '\\') {
                i++;
            } else if (c == '[') {
                choice = true;
            } else if (c == ']') {
                choice = false;
            } else if (c == '/' && !choice) {
                int stop = i + 1;
                while (stop < end && Character.isLetter(text.charAt(stop))) {
                    stop++;
                }
                out.add(Kind.WORD, at, stop);
                at = stop;
                return true;
            }
        }
        return false;
    }

    /** A string whose announcing letters begin at {@code start} and whose quotes at {@code quoteAt}. */
    private void quoted(int start, int quoteAt, boolean announced, boolean raw) {
        char quote = text.charAt(quoteAt);
        Quoted between = syntax.between(quote);
        if (between == Quoted.LETTER) {
            letter();
            return;
        }
        boolean triple = syntax.triple()
                && quoteAt + 2 < end
                && text.startsWith(String.valueOf(quote).repeat(3), quoteAt);
        String closing = String.valueOf(quote).repeat(triple ? 3 : 1);
        boolean asItIs = raw || between == Quoted.RAW;
        Holes holes = syntax.holesIn(quote, announced);
        boolean lines =
                triple || quote == '`' || asItIs || syntax.lineComments().contains("#");
        at = quoteAt + closing.length();
        if (holes == Holes.NONE) {
            int close = close(closing, asItIs, lines);
            if (close < 0 && lines && ++unclosed > MOST_UNCLOSED) {
                at = end;
            } else if (close < 0) {
                out.add(Kind.SIGN, quoteAt, quoteAt + 1);
                at = quoteAt + 1;
            } else {
                at = close + closing.length();
                out.add(Kind.STRING, start, at);
            }
            return;
        }
        push(new Frame(Mode.STRING, lines ? '\n' : (char) 0, closing, holes, asItIs, start));
    }

    /** Where a string without holes closes; -1 when its line or the file ends before. */
    private int close(String closing, boolean raw, boolean lines) {
        for (int i = at; i < end; i++) {
            char c = text.charAt(i);
            if (c == '\\' && !raw) {
                i++;
            } else if (c == '\n' && !lines) {
                return -1;
            } else if (c == closing.charAt(0) && text.startsWith(closing, i) && i + closing.length() <= end) {
                // Doubled quotes stand for one where there are no escapes.
                if (raw && closing.equals("\"") && i + 1 < end && text.charAt(i + 1) == '"') {
                    i++;
                } else {
                    return i;
                }
            }
        }
        return -1;
    }

    private void letter() {
        for (int i = at + 1; i < Math.min(end, at + 1 + LONGEST_LETTER); i++) {
            char c = text.charAt(i);
            if (c == '\\') {
                i++;
            } else if (c == '\n') {
                break;
            } else if (c == '\'') {
                out.add(Kind.WORD, at, i + 1);
                at = i + 1;
                return;
            }
        }
        out.add(Kind.SIGN, at, at + 1);
        at++;
    }

    /** Goes on in a string with holes up to its next hole or its end. */
    private void string(Frame frame) {
        while (at < end) {
            char c = text.charAt(at);
            if (startsWith(frame.quote)) {
                at += frame.quote.length();
                out.add(frame.depth == 0 ? Kind.STRING : Kind.CLOSING, frame.start, at);
                frames.pop();
                return;
            }
            if (hole(frame, c)) {
                return;
            }
            if (c == '\\' && !frame.raw) {
                at++;
            } else if (c == '{' && frame.holes == Holes.BRACE) {
                at++;
            } else if (c == '\n' && frame.closing == 0) {
                // It does not end on its line, so it was none.
                if (frame.depth > 0) {
                    out.add(Kind.CLOSING, frame.start, at);
                }
                frames.pop();
                return;
            }
            at++;
        }
        at = end;
    }

    private boolean hole(Frame frame, char c) {
        String opening = frame.holes.opening();
        boolean opens = startsWith(opening) && !(frame.holes == Holes.BRACE && next(1) == '{');
        boolean bare = !opens
                && c == '$'
                && syntax.holes() == Holes.DOLLAR_BRACE
                && Character.isJavaIdentifierStart(next(1))
                && next(1) != '$';
        if (!opens && !bare) {
            return false;
        }
        out.add(frame.depth == 0 ? Kind.OPENING : Kind.BETWEEN, frame.start, at);
        frame.depth++;
        if (bare) {
            int start = at + 1;
            at = start;
            while (at < end && text.charAt(at) != '$' && Character.isJavaIdentifierPart(text.charAt(at))) {
                at++;
            }
            out.add(Kind.WORD, start, at);
            frame.start = at;
        } else {
            at += opening.length();
            push(Frame.code(frame.holes == Holes.BACKSLASH_PAREN ? ')' : '}'));
        }
        return true;
    }

    private void tagName() {
        int start = at++;
        while (at < end && nameGoesOn(text.charAt(at))) {
            at++;
        }
        out.add(Kind.TAG, start, at);
        if (at < end && text.charAt(at) == '<') {
            typeArguments();
        }
    }

    /** Goes over the types that an element is told, as in {@code <Choice<Deck> …>}; stays where they do not close. */
    private void typeArguments() {
        int depth = 0;
        for (int i = at; i < Math.min(end, at + LONGEST_PATTERN); i++) {
            char c = text.charAt(i);
            if (c == '<') {
                depth++;
            } else if (c == '>' && text.charAt(i - 1) != '=' && --depth == 0) {
                at = i + 1;
                return;
            }
        }
    }

    private static boolean nameGoesOn(char c) {
        return Character.isLetterOrDigit(c) || c == '.' || c == '-' || c == '_' || c == ':';
    }

    private void tag(Frame frame) {
        char c = text.charAt(at);
        if (c == '>') {
            out.add(Kind.TAG_END, at, at + 1);
            at++;
            frame.mode = Mode.CHILDREN;
        } else if (c == '/' && next(1) == '>') {
            out.add(Kind.TAG_END, at, at + 2);
            at += 2;
            frames.pop();
        } else if (c == '{') {
            out.add(Kind.SIGN, at, at + 1);
            at++;
            push(Frame.code('}'));
        } else if (c == '"' || c == '\'') {
            int close = text.indexOf(c, at + 1);
            if (close < 0 || close >= end) {
                at = end;
                return;
            }
            out.add(Kind.STRING, at, close + 1);
            at = close + 1;
        } else if (Character.isLetter(c) || c == '_') {
            int start = at;
            while (at < end && nameGoesOn(text.charAt(at))) {
                at++;
            }
            out.add(Kind.ATTRIBUTE, start, at);
        } else {
            if (!Character.isWhitespace(c) && c != '=') {
                out.add(Kind.SIGN, at, at + 1);
            }
            at++;
        }
    }

    private void children() {
        int start = at;
        while (at < end && text.charAt(at) != '<' && text.charAt(at) != '{') {
            at++;
        }
        text(text, start, at, out);
        if (at >= end) {
            return;
        }
        if (text.charAt(at) == '{') {
            out.add(Kind.SIGN, at, at + 1);
            at++;
            push(Frame.code('}'));
        } else if (next(1) == '/') {
            int close = text.indexOf('>', at);
            int stop = close < 0 || close >= end ? end : close + 1;
            out.add(Kind.TAG_END, at, stop);
            at = stop;
            frames.pop();
        } else {
            push(new Frame(Mode.TAG, (char) 0, "", Holes.NONE, false, at));
            if (at < end) {
                tagName();
            }
        }
    }

    /** Adds text between tags without the space around it, unless there is nothing but space. */
    static void text(String text, int from, int to, Tokens out) {
        int start = from;
        int stop = to;
        while (start < stop && Character.isWhitespace(text.charAt(start))) {
            start++;
        }
        while (stop > start && Character.isWhitespace(text.charAt(stop - 1))) {
            stop--;
        }
        if (stop > start) {
            out.add(Kind.TEXT, start, stop);
        }
    }
}
