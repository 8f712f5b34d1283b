package mellow.core.scan;

import mellow.core.text.Keepable;

/** What of a source file can be kept: code holds characters that no record can, and texts that no list can show. */
final class Texts {

    private static final int LONGEST = 2_000;

    private Texts() {}

    /** Whether every character can be kept. */
    static boolean sound(String text) {
        return Keepable.against(text, Integer.MAX_VALUE).isEmpty();
    }

    /** A text with a sign in place of what cannot be kept, cut where it is longer than any that people see. */
    static String kept(String text) {
        return Keepable.shown(text, LONGEST);
    }
}
