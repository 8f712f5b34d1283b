package mellow.core.check;

/** Which kinds of characters a text has, found in one pass, so that most checks need not look at most texts. */
final class Traits {

    static final int PERCENT = 1;
    static final int BRACE = 1 << 1;
    static final int ANGLE = 1 << 2;
    static final int HASH = 1 << 3;
    static final int DIGIT = 1 << 4;
    static final int CONTROL = 1 << 5;
    /** Letters that begin what damaged UTF-8 looks like, and the replacement character. */
    static final int DAMAGE = 1 << 6;
    /** Marks of direction. */
    static final int DIRECTION = 1 << 7;
    /** Two spaces in a row, or spaces at the ends. */
    static final int SPACES = 1 << 8;

    static final int LINES = 1 << 9;
    /** What links and addresses have. */
    static final int LINK = 1 << 10;

    static final int QUOTE = 1 << 11;
    static final int LATIN = 1 << 12;
    static final int OTHER_LETTER = 1 << 13;
    /** Full-width forms. */
    static final int WIDE = 1 << 14;

    static final int SURROGATE = 1 << 15;
    /** Anything that could be part of a placeholder. */
    static final int PLACEHOLDER = PERCENT | BRACE | HASH;

    private static final int[] ASCII = new int[128];

    static {
        for (char c = 0; c < ' '; c++) {
            ASCII[c] = CONTROL;
        }
        ASCII[127] = CONTROL;
        ASCII['\t'] = 0;
        ASCII['\n'] = LINES;
        ASCII['\r'] = LINES;
        for (char c = '0'; c <= '9'; c++) {
            ASCII[c] = DIGIT;
        }
        for (char c = 'a'; c <= 'z'; c++) {
            ASCII[c] = LATIN;
            ASCII[c - 32] = LATIN;
        }
        ASCII['%'] = PERCENT;
        ASCII['{'] = BRACE;
        ASCII['}'] = BRACE;
        ASCII['<'] = ANGLE;
        ASCII['>'] = ANGLE;
        ASCII['#'] = HASH;
        ASCII['@'] = LINK;
        ASCII['/'] = LINK;
    }

    private Traits() {}

    static int of(String text) {
        int traits = 0;
        boolean space = true;
        int length = text.length();
        for (int i = 0; i < length; i++) {
            char c = text.charAt(i);
            boolean nowSpace;
            if (c < 128) {
                traits |= ASCII[c];
                nowSpace = c == ' ' || c == '\t';
            } else {
                traits |= beyond(c);
                nowSpace = c == '\u00A0' || c == '\u3000' || c == '\u202F';
            }
            if (nowSpace && space) {
                traits |= SPACES;
            }
            space = nowSpace || c == '\n';
        }
        return space ? traits | SPACES : traits;
    }

    private static int beyond(char c) {
        if (c < 0xA0) {
            return CONTROL;
        }
        if (c == '«' || c == '»' || (c >= '\u2018' && c <= '\u201F') || c == '\u2039' || c == '\u203A') {
            return QUOTE;
        }
        if (c == 'Ã' || c == 'Â' || c == 'â' || c == 'Å' || c == 'Ä' || c == '\uFFFD' || c == 'Ð' || c == 'Ñ') {
            return DAMAGE | LATIN;
        }
        if (c < 0x250) {
            return LATIN;
        }
        if (c == '\u200E' || c == '\u200F' || (c >= '\u202A' && c <= '\u202E') || (c >= '\u2066' && c <= '\u2069')) {
            return DIRECTION;
        }
        if (c >= 0xFF00 && c <= 0xFFEF) {
            return WIDE | (Character.isDigit(c) ? DIGIT : 0);
        }
        if (Character.isSurrogate(c)) {
            return SURROGATE;
        }
        if (c == '\uFEFF' || c >= 0xFFFE || (c >= 0xFDD0 && c <= 0xFDEF) || c == '\u2028' || c == '\u2029') {
            return CONTROL;
        }
        if (Character.isDigit(c)) {
            return DIGIT;
        }
        return Character.isLetter(c) ? (c >= 0x1E00 && c <= 0x1EFF ? LATIN : OTHER_LETTER) : 0;
    }

    static boolean in(int traits, int wanted) {
        return (traits & wanted) != 0;
    }
}
