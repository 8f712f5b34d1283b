package mellow.core.text;

import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;

/** What kind of thing an entry says, and so which forms its texts have. */
public enum Shape {
    /** One text. */
    PLAIN,
    /** A text per CLDR plural category of each language. */
    PLURAL,
    /** Numbered texts from 0 on: what a lamp or a switch says in each of its states. */
    STATES,
    /** A file per language: its name as the form {@value Text#OTHER}, its number as the form {@value #FILE}. */
    ASSET;

    /** The form of an asset that names the stored file. */
    public static final String FILE = "file";

    /** Most states that an entry can have. */
    public static final int MOST_STATES = 64;

    /** The name in the database, in files and in the HTTP interface. */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    /** The shape of that name. */
    public static Optional<Shape> of(String word) {
        return List.of(values()).stream()
                .filter(shape -> shape.word().equals(word))
                .findFirst();
    }

    /**
     * Says what keeps {@code forms} from being a text of this shape.
     *
     * @param categories the plural categories of the text's language
     * @return a sentence, or empty when the forms fit; forms without text may be left out
     */
    public Optional<String> misfit(SortedMap<String, String> forms, Collection<String> categories) {
        if (forms.values().stream().allMatch(String::isEmpty)) {
            return Optional.of("There is no text to keep; clear the cell instead.");
        }
        return forms.keySet().stream()
                .filter(form -> !allows(form, categories))
                .findFirst()
                .map(form -> switch (this) {
                    case PLAIN -> "A plain text has the one form “other”, and “" + form + "” is not it.";
                    case PLURAL ->
                        "“" + form + "” is no plural form of this language; it has " + String.join(", ", categories)
                                + ".";
                    case STATES -> "States are numbered from 0 to " + (MOST_STATES - 1) + "; “" + form + "” is none.";
                    case ASSET -> "An asset has a name and a file, and “" + form + "” is neither.";
                });
    }

    private boolean allows(String form, Collection<String> categories) {
        return switch (this) {
            case PLAIN -> form.equals(Text.OTHER);
            case PLURAL -> categories.contains(form) || form.equals(Text.OTHER);
            case STATES -> form.matches("0|[1-9][0-9]?") && Integer.parseInt(form) < MOST_STATES;
            case ASSET -> form.equals(Text.OTHER) || form.equals(FILE);
        };
    }

    /** A text of these forms without the empty ones. */
    public static Text text(SortedMap<String, String> forms) {
        SortedMap<String, String> full = new TreeMap<>(forms);
        full.values().removeIf(String::isEmpty);
        return new Text(full);
    }
}
