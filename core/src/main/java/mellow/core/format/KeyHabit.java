package mellow.core.format;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** What tells entries apart in a bilingual file. Nothing in the file says it; it is recognised by evidence, and can be corrected. */
public enum KeyHabit {
    /** The source is the text, and the key as well. */
    SOURCE,
    /** The source is a key, and the file has no sources; the file of the source language holds the real source texts as its targets. */
    KEY,
    /** The context is the key, and the source the text: msgctxt in PO; resname, name or id of a unit in XLIFF. */
    CONTEXT;

    /** Parts joined by signs, capitals joined by underscores, humps; possessive, because any text is held against it. */
    private static final Pattern NAME = Pattern.compile(
            "[$_-]*+[\\p{L}\\p{N}$]++(?:[.:/_-]++[\\p{L}\\p{N}$]++)++|[a-z][a-z0-9]*+[A-Z][A-Za-z0-9]*+");

    private static final double NEARLY_ALL = 0.9;

    /** What one may be mistaken about: words without a space may be texts as well. */
    private static final Pattern WORD = Pattern.compile("[^\\s]+");

    /** The name in the HTTP interface and in options. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The habit of that name. */
    public static Optional<KeyHabit> named(String word) {
        return Stream.of(values()).filter(habit -> habit.word().equals(word)).findFirst();
    }

    /** Whether nearly all of the texts are spelled like names in a program, such as {@code menu.file.open}; no text is not. */
    public static boolean areKeys(List<String> texts) {
        return nearlyAll(texts, NAME);
    }

    /** The same for what other evidence speaks for: nearly all are words without a space. */
    static boolean mayBeKeys(List<String> texts) {
        return nearlyAll(texts, WORD);
    }

    private static boolean nearlyAll(List<String> texts, Pattern pattern) {
        long fitting = texts.stream()
                .filter(text -> text.length() <= 300 && pattern.matcher(text).matches())
                .count();
        return !texts.isEmpty() && fitting >= texts.size() * NEARLY_ALL;
    }

    /**
     * Whether the sources of a file whose translations are in the sources' own language are keys: they look like it, and most translations say
     * something else.
     *
     * @param sources its sources
     * @param targets the text of each, empty for none
     */
    public static boolean areKeysOf(List<String> sources, List<String> targets) {
        int said = 0;
        int other = 0;
        for (int i = 0; i < sources.size(); i++) {
            said += targets.get(i).isEmpty() ? 0 : 1;
            other += targets.get(i).isEmpty() || targets.get(i).equals(sources.get(i)) ? 0 : 1;
        }
        return areKeys(sources)
                || (mayBeKeys(sources) && 2 * other > said && said > 0 && !sameLetters(sources, targets));
    }

    /** Spelled alike but for capitals and accents: a variant of the same words, no keys. */
    private static boolean sameLetters(List<String> sources, List<String> targets) {
        int alike = 0;
        for (int i = 0; i < sources.size(); i++) {
            alike += sources.get(i).equalsIgnoreCase(targets.get(i)) ? 1 : 0;
        }
        return alike * 2 > sources.size();
    }
}
