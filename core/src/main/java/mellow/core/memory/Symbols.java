package mellow.core.memory;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import mellow.core.placeholder.IcuMessage;
import mellow.core.placeholder.IcuMessage.Argument;
import mellow.core.placeholder.IcuMessage.Stretch;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholders;

/**
 * A source as it is compared: a row of symbols, each a letter, a number or a placeholder. Of an ICU message the words in its branches are letters too, and
 * each argument is one symbol with the names of its branches; the syntax between them is nothing.
 *
 * <p>All that a symbol may cost is said here, in tenths of one that is put in, left out or another altogether.
 */
final class Symbols {

    /** A symbol that is put in, left out, or stands for one of another sort. */
    static final int WHOLE = 10;
    /** A letter for the same in the other case. */
    private static final int CASE = 1;
    /** A number for another. */
    private static final int NUMBER = 2;
    /** A placeholder for another of its kind: {@code {n}} for {@code {m}}. */
    private static final int PLACEHOLDER = 1;
    /** A placeholder for one of another kind: {@code %s} for {@code {name}}, a tag for an argument. */
    private static final int OTHER_KIND = 3;

    /** Longer texts are compared by their beginnings, in symbols. */
    static final int LONGEST = 2_000;

    private static final int A_PLACEHOLDER = 0x8000_0000;
    private static final int A_NUMBER = 0x2000_0000;
    private static final int KIND = 26;
    private static final int OF_PLACEHOLDER = (1 << KIND) - 1;
    private static final int OF_NUMBER = A_NUMBER - 1;

    private static final IcuMessage NO_MESSAGE = new IcuMessage(List.of(), null, -1);

    private final String text;
    /** Where its words stand: all of it, but for an ICU message. */
    private final List<Stretch> words;

    private final int[] symbols = new int[LONGEST];
    private int count;

    private Symbols(String text, List<Stretch> words) {
        this.text = text;
        this.words = words;
    }

    /** The symbols of a source, at most {@link #LONGEST}. Different symbols are different numbers but for one in millions. */
    static int[] of(String whole) {
        // What stands behind the symbols that are compared need not be looked at; a few placeholders may be long.
        String text = whole.length() > 4 * LONGEST ? whole.substring(0, 4 * LONGEST) : whole;
        IcuMessage message = IcuMessage.maybeTyped(text) ? IcuMessage.parse(text) : NO_MESSAGE;
        if (!message.typed()) {
            return new Symbols(text, List.of(new Stretch(0, text.length()))).read(Set.of());
        }
        Set<Integer> branching = message.arguments().stream()
                .filter(argument -> !argument.selectors().isEmpty())
                .map(Argument::start)
                .collect(Collectors.toSet());
        return new Symbols(text, wordsOf(text)).read(branching);
    }

    private static List<Stretch> wordsOf(String message) {
        List<Stretch> words = new ArrayList<>();
        IcuMessage.words(message).forEach(words::addAll);
        words.sort(Comparator.comparingInt(Stretch::start));
        return words;
    }

    private int[] read(Set<Integer> branching) {
        int at = 0;
        for (Placeholder placeholder : Placeholders.COMMON.in(text)) {
            if (placeholder.start() < at) {
                continue;
            }
            letters(at, placeholder.start());
            add(A_PLACEHOLDER
                    | placeholder.kind().ordinal() << KIND
                    | (placeholder.identity().hashCode() * 0x9E3779B1 >>> 1) & OF_PLACEHOLDER);
            // What stands in the branches follows.
            at = branching.contains(placeholder.start()) ? placeholder.start() + 1 : placeholder.end();
        }
        letters(at, text.length());
        return Arrays.copyOf(symbols, count);
    }

    private void add(int symbol) {
        if (count < LONGEST) {
            symbols[count++] = symbol;
        }
    }

    private void letters(int from, int to) {
        for (Stretch one : words) {
            if (one.end() > from && one.start() < to) {
                run(Math.max(from, one.start()), Math.min(to, one.end()));
            }
        }
    }

    private void run(int from, int to) {
        int at = from;
        while (at < to && count < LONGEST) {
            int letter = text.codePointAt(at);
            int end = at + Character.charCount(letter);
            if (Character.isDigit(letter)) {
                end = numberEnd(text, at, to);
                add(A_NUMBER | text.substring(at, end).hashCode() & OF_NUMBER);
            } else {
                add(letter);
            }
            at = end;
        }
    }

    /** Where a number ends that begins with a digit at {@code from}: digits, with single signs between them. */
    static int numberEnd(String text, int from, int to) {
        int at = from;
        while (at < to) {
            int one = text.codePointAt(at);
            boolean sign = (one == '.' || one == ',') && at + 1 < to && Character.isDigit(text.codePointAt(at + 1));
            if (!sign && !Character.isDigit(one)) {
                break;
            }
            at += Character.charCount(one);
        }
        return at;
    }

    /** What symbols have in common that cost less than a whole one for each other. */
    static int folded(int symbol) {
        if (symbol < 0) {
            return A_PLACEHOLDER;
        }
        return symbol >= A_NUMBER ? A_NUMBER : Character.toLowerCase(symbol);
    }

    private static int cost(int one, int other) {
        if (one == other) {
            return 0;
        }
        if (folded(one) != folded(other)) {
            return WHOLE;
        }
        if (one < 0) {
            return (one ^ other) >>> KIND == 0 ? PLACEHOLDER : OTHER_KIND;
        }
        return one >= A_NUMBER ? NUMBER : CASE;
    }

    /**
     * The distance of two rows of symbols (Levenshtein 1966), in tenths of a symbol.
     *
     * @param most more than that need not be told apart; the work is that of the rows' length times as many symbols
     * @return more than {@code most} for any such
     */
    static int distance(int[] one, int[] other, int most) {
        int[] rows = one.length <= other.length ? one : other;
        int[] columns = rows == one ? other : one;
        int band = most / WHOLE;
        if (columns.length - rows.length > band) {
            return most + 1;
        }
        int[] row = new int[columns.length + 1];
        for (int j = 0; j < row.length; j++) {
            row[j] = j * WHOLE;
        }
        for (int i = 1; i <= rows.length; i++) {
            int from = Math.max(1, i - band);
            int to = Math.min(columns.length, i + band);
            int diagonal = row[from - 1];
            row[from - 1] = from == 1 ? i * WHOLE : most + 1;
            int least = row[from - 1];
            for (int j = from; j <= to; j++) {
                int replaced = diagonal + cost(rows[i - 1], columns[j - 1]);
                diagonal = row[j];
                // What stood above the end of the band is farther than anybody asks.
                int above = j == i + band ? most + 1 : diagonal;
                row[j] = Math.min(replaced, WHOLE + Math.min(above, row[j - 1]));
                least = Math.min(least, row[j]);
            }
            if (least > most) {
                return most + 1;
            }
        }
        return Math.min(row[columns.length], most + 1);
    }
}
