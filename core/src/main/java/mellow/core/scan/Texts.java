package mellow.core.scan;

/** What of a source file can be kept: code holds characters that no record can. */
final class Texts {

    private static final int LONGEST = 2_000;
    private static final char REPLACEMENT = '\uFFFD';

    private Texts() {}

    /** Whether every character can be kept. */
    static boolean sound(String text) {
        for (int at = 0; at < text.length(); at++) {
            if (!sound(text, at)) {
                return false;
            }
        }
        return true;
    }

    private static boolean sound(String text, int at) {
        char c = text.charAt(at);
        if (Character.isHighSurrogate(c)) {
            return at + 1 < text.length() && Character.isLowSurrogate(text.charAt(at + 1));
        }
        if (Character.isLowSurrogate(c)) {
            return at > 0 && Character.isHighSurrogate(text.charAt(at - 1));
        }
        return c >= ' ' && c != 0x7f || c == '\n' || c == '\t' || c == '\r';
    }

    /** A text with a sign in place of what cannot be kept, cut where it is longer than any that people see. */
    static String kept(String text) {
        int end = Math.min(text.length(), LONGEST);
        if (end < text.length() && Character.isHighSurrogate(text.charAt(end - 1))) {
            end--;
        }
        String cut = text.substring(0, end);
        if (sound(cut)) {
            return cut;
        }
        StringBuilder kept = new StringBuilder(cut);
        for (int at = 0; at < cut.length(); at++) {
            if (!sound(cut, at)) {
                kept.setCharAt(at, REPLACEMENT);
            }
        }
        return kept.toString();
    }
}
