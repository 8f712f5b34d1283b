package mellow.core.check;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

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
        List<Number> asked = in(form.source(), form);
        List<Number> given = in(form.text(), form);
        if (sameDigits(asked, given)) {
            return;
        }
        Set<String> inSource = asked.stream().map(Number::digits).collect(Collectors.toSet());
        Set<String> inText = given.stream().map(Number::digits).collect(Collectors.toSet());
        // How often a number stands makes no difference: a range may repeat its unit.
        List<Number> missing = new ArrayList<>(asked.stream()
                .filter(one -> !one.ofName && !inText.contains(one.digits))
                .limit(MOST)
                .toList());
        List<Number> extra = new ArrayList<>(given.stream()
                .filter(one -> !one.ofName && !inSource.contains(one.digits))
                .limit(MOST)
                .toList());
        boolean halfDays = halfDays(form.source()) || halfDays(form.text());
        extra.removeIf(number -> meet(number, missing, halfDays));
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

    private static List<Number> in(String text, Form form) {
        List<Number> numbers = new ArrayList<>();
        BitSet closed = Closed.in(text, form);
        int at = 0;
        while (at < text.length()) {
            if (closed.get(at)) {
                at = closed.nextClearBit(at);
                continue;
            }
            if (!digit(text.charAt(at))) {
                at++;
                continue;
            }
            int start = at;
            boolean ofName = joined(text, at);
            StringBuilder digits = new StringBuilder();
            while (at < text.length() && (digit(text.charAt(at)) || separated(text, at))) {
                if (digit(text.charAt(at))) {
                    digits.append(Character.digit(text.charAt(at), 10));
                }
                at++;
            }
            int zeros = 0;
            while (zeros < digits.length() - 1 && digits.charAt(zeros) == '0') {
                zeros++;
            }
            numbers.add(new Number(digits.substring(zeros), ofName, start, at));
        }
        return numbers;
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
        return Character.isDigit(c);
    }
}
