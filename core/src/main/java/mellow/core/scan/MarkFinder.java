package mellow.core.scan;

import mellow.core.scan.Habit.Mark;
import mellow.core.scan.KeyUse.How;
import mellow.core.scan.Tokens.Kind;

/** Finds keys between marks: {@code #menu.title#}. */
final class MarkFinder {

    private final Source source;
    private final Tokens tokens;
    private final String text;
    private final FoundKeys found;

    MarkFinder(Source source, FoundKeys found) {
        this.source = source;
        this.tokens = source.tokens();
        this.text = source.text();
        this.found = found;
    }

    /** Finds them, in strings and texts where those are known, everywhere otherwise. */
    void find(Mark mark) {
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
            while (end < to && end - start < FoundKeys.LONGEST_KEY && partOfKey(text.charAt(end))) {
                end++;
            }
            boolean closed = end > start
                    && text.startsWith(mark.close(), end)
                    && end + mark.close().length() <= to;
            if (closed && Character.isLetterOrDigit(text.charAt(end - 1))) {
                found.add(
                        text.substring(start, end),
                        false,
                        null,
                        null,
                        token < 0 ? "" : found.note(token),
                        null,
                        start,
                        How.WHOLE);
                if (token >= 0) {
                    found.take(token);
                }
                at = end + mark.close().length();
            } else {
                if (token >= 0 && end > start && begins(token, end)) {
                    found.add(text.substring(start, end) + Value.TOLD, false, null, null, "", null, start, How.PART);
                    found.take(token);
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
}
