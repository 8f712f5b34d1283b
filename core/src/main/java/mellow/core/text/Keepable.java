package mellow.core.text;

import java.util.Optional;

/**
 * What no text of the record can hold, whatever way it comes: a NUL, which databases and programs take for the end; half of a surrogate pair, which has no
 * spelling in UTF-8 (RFC 3629 §3) and would become another character; and more than fits a screen by far.
 */
public final class Keepable {

    /** Characters of the longest text, unless a setting says otherwise. */
    public static final int LONGEST = 100_000;

    private Keepable() {}

    /**
     * What stands against keeping {@code text}, as the end of a sentence that begins with what the text is: "has …", "is …".
     *
     * @param longest most UTF-16 units
     */
    public static Optional<String> against(String text, int longest) {
        if (text.length() > longest) {
            return Optional.of("is " + text.length() + " characters long, and at most " + longest + " can be kept");
        }
        if (text.indexOf('\0') >= 0) {
            return Optional.of("has a NUL character, which cannot be part of a text");
        }
        int half = halfPair(text);
        return half < 0
                ? Optional.empty()
                : Optional.of(String.format(
                        "has half of a character, U+%04X, which cannot be part of a text", (int) text.charAt(half)));
    }

    /**
     * The beginning of a text as it can be told about, whatever is in it: cut between characters, and with U+FFFD for what cannot be kept.
     *
     * @param most most UTF-16 units; what is longer ends in an ellipsis
     */
    public static String shown(String text, int most) {
        String cut = text;
        if (text.length() > most) {
            boolean splits = Character.isHighSurrogate(text.charAt(most - 1));
            cut = text.substring(0, splits ? most - 1 : most) + "\u2026";
        }
        if (cut.indexOf('\0') < 0 && halfPair(cut) < 0) {
            return cut;
        }
        StringBuilder sound = new StringBuilder(cut.replace('\0', '\uFFFD'));
        for (int half = halfPair(sound.toString()); half >= 0; half = halfPair(sound.toString())) {
            sound.setCharAt(half, '\uFFFD');
        }
        return sound.toString();
    }

    /** Whether a text has half of a character, which no file can hold. */
    public static boolean halved(String text) {
        return halfPair(text) >= 0;
    }

    private static int halfPair(String text) {
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c < Character.MIN_SURROGATE || c > Character.MAX_SURROGATE) {
                continue;
            }
            if (!Character.isHighSurrogate(c)
                    || i + 1 == text.length()
                    || !Character.isLowSurrogate(text.charAt(i + 1))) {
                return i;
            }
            i++;
        }
        return -1;
    }
}
