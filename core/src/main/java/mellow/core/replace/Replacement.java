package mellow.core.replace;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.regex.PatternSyntaxException;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholders;
import mellow.core.text.Keepable;

/**
 * Finds words and puts others in their place. Placeholders are protected: what overlaps one is neither found nor replaced. Patterns have a budget of steps, so
 * that none goes on for ever. For one search in one thread.
 */
public final class Replacement {

    /** Steps of a pattern over one text before it is given up; an ordinary one needs a few for each letter. */
    private static final int MOST_STEPS = 2_000_000;

    /** Steps over all texts: some seconds. */
    private static final long MOST_STEPS_IN_ALL = 400_000_000;

    /** Nobody can read more. */
    private static final int LONGEST_PATTERN = 1_000;

    private long stepsInAll;
    private final Pattern pattern;
    private final String with;
    private final boolean isPattern;

    private Replacement(Pattern pattern, String with, boolean isPattern) {
        this.pattern = pattern;
        this.with = with;
        this.isPattern = isPattern;
    }

    /**
     * What to look for.
     *
     * @param find the words, or a regular expression of {@link Pattern}
     * @param with what takes their place; {@code $1} stands for the first group of a pattern
     * @param wholeWords whether a letter or digit may stand neither before nor after
     * @param matchCase whether capital and small letters differ
     */
    public record Wanted(String find, String with, boolean isPattern, boolean wholeWords, boolean matchCase) {}

    /** A pattern that cannot be used, with a sentence that says why. */
    public static final class BadPatternException extends RuntimeException {
        BadPatternException(String sentence) {
            super(sentence);
        }
    }

    /**
     * Prepares a search.
     *
     * @throws BadPatternException for a pattern that is none or finds nothing but places between letters
     */
    public static Replacement of(Wanted wanted) {
        if (wanted.find.isEmpty()) {
            throw new BadPatternException("Say what to look for.");
        }
        if (wanted.isPattern && wanted.find.length() > LONGEST_PATTERN) {
            throw new BadPatternException("A pattern may have at most " + LONGEST_PATTERN + " characters.");
        }
        String core = wanted.isPattern ? "(?:" + wanted.find + ")" : Pattern.quote(wanted.find);
        if (wanted.wholeWords) {
            core = "(?<![\\p{L}\\p{N}\\p{M}])" + core + "(?![\\p{L}\\p{N}\\p{M}])";
        }
        int flags = Pattern.UNICODE_CHARACTER_CLASS | Pattern.MULTILINE;
        if (!wanted.matchCase) {
            flags |= Pattern.CASE_INSENSITIVE | Pattern.UNICODE_CASE;
        }
        try {
            if (wanted.isPattern) {
                Pattern.compile(wanted.find);
            }
            Pattern pattern = Pattern.compile(core, flags);
            if (wanted.isPattern) {
                checkGroups(pattern, wanted.with);
            }
            return new Replacement(pattern, wanted.with, wanted.isPattern);
        } catch (StackOverflowError tooDeep) {
            throw new BadPatternException("The pattern is nested too deep.");
        } catch (PatternSyntaxException wrong) {
            throw new BadPatternException("The pattern cannot be read at character " + (wrong.getIndex() + 1) + ": "
                    + wrong.getDescription().toLowerCase(Locale.ROOT) + ".");
        }
    }

    private static void checkGroups(Pattern pattern, String with) {
        int groups = pattern.matcher("").groupCount();
        Matcher used = Pattern.compile("\\\\.|\\$(\\d)?").matcher(with);
        while (used.find()) {
            String number = used.group(1);
            if (used.group().startsWith("$") && (number == null || Integer.parseInt(number) > groups)) {
                throw new BadPatternException("“" + used.group()
                        + "” stands for a group that the pattern does not have; write “\\$” for a dollar sign.");
            }
        }
    }

    /**
     * The text with every place replaced; the same object when nothing was found.
     *
     * @throws BadPatternException when the pattern takes far too long, or makes the text far too long
     */
    public String in(String text) {
        Counted counted = new Counted(text, new int[1]);
        try {
            return replaced(text, pattern.matcher(counted));
        } catch (StackOverflowError tooDeep) {
            throw new BadPatternException(
                    "The pattern goes too deep into a long text; make it say more exactly what it looks for.");
        } finally {
            stepsInAll += counted.steps[0];
            if (stepsInAll > MOST_STEPS_IN_ALL) {
                throw new BadPatternException(
                        "The pattern takes too long over so many texts; make it simpler, or the scope smaller.");
            }
        }
    }

    private String replaced(String text, Matcher match) {
        Deque<Placeholder> kept = new ArrayDeque<>(Placeholders.COMMON.in(text));
        StringBuilder result = null;
        int last = 0;
        while (match.find()) {
            if (match.end() == match.start() || touches(kept, match.start(), match.end())) {
                continue;
            }
            if (result == null) {
                result = new StringBuilder(text.length() + 16);
            }
            result.append(text, last, match.start()).append(isPattern ? expanded(match) : with);
            last = match.end();
            if (result.length() > Keepable.LONGEST + text.length()) {
                throw new BadPatternException("A text would become far too long by this.");
            }
        }
        return result == null ? text : result.append(text, last, text.length()).toString();
    }

    private String expanded(Matcher match) {
        StringBuilder out = new StringBuilder();
        for (int i = 0; i < with.length(); i++) {
            char c = with.charAt(i);
            if (c == '\\' && i + 1 < with.length()) {
                char next = with.charAt(++i);
                out.append(next == 'n' ? '\n' : next == 't' ? '\t' : next);
            } else if (c == '$') {
                String group = match.group(with.charAt(++i) - '0');
                out.append(group == null ? "" : group);
            } else {
                out.append(c);
            }
        }
        return out.toString();
    }

    /** Places come from left to right, so what ends before one is of no concern to those that follow. */
    private static boolean touches(Deque<Placeholder> kept, int start, int end) {
        while (!kept.isEmpty() && kept.element().end() <= start) {
            kept.remove();
        }
        return !kept.isEmpty() && kept.element().start() < end;
    }

    /** A text that counts how often it is looked at: a pattern that goes back and forth for ever is given up. */
    private record Counted(String text, int[] steps) implements CharSequence {

        @Override
        public int length() {
            return text.length();
        }

        @Override
        public char charAt(int index) {
            if (++steps[0] > MOST_STEPS) {
                throw new BadPatternException(
                        "The pattern takes too long; make it say more exactly what it looks for, without a repeat in a repeat.");
            }
            return text.charAt(index);
        }

        @Override
        public CharSequence subSequence(int start, int end) {
            return text.subSequence(start, end);
        }

        @Override
        public String toString() {
            return text;
        }
    }
}
