package mellow.core.format.csv;

/**
 * Keeps spreadsheet programs from running a text as a formula: an apostrophe before a text that begins with = + - @ TAB or CR, and before one that
 * begins with an apostrophe and one of these. Removing the guard gives exactly the text that was guarded.
 */
public final class FormulaGuard {

    private FormulaGuard() {}

    /** The text with its guard, if it needs one. */
    public static String guard(String text) {
        return needsGuard(text) ? "'" + text : text;
    }

    /** Whether {@code text} carries a guard. */
    public static boolean guarded(String text) {
        return text.length() > 1 && text.charAt(0) == '\'' && needsGuard(text.substring(1));
    }

    /** The text without its guard. */
    public static String unguard(String text) {
        return guarded(text) ? text.substring(1) : text;
    }

    private static boolean needsGuard(String text) {
        int i = 0;
        while (i < text.length() && text.charAt(i) == '\'') {
            i++;
        }
        return i < text.length() && "=+-@\t\r".indexOf(text.charAt(i)) >= 0;
    }
}
