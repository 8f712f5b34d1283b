package mellow.core.memory;

import com.ibm.icu.text.PluralRules;
import com.ibm.icu.util.ULocale;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.regex.Pattern;
import mellow.core.language.LanguageTag;
import mellow.core.placeholder.IcuMessage;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholders;

/**
 * Puts the placeholders and numbers of a new source into a text that was made for another one, where it is sure which belongs where:
 *
 * <ul>
 *   <li>both sources have the same row of placeholders and numbers, by what is which, and before or behind each that differs stands the same word in both;
 *   <li>what is replaced stands in the text as often as in its source, and never for two different things;
 *   <li>a number is replaced only by one of the same plural category in the language of the text (CLDR), as other words may hang on it. Its digits become those
 *       that the text has.
 * </ul>
 *
 * Messages with typed arguments are left alone.
 */
public final class Adaptation {

    private static final int MOST = 50;
    /** In longer texts nobody sees at a glance what was adapted. */
    private static final int LONGEST = 10_000;

    private static final Pattern PLAIN = Pattern.compile("\\d{1,15}(?:[.,]\\d{1,9})?");

    private Adaptation() {}

    /** What stands in the text now instead of something else, as it is spelled in the sources. */
    public record Substitution(String from, String to) {}

    /** A text that was adapted. */
    public record Adapted(String text, List<Substitution> changes) {}

    /** A placeholder or a number, with the words before and behind it. */
    private record Piece(boolean number, String spelled, int start, int end, String before, String behind) {

        /** What it is, whatever digits it is written with. */
        String what() {
            return number ? latin(spelled) : spelled;
        }
    }

    /**
     * Adapts a text.
     *
     * @param source what the text was made for
     * @param wanted what it is to be for
     * @return empty where nothing differs that could be adapted, or where it is not sure how
     */
    public static Optional<Adapted> of(String source, String wanted, String text, LanguageTag language) {
        if (source.length() + wanted.length() + text.length() > LONGEST
                || message(source)
                || message(wanted)
                || message(text)) {
            return Optional.empty();
        }
        List<Piece> old = pieces(source);
        List<Piece> now = pieces(wanted);
        if (old.size() != now.size() || old.size() > MOST) {
            return Optional.empty();
        }
        PluralRules plurals = PluralRules.forLocale(ULocale.forLanguageTag(language.value()));
        Map<String, Piece> instead = new LinkedHashMap<>();
        Map<String, Integer> often = new HashMap<>();
        for (int i = 0; i < old.size(); i++) {
            Piece one = old.get(i);
            Piece next = now.get(i);
            boolean differs = !one.what().equals(next.what());
            Piece other = instead.putIfAbsent(one.what(), next);
            boolean sure = one.number == next.number
                    && (other == null || other.what().equals(next.what()))
                    && (!differs || beside(one, next) && sameForm(one, next, plurals));
            if (!sure) {
                return Optional.empty();
            }
            often.merge(one.what(), 1, Integer::sum);
        }
        instead.entrySet()
                .removeIf(entry -> entry.getKey().equals(entry.getValue().what()));
        return instead.isEmpty() ? Optional.empty() : replaced(text, instead, often);
    }

    private static boolean message(String text) {
        return IcuMessage.maybeTyped(text) && IcuMessage.parse(text).typed();
    }

    private static List<Piece> pieces(String text) {
        List<int[]> found = new ArrayList<>();
        int at = 0;
        for (Placeholder placeholder : Placeholders.COMMON.in(text)) {
            if (placeholder.start() >= at) {
                numbers(text, at, placeholder.start(), found);
                found.add(new int[] {placeholder.start(), placeholder.end(), 0});
                at = placeholder.end();
            }
        }
        numbers(text, at, text.length(), found);
        List<Piece> pieces = new ArrayList<>();
        for (int i = 0; i < found.size(); i++) {
            int[] one = found.get(i);
            int from = i == 0 ? 0 : found.get(i - 1)[1];
            int to = i == found.size() - 1 ? text.length() : found.get(i + 1)[0];
            pieces.add(new Piece(
                    one[2] == 1,
                    text.substring(one[0], one[1]),
                    one[0],
                    one[1],
                    lastWord(text.substring(from, one[0])),
                    firstWord(text.substring(one[1], to))));
        }
        return pieces;
    }

    private static void numbers(String text, int from, int to, List<int[]> found) {
        int at = from;
        while (at < to) {
            int letter = text.codePointAt(at);
            int end = at + Character.charCount(letter);
            if (Character.isDigit(letter)) {
                end = Symbols.numberEnd(text, at, to);
                found.add(new int[] {at, end, 1});
            }
            at = end;
        }
    }

    private static String lastWord(String stretch) {
        String words = stretch.stripTrailing().toLowerCase(Locale.ROOT);
        int at = words.length();
        while (at > 0 && !Character.isWhitespace(words.charAt(at - 1))) {
            at--;
        }
        return words.substring(at);
    }

    private static String firstWord(String stretch) {
        String words = stretch.stripLeading().toLowerCase(Locale.ROOT);
        int at = 0;
        while (at < words.length() && !Character.isWhitespace(words.charAt(at))) {
            at++;
        }
        return words.substring(0, at);
    }

    private static boolean beside(Piece one, Piece other) {
        return one.before.equals(other.before) || one.behind.equals(other.behind);
    }

    private static boolean sameForm(Piece one, Piece other, PluralRules plurals) {
        if (!one.number) {
            return true;
        }
        boolean plain = PLAIN.matcher(one.what()).matches()
                && PLAIN.matcher(other.what()).matches();
        return plain && plurals.select(value(one)).equals(plurals.select(value(other)));
    }

    private static double value(Piece number) {
        return Double.parseDouble(number.what().replace(',', '.'));
    }

    private static String latin(String digits) {
        StringBuilder latin = new StringBuilder();
        digits.codePoints()
                .forEach(one -> latin.appendCodePoint(Character.isDigit(one) ? '0' + Character.digit(one, 10) : one));
        return latin.toString();
    }

    /** A number in the digits of another. */
    private static String digitsOf(String model, String number) {
        int first = model.codePoints().filter(Character::isDigit).findFirst().orElse('0');
        int zero = first - Character.digit(first, 10);
        StringBuilder written = new StringBuilder();
        number.codePoints()
                .forEach(
                        one -> written.appendCodePoint(Character.isDigit(one) ? zero + Character.digit(one, 10) : one));
        return written.toString();
    }

    private static Optional<Adapted> replaced(String text, Map<String, Piece> instead, Map<String, Integer> often) {
        StringBuilder adapted = new StringBuilder();
        Map<String, Integer> seen = new HashMap<>();
        int at = 0;
        for (Piece one : pieces(text)) {
            Piece next = instead.get(one.what());
            if (next != null) {
                seen.merge(one.what(), 1, Integer::sum);
                adapted.append(text, at, one.start)
                        .append(next.number ? digitsOf(one.spelled, next.spelled) : next.spelled);
                at = one.end;
            }
        }
        adapted.append(text, at, text.length());
        List<Substitution> changes = new ArrayList<>();
        for (Map.Entry<String, Piece> one : instead.entrySet()) {
            if (!Objects.equals(often.get(one.getKey()), seen.get(one.getKey()))) {
                return Optional.empty();
            }
            changes.add(new Substitution(one.getKey(), one.getValue().spelled));
        }
        return Optional.of(new Adapted(adapted.toString(), List.copyOf(changes)));
    }
}
