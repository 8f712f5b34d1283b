package mellow.core.check;

import com.ibm.icu.text.DateFormatSymbols;
import com.ibm.icu.util.ULocale;
import java.util.Arrays;
import java.util.HashSet;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Begins with a small letter where the source has a capital, or the other way round. Only between scripts that have capitals. */
final class CapitalCheck implements Check {

    /** Days, months and languages have capitals in English and few elsewhere. */
    private static final Set<String> ENGLISH_CAPITALS = englishCapitals();

    @Override
    public void lookAt(Form form, Found found) {
        Facts facts = form.ground().facts();
        if (!form.comparable()
                || form.message() != null
                || !facts.cased()
                || !form.ground().source().cased()) {
            return;
        }
        int of = first(form.source());
        int at = first(form.text());
        if (of < 0 || at < 0) {
            return;
        }
        boolean asked = Character.isUpperCase(form.source().codePointAt(of));
        boolean given = Character.isUpperCase(form.text().codePointAt(at));
        if (asked == given || excused(form, of, at, asked)) {
            return;
        }
        int end = form.text().offsetByCodePoints(at, 1);
        String letter = form.text().substring(at, end);
        String right = asked ? letter.toUpperCase(facts.locale()) : letter.toLowerCase(facts.locale());
        found.add(
                "capital-differs",
                form.name(),
                asked
                        ? "The source begins with a capital, this text with a small letter."
                        : "The source begins with a small letter, this text with a capital.",
                Map.of(),
                at,
                end,
                Mend.replacing("Make it “" + right + "”", form.text(), at, end, right));
    }

    private static boolean excused(Form form, int of, int at, boolean asked) {
        if (!asked && capitalNouns(form.ground().facts())) {
            return true;
        }
        String sourceWord = word(form.source(), of);
        String textWord = word(form.text(), at);
        // A word that is written the same in both, a unit or a name ("iPad", "kg", "eID") keeps its own case.
        if (sourceWord.equals(textWord) || !plain(sourceWord) || !plain(textWord) || sourceWord.length() == 1) {
            return true;
        }
        if (form.source().contains(textWord)) {
            return true;
        }
        return asked && (ENGLISH_CAPITALS.contains(sourceWord) || sourceWord.equals("I"));
    }

    /** German and Luxembourgish write every noun with a capital. */
    private static boolean capitalNouns(Facts facts) {
        return facts.among("de", "lb", "gsw", "nds", "bar");
    }

    /** Small letters but for the first. */
    private static boolean plain(String word) {
        String rest = word.substring(Math.min(1, word.length()));
        return rest.equals(rest.toLowerCase(Locale.ROOT));
    }

    private static String word(String text, int at) {
        int end = at;
        while (end < text.length() && Character.isLetterOrDigit(text.charAt(end))) {
            end++;
        }
        return text.substring(at, end);
    }

    /** The first letter, when nothing but quotation marks, brackets and spaces stands before it; -1 for none. */
    private static int first(String text) {
        for (int at = 0; at < text.length(); at++) {
            int c = text.codePointAt(at);
            if (Character.isUpperCase(c) || Character.isLowerCase(c)) {
                return at;
            }
            if (!Character.isWhitespace(c) && !Character.isSpaceChar(c) && "\"'“”„«»‘’‚(¿¡[".indexOf(c) < 0) {
                return -1;
            }
        }
        return -1;
    }

    private static Set<String> englishCapitals() {
        Set<String> words = new HashSet<>();
        DateFormatSymbols symbols = new DateFormatSymbols(ULocale.ENGLISH);
        for (String @Nullable [] names : new String[][] {
            symbols.getMonths(), symbols.getShortMonths(), symbols.getWeekdays(), symbols.getShortWeekdays()
        }) {
            words.addAll(Arrays.asList(names));
        }
        for (ULocale locale : ULocale.getAvailableLocales()) {
            words.add(locale.getDisplayLanguage(ULocale.ENGLISH));
        }
        words.remove("");
        return Set.copyOf(words);
    }
}
