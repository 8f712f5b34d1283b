package mellow.core.check;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import mellow.core.placeholder.DatePattern;
import mellow.core.placeholder.Placeholder;
import mellow.core.placeholder.Placeholder.Kind;
import mellow.core.placeholder.Placeholders;
import mellow.core.text.Shape;

/**
 * Placeholders that a text lost, has too many, or spells so that the program would not know them. Where they stand makes no difference as long as the syntax
 * names or numbers them; how often they stand does, except in ICU messages, where every branch may repeat them. Each plural form is looked at by itself: only
 * one whose category means a single number may say that number in words.
 */
final class PlaceholderCheck implements Check {

    private static final Set<String> NUMBERS =
            Set.of("n", "count", "number", "num", "amount", "total", "quantity", "size");

    /** A text that lost more is another text, and each is looked for through all of it. */
    private static final int MOST_LOOKED_FOR = 10;

    @Override
    public void lookAt(Form form, Found found) {
        Placeholders syntax = form.ground().settings().placeholders();
        String source = form.source();
        String text = form.text();
        if (source.equals(text)
                || form.broken()
                || form.measure().sourceless()
                || (!form.anywhere(Traits.PLACEHOLDER) && !syntax.custom())) {
            return;
        }
        if (form.pattern() || DatePattern.inWords(source)) {
            if (!DatePattern.sound(source, text)) {
                found.add(
                        "pattern-broken", form.name(), "The source is a pattern of a date or time, and this is none.");
            }
            return;
        }
        List<Placeholder> asked = syntax.inValues(source);
        List<Placeholder> given = meant(syntax.inValues(text), asked);
        if (spelledAlike(asked, given)) {
            aloneWherePrintf(form, asked, given, found);
            return;
        }
        boolean branches = form.message() != null;
        Difference difference = compare(asked, given, branches);
        if (mayDropNumber(form)) {
            dropNumber(difference, asked);
        }
        boolean same = difference.missing().isEmpty() && difference.extra().isEmpty();
        tell(form, asked, given, difference, found);
        if (same) {
            aloneWherePrintf(form, asked, given, found);
        }
    }

    /** Whether both have the same in the same order, as most do. */
    private static boolean spelledAlike(List<Placeholder> asked, List<Placeholder> given) {
        if (asked.size() != given.size()) {
            return false;
        }
        for (int i = 0; i < asked.size(); i++) {
            Placeholder one = asked.get(i);
            Placeholder other = given.get(i);
            if (!one.identity().equals(other.identity()) || !one.spelled().equals(other.spelled())) {
                return false;
            }
        }
        return true;
    }

    private static void aloneWherePrintf(Form form, List<Placeholder> asked, List<Placeholder> given, Found found) {
        if (form.anywhere(Traits.PERCENT)
                && (asked.stream().anyMatch(one -> one.kind() == Kind.PRINTF)
                        || form.source().contains("%%"))) {
            lonePercent(form, given, found);
        }
    }

    private record Difference(List<Placeholder> missing, List<Placeholder> extra) {}

    /** "%50" is a placeholder where the source has such, and fifty per cent in Turkish elsewhere. */
    static List<Placeholder> meant(List<Placeholder> given, List<Placeholder> asked) {
        return numbered(asked) || !numbered(given)
                ? given
                : given.stream().filter(one -> one.kind() != Kind.NUMBERED).toList();
    }

    private static boolean numbered(List<Placeholder> placeholders) {
        for (Placeholder one : placeholders) {
            if (one.kind() == Kind.NUMBERED) {
                return true;
            }
        }
        return false;
    }

    private static Difference compare(List<Placeholder> asked, List<Placeholder> given, boolean branches) {
        Map<String, Deque<Integer>> wanted = new HashMap<>();
        for (int i = 0; i < asked.size(); i++) {
            wanted.computeIfAbsent(asked.get(i).identity(), identity -> new ArrayDeque<>())
                    .add(i);
        }
        BitSet missing = new BitSet();
        missing.set(0, asked.size());
        List<Placeholder> extra = new ArrayList<>();
        for (Placeholder one : given) {
            Deque<Integer> same = wanted.get(one.identity());
            if (same == null || (same.isEmpty() && !branches)) {
                extra.add(one);
            } else if (branches) {
                same.forEach(missing::clear);
                same.clear();
            } else {
                missing.clear(same.remove());
            }
        }
        List<Placeholder> lost = new ArrayList<>();
        missing.stream().forEach(place -> lost.add(asked.get(place)));
        return new Difference(lost, extra);
    }

    private static boolean mayDropNumber(Form form) {
        return form.measure().shape() == Shape.PLURAL
                && form.ground().facts().exact().contains(form.name());
    }

    /** Takes the one placeholder that is the plural's number from what is missing: the only one, or the one that is named or typed as a number. */
    private static void dropNumber(Difference difference, List<Placeholder> asked) {
        List<Placeholder> missing = difference.missing();
        List<Placeholder> numbers =
                missing.stream().filter(PlaceholderCheck::numeric).toList();
        if (numbers.size() == 1) {
            missing.remove(numbers.get(0));
        } else if (asked.size() == 1) {
            missing.clear();
        }
    }

    private static boolean numeric(Placeholder one) {
        return switch (one.kind()) {
            case PRINTF, NAMED_PRINTF ->
                "diufFeEgGxXo".indexOf(one.spelled().charAt(one.spelled().length() - 1)) >= 0;
            default ->
                NUMBERS.contains(
                        one.identity().replaceAll("[^\\p{L}\\p{N}_]", "").toLowerCase(Locale.ROOT));
        };
    }

    private static void tell(
            Form form, List<Placeholder> asked, List<Placeholder> given, Difference difference, Found found) {
        String text = form.text();
        List<Placeholder> missing = new ArrayList<>(difference.missing());
        List<Placeholder> extra = new ArrayList<>(difference.extra());
        spaced(form, asked, given, found);
        // One that is almost there is malformed, and neither missing nor too many.
        for (Placeholder lost : missing.stream().limit(MOST_LOOKED_FOR).toList()) {
            int[] place = NearMiss.of(lost, text, given);
            if (place != null) {
                missing.remove(lost);
                int from = place[0];
                int to = place[1];
                extra.removeIf(one -> one.start() < to && one.end() > from);
                found.add(
                        "placeholder-malformed",
                        form.name(),
                        "“{said}” would be shown as it stands; it must be {placeholder}.",
                        Map.of("said", text.substring(from, to), "placeholder", lost.spelled()),
                        from,
                        to,
                        Mend.replacing("Make it " + lost.spelled(), text, from, to, lost.spelled()));
            }
        }
        if (reordered(missing, extra)) {
            String order = missing.stream()
                    .map(one -> one.identity().substring(0, one.identity().indexOf('$') + 1)
                            + one.spelled().substring(1))
                    .collect(Collectors.joining(", "));
            found.add(
                    "placeholder-order",
                    form.name(),
                    "{placeholder} would take another value than in the source; number them: {order}.",
                    Map.of("placeholder", extra.get(0).spelled(), "order", order),
                    extra.get(0).start(),
                    extra.get(0).end());
            return;
        }
        if (missing.size() == 1 && extra.size() == 1 && alike(missing.get(0), extra.get(0))) {
            Placeholder lost = missing.get(0);
            Placeholder odd = extra.get(0);
            found.add(
                    "placeholder-changed",
                    form.name(),
                    "{placeholder} is {source} in the source, and must stay as it is.",
                    Map.of("placeholder", odd.spelled(), "source", lost.spelled()),
                    odd.start(),
                    odd.end(),
                    Mend.replacing("Make it " + lost.spelled(), text, odd.start(), odd.end(), lost.spelled()));
            return;
        }
        missing.stream()
                .map(Placeholder::spelled)
                .distinct()
                .forEach(spelled -> found.add(
                        "placeholder-missing",
                        form.name(),
                        "The placeholder {placeholder} is missing.",
                        Map.of("placeholder", spelled)));
        extra.forEach(one -> found.add(
                "placeholder-extra",
                form.name(),
                "{placeholder} is not in the source.",
                Map.of("placeholder", one.spelled()),
                one.start(),
                one.end()));
    }

    /** Whether the same printf placeholders stand in another order, which without numbers is another order of values. */
    private static boolean reordered(List<Placeholder> missing, List<Placeholder> extra) {
        return !missing.isEmpty()
                && missing.stream()
                        .allMatch(one ->
                                one.kind() == Kind.PRINTF && one.spelled().indexOf('$') < 0)
                && spelled(missing).equals(spelled(extra));
    }

    private static List<String> spelled(List<Placeholder> placeholders) {
        return placeholders.stream().map(Placeholder::spelled).sorted().toList();
    }

    /** Whether one can have come out of the other by a slip: the same syntax. */
    private static boolean alike(Placeholder one, Placeholder other) {
        return one.kind() == other.kind() && one.kind() != Kind.ICU_ARGUMENT;
    }

    /** Braces with spaces inside, where the source has none: many programs look for the name alone. */
    private static void spaced(Form form, List<Placeholder> asked, List<Placeholder> given, Found found) {
        if (form.message() != null) {
            return;
        }
        for (Placeholder one : given) {
            if (one.kind() != Kind.BRACES || one.spelled().chars().noneMatch(Character::isWhitespace)) {
                continue;
            }
            asked.stream()
                    .filter(other -> other.identity().equals(one.identity()))
                    .findFirst()
                    .filter(other -> other.spelled().chars().noneMatch(Character::isWhitespace))
                    .ifPresent(other -> found.add(
                            "placeholder-malformed",
                            form.name(),
                            "“{said}” has a space in it and would be shown as it stands.",
                            Map.of("said", one.spelled()),
                            one.start(),
                            one.end(),
                            Mend.replacing(
                                    "Make it " + other.spelled(),
                                    form.text(),
                                    one.start(),
                                    one.end(),
                                    other.spelled())));
        }
    }

    /** A single per cent sign in a text that printf reads, where the source has only double ones. */
    private static void lonePercent(Form form, List<Placeholder> given, Found found) {
        if (lone(form.source(), List.of()) < 0) {
            int at = lone(form.text(), given);
            if (at >= 0) {
                found.add(
                        "percent-alone",
                        form.name(),
                        "The program reads “%” as the beginning of a placeholder; write “%%” for a per cent sign.",
                        Map.of(),
                        at,
                        at + 1,
                        Mend.replacing("Make it %%", form.text(), at, at + 1, "%%"));
            }
        }
    }

    private static int lone(String text, List<Placeholder> placeholders) {
        int at = text.indexOf('%');
        while (at >= 0) {
            int here = at;
            if (at + 1 < text.length() && text.charAt(at + 1) == '%') {
                at++;
            } else if (at + 1 >= text.length()
                    || !Character.isLetterOrDigit(text.charAt(at + 1))
                            && "-+#0'*.$(@{<".indexOf(text.charAt(at + 1)) < 0) {
                if (placeholders.stream().noneMatch(one -> one.start() <= here && here < one.end())) {
                    return at;
                }
            }
            at = text.indexOf('%', at + 1);
        }
        return -1;
    }
}
