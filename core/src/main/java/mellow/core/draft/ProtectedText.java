package mellow.core.draft;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholder.Kind;
import mellow.core.placeholder.Placeholders;

/**
 * A text whose placeholders are hidden behind marks such as ⟦1⟧, numbered as they stand, so that whoever drafts it in another language only moves them. What comes
 * back is a text again when every mark is there once; a mark that was only written otherwise, or one that stood at an end and got lost, is put back. Immutable.
 */
public final class ProtectedText {

    private static final char OPENS = '⟦';
    private static final char CLOSES = '⟧';

    /** A mark in whatever digits, with spaces in it. */
    private static final Pattern MARK = Pattern.compile("⟦ {0,3}(\\p{Nd}{1,5}) {0,3}⟧");

    /** What programs make of marks that they do not know; only where the text has no brackets of its own. */
    private static final Pattern BRACKETS = Pattern.compile("\\[{1,2} {0,3}(\\p{Nd}{1,5}) {0,3}\\]{1,2}");

    private final String text;
    private final List<String> hidden;

    private ProtectedText(String text, List<String> hidden) {
        this.text = text;
        this.hidden = List.copyOf(hidden);
    }

    /**
     * Hides the placeholders of {@code source}.
     *
     * @return empty where that cannot be done: it is a message with branches, or the text has signs of marks itself
     */
    public static Optional<ProtectedText> of(String source, Placeholders syntaxes) {
        if (source.indexOf(OPENS) >= 0 || source.indexOf(CLOSES) >= 0) {
            return Optional.empty();
        }
        StringBuilder text = new StringBuilder(source.length());
        List<String> hidden = new ArrayList<>();
        int end = 0;
        for (Placeholder placeholder : syntaxes.in(source)) {
            boolean branches = placeholder.kind() == Kind.ICU_ARGUMENT
                    && placeholder.spelled().indexOf('{', 1) >= 0;
            if (placeholder.start() < end || branches) {
                return Optional.empty();
            }
            hidden.add(placeholder.spelled());
            text.append(source, end, placeholder.start()).append(mark(hidden.size()));
            end = placeholder.end();
        }
        return Optional.of(
                new ProtectedText(text.append(source, end, source.length()).toString(), hidden));
    }

    /** The text with its marks. */
    public String text() {
        return text;
    }

    /** The marks in the order in which they stand. */
    public List<String> marks() {
        List<String> marks = new ArrayList<>();
        for (int number = 1; number <= hidden.size(); number++) {
            marks.add(mark(number));
        }
        return marks;
    }

    /** Whether there is anything but marks, signs and numbers, which say the same in every language. */
    public boolean hasWords() {
        return MARK.matcher(text).replaceAll("").codePoints().anyMatch(Character::isLetter);
    }

    private static String mark(int number) {
        return "" + OPENS + number + CLOSES;
    }

    /** What came of putting the placeholders back. */
    public sealed interface Restored {

        /**
         * A text with all its placeholders.
         *
         * @param mended whether a mark had to be put back
         */
        record Whole(String text, boolean mended) implements Restored {}

        /**
         * One that cannot be taken.
         *
         * @param mark the mark that is lost, doubled or was never there
         */
        record Damaged(Damage damage, String mark) implements Restored {}
    }

    /** What became of a mark. */
    public enum Damage {
        LOST,
        DOUBLED,
        MADE_UP
    }

    /** Puts the placeholders back into a draft. */
    public Restored restore(String draft) {
        boolean own = text.indexOf('[') >= 0;
        String told = own ? draft : BRACKETS.matcher(draft).replaceAll(found -> mark(number(found.group(1))));
        int[] times = new int[hidden.size() + 1];
        StringBuilder restored = new StringBuilder(told.length());
        Matcher marks = MARK.matcher(told);
        int end = 0;
        boolean mended = !told.equals(draft);
        while (marks.find()) {
            int number = number(marks.group(1));
            if (number < 1 || number > hidden.size()) {
                return new Restored.Damaged(Damage.MADE_UP, marks.group());
            }
            if (times[number]++ > 0) {
                return new Restored.Damaged(Damage.DOUBLED, mark(number));
            }
            mended |= !marks.group().equals(mark(number));
            restored.append(told, end, marks.start()).append(hidden.get(number - 1));
            end = marks.end();
        }
        restored.append(told, end, told.length());
        // Neither sign stands in the source, so what is left of them was no mark of ours.
        for (char sign : new char[] {OPENS, CLOSES}) {
            if (restored.indexOf(String.valueOf(sign)) >= 0) {
                return new Restored.Damaged(Damage.MADE_UP, String.valueOf(sign));
            }
        }
        return withLost(restored, times, mended);
    }

    /** A single lost mark has one place where it can only have been: the end of the text at which it stood. */
    private Restored withLost(StringBuilder restored, int[] times, boolean mended) {
        List<Integer> lost = new ArrayList<>();
        for (int number = 1; number <= hidden.size(); number++) {
            if (times[number] == 0) {
                lost.add(number);
            }
        }
        if (lost.isEmpty()) {
            return new Restored.Whole(restored.toString(), mended);
        }
        int number = lost.get(0);
        String mark = mark(number);
        if (lost.size() > 1) {
            return new Restored.Damaged(Damage.LOST, mark);
        }
        String spelled = hidden.get(number - 1);
        int there = restored.indexOf(spelled);
        if (there >= 0 && hidden.stream().filter(spelled::equals).count() == 1) {
            // Whoever drafts knew the placeholder and wrote it out.
            return restored.indexOf(spelled, there + 1) >= 0
                    ? new Restored.Damaged(Damage.DOUBLED, mark)
                    : new Restored.Whole(restored.toString(), true);
        }
        if (text.startsWith(mark)) {
            return new Restored.Whole(
                    spelled + spaceAfter(mark) + restored.toString().stripLeading(), true);
        }
        if (text.endsWith(mark)) {
            return new Restored.Whole(restored.toString().stripTrailing() + spaceBefore(mark) + spelled, true);
        }
        return new Restored.Damaged(Damage.LOST, mark);
    }

    private String spaceAfter(String mark) {
        String rest = text.substring(mark.length());
        return rest.substring(0, rest.length() - rest.stripLeading().length());
    }

    private String spaceBefore(String mark) {
        String rest = text.substring(0, text.length() - mark.length());
        return rest.substring(rest.stripTrailing().length());
    }

    /** A number in the digits of any script. */
    private static int number(String digits) {
        return digits.codePoints().reduce(0, (sum, digit) -> sum * 10 + Character.digit(digit, 10));
    }
}
