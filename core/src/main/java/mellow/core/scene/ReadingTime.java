package mellow.core.scene;

import java.lang.Character.UnicodeScript;

/** How long people take to read what is seen for a while, such as a subtitle. */
public final class ReadingTime {

    /** Letters of an alphabet in a second, as grown people read them under a picture. */
    static final int A_SECOND = 17;

    private ReadingTime() {}

    /** Seconds, to a tenth and rounded up; a sign that is a syllable or a word counts as several letters. */
    public static double seconds(String text) {
        int letters = text.codePoints().map(ReadingTime::letters).sum();
        return Math.ceil(10.0 * letters / A_SECOND) / 10;
    }

    private static int letters(int character) {
        return switch (UnicodeScript.of(character)) {
            case HAN, HIRAGANA, KATAKANA -> 3;
            case HANGUL -> 2;
            default -> 1;
        };
    }
}
