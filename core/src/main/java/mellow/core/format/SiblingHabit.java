package mellow.core.format;

import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/** What siblings are whose keys differ only in an ending such as {@code _one} and {@code _other}, or {@code _plural}: nothing in a file says it. */
public enum SiblingHabit {
    /** The forms of one text. */
    FORMS,
    /** Texts of their own. */
    LABELS;

    /** The name in the HTTP interface and in options. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The habit of that name. */
    public static Optional<SiblingHabit> named(String word) {
        return Stream.of(values()).filter(habit -> habit.word().equals(word)).findFirst();
    }
}
