package mellow.core.check;

import java.util.Map;
import java.util.Set;

/** A word twice in a row. Many languages double words on purpose, so it is looked for only where they do not, and not for words that may meet. */
final class DoubledCheck implements Check {

    private static final Map<String, Set<String>> MAY_MEET = Map.ofEntries(
            Map.entry("en", Set.of("that", "had", "her", "no", "bye", "ha", "very", "so")),
            Map.entry("de", Set.of("die", "der", "das", "den", "dem", "sie", "sich", "wenn")),
            Map.entry("nl", Set.of("die", "dat", "ze", "je", "er")),
            Map.entry("fr", Set.of("vous", "nous", "faire")),
            Map.entry("es", Set.of("no", "si")),
            Map.entry("pt", Set.of("se", "não")),
            Map.entry("it", Set.of("piano", "via", "quasi", "mano")),
            Map.entry("sv", Set.of("som", "det", "den", "i")),
            Map.entry("da", Set.of("der", "det", "som")),
            Map.entry("nb", Set.of("som", "det")),
            Map.entry("fi", Set.of("niin", "siis", "yhä")),
            Map.entry("et", Set.of("nii", "ja")),
            Map.entry("pl", Set.of("się")),
            Map.entry("cs", Set.of("se")),
            Map.entry("sk", Set.of("sa")),
            Map.entry("hu", Set.of("az", "egy")),
            Map.entry("ro", Set.of("că")),
            Map.entry("ru", Set.of("чуть", "еле", "едва")),
            Map.entry("uk", Set.of("ледве")),
            Map.entry("bg", Set.of()),
            Map.entry("lt", Set.of()),
            Map.entry("lv", Set.of()),
            Map.entry("sl", Set.of()),
            Map.entry("hr", Set.of()),
            Map.entry("el", Set.of("σιγά", "πολύ")),
            Map.entry("ca", Set.of()));

    private static final int SHORTEST = 2;
    /** No mark stands before it. */
    private static final char FIRST_MARK = '\u0300';

    @Override
    public void lookAt(Form form, Found found) {
        if (form.pattern() || form.source().equals(form.text())) {
            return;
        }
        Set<String> mayMeet = MAY_MEET.get(form.ground().facts().language());
        if (mayMeet == null) {
            return;
        }
        look(form, mayMeet, form.source(), found);
    }

    @Override
    public void lookAtSource(Form source, Found found) {
        Set<String> mayMeet = MAY_MEET.get(source.ground().source().language());
        if (mayMeet != null) {
            look(source, mayMeet, "", found);
        }
    }

    private static void look(Form form, Set<String> mayMeet, String source, Found found) {
        String text = form.text();
        int before = -1;
        int beforeEnd = -1;
        int at = 0;
        while (at < text.length()) {
            if (!letter(text.charAt(at))) {
                at++;
                continue;
            }
            int start = at;
            while (at < text.length() && (letterOrDigit(text.charAt(at)) || joins(text, at))) {
                at++;
            }
            int length = at - start;
            if (length >= SHORTEST
                    && before >= 0
                    && beforeEnd - before == length
                    && start == beforeEnd + 1
                    && text.charAt(beforeEnd) == ' '
                    && same(text, before, start, length)) {
                String word = text.substring(start, at);
                if (!mayMeet.contains(word.toLowerCase(form.ground().facts().locale()))
                        && !source.contains(word + " " + word)
                        && !name(text, before, start)) {
                    found.add(
                            "word-doubled",
                            form.name(),
                            "“{word}” stands twice in a row.",
                            Map.of("word", word),
                            before,
                            at,
                            Mend.replacing("Take one out", text, beforeEnd, at, ""));
                    return;
                }
            }
            before = start;
            beforeEnd = at;
        }
    }

    /** The same letters; the first word may have a capital where a sentence begins. */
    private static boolean same(String text, int first, int second, int length) {
        return Character.toLowerCase(text.charAt(first)) == Character.toLowerCase(text.charAt(second))
                && (text.charAt(first) == text.charAt(second) || Character.isUpperCase(text.charAt(first)))
                && text.regionMatches(first + 1, text, second + 1, length - 1);
    }

    /** Apostrophes and hyphens inside a word, and marks on its letters. */
    private static boolean joins(String text, int at) {
        char c = text.charAt(at);
        return (c >= FIRST_MARK && Character.getType(c) == Character.NON_SPACING_MARK)
                || ((c == '\'' || c == '’' || c == '-')
                        && at + 1 < text.length()
                        && Character.isLetter(text.charAt(at + 1)));
    }

    private static boolean letter(char c) {
        return c < 128 ? (c | 32) >= 'a' && (c | 32) <= 'z' : Character.isLetter(c);
    }

    private static boolean letterOrDigit(char c) {
        return letter(c) || (c < 128 ? c >= '0' && c <= '9' : Character.isDigit(c));
    }

    /** Names such as "Bora Bora" have two capitals; a sentence that begins with a doubled word has one. */
    private static boolean name(String text, int first, int second) {
        return Character.isUpperCase(text.charAt(first)) && Character.isUpperCase(text.charAt(second)) && first > 0;
    }
}
