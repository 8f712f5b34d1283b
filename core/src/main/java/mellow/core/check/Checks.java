package mellow.core.check;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.SortedMap;
import mellow.core.placeholder.IcuMessage;
import mellow.core.placeholder.Placeholders;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/** Looks at a text beside its source: placeholders, length, lines, outer spaces, plural forms, ICU syntax. Finds nothing in assets. */
public final class Checks {

    /** So many placeholders too many tell enough about one text. */
    private static final int MOST_TOLD = 50;

    private Checks() {}

    /**
     * What a text is measured by.
     *
     * @param shape the entry's shape
     * @param source its source by form
     * @param maxLength longest allowed form in characters (code points), 0 for no limit
     * @param maxLines most lines of a form, 0 for no limit
     */
    public record Measure(Shape shape, SortedMap<String, String> source, int maxLength, int maxLines) {}

    /**
     * Everything found in a text, in the order of its forms.
     *
     * @param text the text by form, without empty forms
     * @param categories the plural categories of its language
     */
    public static List<Finding> of(Measure measure, SortedMap<String, String> text, Collection<String> categories) {
        if (measure.shape == Shape.ASSET || text.isEmpty()) {
            return List.of();
        }
        List<Finding> found = new ArrayList<>();
        forms(measure, text, categories, found);
        for (Map.Entry<String, String> form : text.entrySet()) {
            String source = sourceOf(measure.shape, measure.source, form.getKey());
            blockers(measure, form.getKey(), form.getValue(), found);
            otherLines(measure, source, form.getKey(), form.getValue(), found);
            outerSpaces(source, form.getKey(), form.getValue(), found);
        }
        return List.copyOf(found);
    }

    /** What stands against settling a text: the blockers of {@link #of}, found without looking for anything else. */
    public static List<Finding> blockers(Measure measure, SortedMap<String, String> text) {
        if (measure.shape == Shape.ASSET) {
            return List.of();
        }
        List<Finding> found = new ArrayList<>(0);
        text.forEach((form, words) -> blockers(measure, form, words, found));
        return found;
    }

    private static void blockers(Measure measure, String form, String text, List<Finding> found) {
        String source = sourceOf(measure.shape, measure.source, form);
        // In a message that cannot be read, everything would seem to be missing; without a source, everything too much.
        boolean unknown = measure.source.values().stream().allMatch(String::isEmpty);
        if (!broken(source, form, text, found) && !unknown) {
            placeholders(measure.shape, source, form, text, found);
        }
        length(measure, form, text, found);
        tooManyLines(measure, form, text, found);
    }

    private static String sourceOf(Shape shape, SortedMap<String, String> source, String form) {
        if (shape == Shape.STATES) {
            return source.getOrDefault(form, "");
        }
        String other = source.get(Text.OTHER);
        return other != null ? other : source.isEmpty() ? "" : Objects.requireNonNull(source.get(source.lastKey()));
    }

    private static void forms(
            Measure measure, SortedMap<String, String> text, Collection<String> categories, List<Finding> found) {
        if (measure.shape == Shape.PLURAL) {
            List<String> missing = categories.stream()
                    .filter(category -> !text.containsKey(category))
                    .toList();
            if (!missing.isEmpty()) {
                found.add(Finding.warning(
                        "form-missing", Text.OTHER, "Without a text: " + String.join(", ", missing) + "."));
            }
        } else if (measure.shape == Shape.STATES) {
            List<String> missing = measure.source.keySet().stream()
                    .filter(state -> !text.containsKey(state))
                    .toList();
            if (!missing.isEmpty()) {
                found.add(Finding.warning(
                        "form-missing", missing.get(0), "Without a text: state " + String.join(", ", missing) + "."));
            }
        }
    }

    /** In other than the main form a number may be said in words: "one", "both". */
    private static void placeholders(Shape shape, String source, String form, String text, List<Finding> found) {
        if (source.equals(text)) {
            return;
        }
        Placeholders.Difference difference = Placeholders.COMMON.compare(source, text);
        boolean main = shape != Shape.PLURAL || form.equals(Text.OTHER);
        if (main && !difference.missing().isEmpty()) {
            found.add(Finding.blocker(
                    "placeholder-missing", form, "Missing: " + String.join(", ", difference.missing()) + "."));
        }
        if (difference.extra().isEmpty()) {
            return;
        }
        Map<String, Integer> last = new HashMap<>();
        Placeholders.COMMON.in(text).forEach(one -> last.put(one.spelled(), one.start()));
        difference.extra().stream().limit(MOST_TOLD).forEach(extra -> {
            int at = last.getOrDefault(extra, -1);
            found.add(Finding.blocker("placeholder-extra", form, extra + " is not in the source.")
                    .at(at, at < 0 ? -1 : at + extra.length()));
        });
    }

    private static boolean broken(String source, String form, String text, List<Finding> found) {
        if (!IcuMessage.parse(source).typed()) {
            return false;
        }
        IcuMessage message = IcuMessage.parse(text);
        if (message.error() != null) {
            int at = Math.min(message.errorAt(), text.length());
            found.add(Finding.blocker(
                            "message-broken",
                            form,
                            "The message cannot be read at character " + (text.codePointCount(0, at) + 1) + ": "
                                    + message.error() + ".")
                    .at(at, Math.min(text.length(), at + 1)));
        }
        return message.error() != null;
    }

    private static void length(Measure measure, String form, String text, List<Finding> found) {
        int length = text.codePointCount(0, text.length());
        if (measure.maxLength > 0 && length > measure.maxLength) {
            found.add(Finding.blocker(
                            "too-long", form, length + " characters, and " + measure.maxLength + " are allowed.")
                    .at(text.offsetByCodePoints(0, measure.maxLength), text.length()));
        }
    }

    private static boolean tooManyLines(Measure measure, String text) {
        return measure.maxLines > 0 && linesOf(text) > measure.maxLines;
    }

    private static void tooManyLines(Measure measure, String form, String text, List<Finding> found) {
        if (tooManyLines(measure, text)) {
            found.add(Finding.blocker(
                    "too-many-lines",
                    form,
                    linesOf(text) + " lines, and " + measure.maxLines + (measure.maxLines == 1 ? " is" : " are")
                            + " allowed."));
        }
    }

    private static void otherLines(Measure measure, String source, String form, String text, List<Finding> found) {
        int lines = linesOf(text);
        if (lines != linesOf(source) && !source.isEmpty() && !tooManyLines(measure, text)) {
            found.add(Finding.warning(
                    "other-lines",
                    form,
                    "The source has " + linesOf(source) + (linesOf(source) == 1 ? " line" : " lines") + ", this text "
                            + lines + "."));
        }
    }

    private static int linesOf(String text) {
        return 1 + (int) text.chars().filter(c -> c == '\n').count();
    }

    private static void outerSpaces(String source, String form, String text, List<Finding> found) {
        int start = leading(text);
        int end = trailing(text);
        if (!text.substring(0, start).equals(source.substring(0, leading(source)))) {
            found.add(Finding.warning("outer-space", form, spaces("begins", start > 0))
                    .at(0, start));
        }
        if (start < text.length() && !text.substring(end).equals(source.substring(trailing(source)))) {
            found.add(Finding.warning("outer-space", form, spaces("ends", end < text.length()))
                    .at(end, text.length()));
        }
    }

    private static String spaces(String where, boolean has) {
        return "The text " + where + (has ? " with" : " without") + " a space, other than the source.";
    }

    private static int leading(String text) {
        int at = 0;
        while (at < text.length() && space(text.charAt(at))) {
            at++;
        }
        return at;
    }

    private static int trailing(String text) {
        int at = text.length();
        while (at > 0 && space(text.charAt(at - 1))) {
            at--;
        }
        return at;
    }

    private static boolean space(char c) {
        return Character.isWhitespace(c) || Character.isSpaceChar(c);
    }
}
