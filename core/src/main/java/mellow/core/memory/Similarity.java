package mellow.core.memory;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholders;

/**
 * How alike two sources are, in percent: 100 minus the share of symbols that have to be changed, put in or left out (Levenshtein 1966), where a
 * placeholder is one symbol, equal to any other of its kind at the cost of a tenth, and letters that differ only in case cost a tenth. 100 is kept
 * for equal texts. Symmetric. Cost: product of the lengths, bounded by {@link #LONGEST}.
 */
public final class Similarity {

    /** Longer texts are compared by their beginnings and are never 100 % unless equal; in symbols. */
    public static final int LONGEST = 2_000;

    private static final int WHOLE = 10;
    private static final int LITTLE = 1;

    private final String text;
    private final List<Symbol> symbols;

    private record Symbol(int letter, String placeholder) {}

    private Similarity(String text) {
        this.text = text;
        this.symbols = symbols(text);
    }

    /** Prepares a source that is compared with many. */
    public static Similarity to(String source) {
        return new Similarity(source);
    }

    private static List<Symbol> symbols(String whole) {
        // Placeholders behind what is compared need not be looked for; a few of them may be long.
        String text = whole.length() > 4 * LONGEST ? whole.substring(0, 4 * LONGEST) : whole;
        List<Symbol> symbols = new ArrayList<>();
        int at = 0;
        for (Placeholder placeholder : Placeholders.COMMON.in(text)) {
            if (placeholder.start() < at) {
                // The arguments within a branch of an ICU message stand inside one that was taken already.
                continue;
            }
            letters(text.substring(at, placeholder.start()), symbols);
            symbols.add(new Symbol(0, placeholder.kind() + placeholder.identity()));
            at = placeholder.end();
        }
        letters(text.substring(at), symbols);
        return symbols.size() > LONGEST ? symbols.subList(0, LONGEST) : symbols;
    }

    private static void letters(String text, List<Symbol> to) {
        text.codePoints().limit(LONGEST).forEach(letter -> to.add(new Symbol(letter, "")));
    }

    /** The likeness of another source in whole percent, rounded down; 0 for nothing in common. */
    public int percent(String other) {
        if (text.equals(other)) {
            return 100;
        }
        List<Symbol> theirs = symbols(other);
        int longest = Math.max(symbols.size(), theirs.size());
        if (longest == 0) {
            return 99;
        }
        int distance = distance(symbols, theirs);
        return Math.max(0, Math.min(99, 100 - (int) Math.ceil(100.0 * distance / (WHOLE * longest))));
    }

    /** In tenths of a symbol. */
    private static int distance(List<Symbol> one, List<Symbol> other) {
        int[] row = new int[other.size() + 1];
        for (int j = 0; j < row.length; j++) {
            row[j] = j * WHOLE;
        }
        for (int i = 1; i <= one.size(); i++) {
            int diagonal = row[0];
            row[0] = i * WHOLE;
            for (int j = 1; j < row.length; j++) {
                int replaced = diagonal + cost(one.get(i - 1), other.get(j - 1));
                diagonal = row[j];
                row[j] = Math.min(replaced, WHOLE + Math.min(row[j], row[j - 1]));
            }
        }
        return row[other.size()];
    }

    private static int cost(Symbol one, Symbol other) {
        if (one.equals(other)) {
            return 0;
        }
        boolean placeholders = !one.placeholder.isEmpty() && !other.placeholder.isEmpty();
        boolean sameLetter = one.letter != 0 && folded(one.letter) == folded(other.letter);
        return placeholders || sameLetter ? LITTLE : WHOLE;
    }

    private static int folded(int letter) {
        return Character.isLetter(letter)
                ? Character.toString(letter).toLowerCase(Locale.ROOT).codePointAt(0)
                : letter;
    }
}
