package mellow.core.scan;

import java.util.Arrays;

/** The words, strings, comments and pieces of markup of one file, in order: kinds and spans in plain arrays, since a million lines have ten million of them. */
final class Tokens {

    /** What a token is. */
    enum Kind {
        WORD,
        SIGN,
        COMMENT,
        /** A whole string, with its quotes. */
        STRING,
        /** The beginning of a string with holes, up to the first; what is in the hole follows. */
        OPENING,
        /** What stands between two holes. */
        BETWEEN,
        /** What stands behind the last hole, up to the closing quote. */
        CLOSING,
        /** Text between tags. */
        TEXT,
        /** The name of a tag that opens, with the sign before it. */
        TAG,
        /** The end of a tag, or a closing tag. */
        TAG_END,
        /** The name of an attribute; a string or a sign follows when it has a value. */
        ATTRIBUTE
    }

    private static final Kind[] KINDS = Kind.values();
    private static final int FIRST = 256;

    private final String text;
    private byte[] kinds = new byte[FIRST];
    private int[] starts = new int[FIRST];
    private int[] ends = new int[FIRST];
    private int size;

    Tokens(String text) {
        this.text = text;
    }

    void add(Kind kind, int start, int end) {
        if (size == starts.length) {
            kinds = Arrays.copyOf(kinds, size * 2);
            starts = Arrays.copyOf(starts, size * 2);
            ends = Arrays.copyOf(ends, size * 2);
        }
        kinds[size] = (byte) kind.ordinal();
        starts[size] = start;
        ends[size] = end;
        size++;
    }

    int size() {
        return size;
    }

    Kind kind(int at) {
        return KINDS[kinds[at]];
    }

    /** Whether there is a token of that kind at a place, which may lie outside. */
    boolean is(int at, Kind kind) {
        return at >= 0 && at < size && kinds[at] == kind.ordinal();
    }

    /** The same for a sign or word with that spelling. */
    boolean is(int at, String spelled) {
        return at >= 0
                && at < size
                && (kinds[at] == Kind.SIGN.ordinal() || kinds[at] == Kind.WORD.ordinal())
                && ends[at] - starts[at] == spelled.length()
                && text.startsWith(spelled, starts[at]);
    }

    int start(int at) {
        return starts[at];
    }

    int end(int at) {
        return ends[at];
    }

    /** How a token is spelled. */
    String spelled(int at) {
        return text.substring(starts[at], ends[at]);
    }

    /** The first character of a token. */
    char first(int at) {
        return text.charAt(starts[at]);
    }

    /** Whether something opens at a token that a later one closes. */
    boolean opens(int at) {
        if (kinds[at] == Kind.OPENING.ordinal()) {
            return true;
        }
        char sign = kinds[at] == Kind.SIGN.ordinal() ? first(at) : ' ';
        return sign == '(' || sign == '[' || sign == '{';
    }

    /** Whether something closes there that opened before. */
    boolean closes(int at) {
        if (kinds[at] == Kind.CLOSING.ordinal()) {
            return true;
        }
        char sign = kinds[at] == Kind.SIGN.ordinal() ? first(at) : ' ';
        return sign == ')' || sign == ']' || sign == '}';
    }

    /** The place of the next token that is no comment; {@link #size()} for none. */
    int after(int at) {
        int next = at + 1;
        while (next < size && kinds[next] == Kind.COMMENT.ordinal()) {
            next++;
        }
        return next;
    }

    /** The place of the token before that is no comment; -1 for none. */
    int before(int at) {
        int last = at - 1;
        while (last >= 0 && kinds[last] == Kind.COMMENT.ordinal()) {
            last--;
        }
        return last;
    }
}
