package mellow.core.check;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Numbers that are not the source's. Digits of every script are digits; separators of thousands and decimals, ordinals, twelve or twenty-four hours and
 * counting by ten thousands make no difference; a small number may be said in words.
 */
final class NumberCheck implements Check {

    /** Languages have words for these that people use. */
    private static final int SMALL = 12;

    /** So many tell that the numbers are others altogether. */
    private static final int MOST = 100;

    private static final String GROUPING = ".,'’٬٫\u00A0\u202F\u2009·";

    private record Number(String digits, boolean ofName, int start, int end) {

        boolean small() {
            return digits.length() <= 2 && !digits.isEmpty() && Integer.parseInt(digits) <= SMALL;
        }
    }

    @Override
    public void lookAt(Form form, Found found) {
        if (!form.comparable() || !form.anywhere(Traits.DIGIT) || form.message() != null) {
            return;
        }
        List<Number> asked = in(form.source(), form.sourceTraits(), form);
        List<Number> given = in(form.text(), form.traits(), form);
        if (sameDigits(asked, given)) {
            return;
        }
        // How often a number stands makes no difference: a range may repeat its unit.
        List<Number> missing = others(asked, given);
        List<Number> extra = others(given, asked);
        if (!missing.isEmpty() && !extra.isEmpty()) {
            boolean halfDays = halfDays(form.source()) || halfDays(form.text());
            extra.removeIf(number -> meet(number, missing, halfDays));
        }
        boolean changed = !missing.isEmpty() && !extra.isEmpty();
        for (Number number : missing) {
            if (changed || !number.small()) {
                found.add(
                        "number-missing",
                        form.name(),
                        "The source says {number}, this text does not.",
                        Map.of("number", form.source().substring(number.start, number.end)));
            }
        }
        for (Number number : extra) {
            if (changed || !number.small()) {
                found.add(
                        "number-extra",
                        form.name(),
                        "{number} is not in the source.",
                        Map.of("number", form.text().substring(number.start, number.end)),
                        number.start,
                        number.end);
            }
        }
    }

    /** Whether both say the same numbers in the same order, as most do. */
    private static boolean sameDigits(List<Number> asked, List<Number> given) {
        if (asked.size() != given.size()) {
            return false;
        }
        for (int i = 0; i < asked.size(); i++) {
            if (!asked.get(i).digits.equals(given.get(i).digits)) {
                return false;
            }
        }
        return true;
    }

    /** Those that are no part of a name and whose digits the other side does not have. */
    private static List<Number> others(List<Number> numbers, List<Number> otherSide) {
        Set<String> known = new HashSet<>();
        for (Number one : otherSide) {
            known.add(one.digits);
        }
        List<Number> others = new ArrayList<>(2);
        for (Number one : numbers) {
            if (!one.ofName && others.size() < MOST && !known.contains(one.digits)) {
                others.add(one);
            }
        }
        return others;
    }

    private static boolean meet(Number number, List<Number> missing, boolean halfDays) {
        for (int i = 0; i < missing.size(); i++) {
            Number one = missing.get(i);
            if (scaled(one.digits).equals(scaled(number.digits))
                            && scaled(one.digits).length() < Math.max(one.digits.length(), number.digits.length())
                    || (halfDays && one.small() && twelveMore(one.digits, number.digits))
                    || (halfDays && number.small() && twelveMore(number.digits, one.digits))) {
                missing.remove(i);
                return true;
            }
        }
        return false;
    }

    private static boolean twelveMore(String twelve, String twentyFour) {
        if (twentyFour.length() > 2 || twentyFour.isEmpty()) {
            return false;
        }
        int hours = Integer.parseInt(twentyFour);
        int half = Integer.parseInt(twelve);
        return hours == half + 12 || (half == 12 && hours == 0);
    }

    /** Of a large number what stands before its zeros, so that 1,000,000 is 1 million and 10,000 is 1万. */
    private static String scaled(String digits) {
        int end = digits.length();
        while (digits.length() >= 4 && end > 1 && digits.charAt(end - 1) == '0') {
            end--;
        }
        return digits.substring(0, end);
    }

    /** Whether it counts hours twice to twelve: "5 pm", "5 p.m.", "午後5時". */
    private static boolean halfDays(String text) {
        for (int at = 1; at < text.length(); at++) {
            char m = text.charAt(at);
            if ((m == 'm' || m == 'M')
                    && "apAP".indexOf(text.charAt(at - 1)) >= 0
                    && (at < 2 || !Character.isLetter(text.charAt(at - 2)))
                    && (at + 1 == text.length() || !Character.isLetter(text.charAt(at + 1)))) {
                return true;
            }
        }
        return text.contains(".m.") || text.contains("午");
    }

    private static List<Number> in(String text, int traits, Form form) {
        if (!Traits.in(traits, Traits.DIGIT)) {
            return List.of();
        }
        List<Number> numbers = new ArrayList<>(4);
        BitSet closed = Closed.in(text, traits, form);
        int length = text.length();
        int at = 0;
        while (at < length) {
            if (!digit(text.charAt(at))) {
                at++;
                continue;
            }
            if (closed.get(at)) {
                at = closed.nextClearBit(at);
                continue;
            }
            int start = at;
            boolean ofName = joined(text, at);
            boolean bare = true;
            while (at < length && (digit(text.charAt(at)) || separated(text, at))) {
                char c = text.charAt(at);
                bare &= c >= '0' && c <= '9';
                at++;
            }
            numbers.add(new Number(
                    withoutZeros(bare ? text.substring(start, at) : digits(text, start, at)), ofName, start, at));
        }
        return numbers;
    }

    /** The digits among some characters, as those of ASCII. */
    private static String digits(String text, int start, int end) {
        StringBuilder digits = new StringBuilder(end - start);
        for (int at = start; at < end; at++) {
            if (digit(text.charAt(at))) {
                digits.append(Character.digit(text.charAt(at), 10));
            }
        }
        return digits.toString();
    }

    private static String withoutZeros(String digits) {
        int zeros = 0;
        while (zeros < digits.length() - 1 && digits.charAt(zeros) == '0') {
            zeros++;
        }
        return digits.substring(zeros);
    }

    /** Part of a name: "MP3", "C4D", "v2"; not of a size: "9x11". A name that is written apart in the other text meets it. */
    private static boolean joined(String text, int at) {
        if (at > 1 && text.charAt(at - 1) == 'x' && digit(text.charAt(at - 2))) {
            return false;
        }
        return at > 0
                && (Character.isLetter(text.charAt(at - 1)) && text.charAt(at - 1) < 0x250
                        || text.charAt(at - 1) == '_');
    }

    private static boolean separated(String text, int at) {
        char c = text.charAt(at);
        if (c >= '0' && c < 128) {
            return false;
        }
        if (GROUPING.indexOf(c) < 0 && !(c == ' ' && threeMore(text, at))) {
            return false;
        }
        return at + 1 < text.length() && digit(text.charAt(at + 1)) && !minutes(text, at);
    }

    /** Whether exactly two digits follow: hours and minutes, euros and cents, which are compared one by one. */
    private static boolean minutes(String text, int at) {
        return at + 2 < text.length()
                && digit(text.charAt(at + 2))
                && (at + 3 >= text.length() || !digit(text.charAt(at + 3)));
    }

    /** Whether a space stands before exactly three digits, and after one to three: a separator of thousands. */
    private static boolean threeMore(String text, int at) {
        int end = at + 1;
        while (end < text.length() && digit(text.charAt(end))) {
            end++;
        }
        return end - at - 1 == 3;
    }

    private static boolean digit(char c) {
        return c < 128 ? c >= '0' && c <= '9' : Character.isDigit(c);
    }
}
