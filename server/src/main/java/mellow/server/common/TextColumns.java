package mellow.server.common;

import java.util.Collections;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.text.Folding;
import mellow.core.text.Text;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * A text as the database keeps it.
 *
 * @param text its main form, null for no text
 * @param forms all forms as a JSON object, null for a plain text
 * @param folded the main form without accents, null when it has none
 */
public record TextColumns(@Nullable String text, @Nullable String forms, @Nullable String folded) {

    private static final JsonMapper JSON = JsonMapper.shared();
    private static final TypeReference<TreeMap<String, String>> FORMS = new TypeReference<>() {};

    /** How {@code text} is kept. */
    public static TextColumns of(Optional<Text> text) {
        return text.map(TextColumns::of).orElse(new TextColumns(null, null, null));
    }

    /** How {@code text} is kept. */
    public static TextColumns of(Text text) {
        return new TextColumns(text.main(), forms(text), foldedOrNull(text.main()));
    }

    /** All forms of a text that is not plain as JSON, null for a plain one. */
    public static @Nullable String forms(Text text) {
        return formsOrNull(text.forms());
    }

    /** {@code text} without accents, null when it has none. */
    public static @Nullable String foldedOrNull(String text) {
        String folded = Folding.fold(text);
        return folded.equals(text) ? null : folded;
    }

    /** The text of two columns. */
    public static Optional<Text> read(@Nullable String text, @Nullable String forms) {
        if (text == null) {
            return Optional.empty();
        }
        return Optional.of(forms == null ? Text.plain(text) : new Text(readForms(forms)));
    }

    /** All forms of the text of two columns, none for no text. */
    public static SortedMap<String, String> allForms(@Nullable String text, @Nullable String forms) {
        return read(text, forms).map(Text::forms).orElse(Collections.emptySortedMap());
    }

    /** Forms for a screen, null for a plain text. */
    public static @Nullable Map<String, String> shown(@Nullable String forms) {
        return forms == null ? null : readForms(forms);
    }

    /** All forms of a text that is not plain as JSON, null for a plain one and for none. */
    public static @Nullable String formsOrNull(SortedMap<String, String> forms) {
        boolean plain = forms.isEmpty() || (forms.size() == 1 && forms.containsKey(Text.OTHER));
        return plain ? null : JSON.writeValueAsString(forms);
    }

    /** The forms that a column holds. */
    public static SortedMap<String, String> forms(String forms) {
        return readForms(forms);
    }

    private static SortedMap<String, String> readForms(String forms) {
        return JSON.readValue(forms, FORMS);
    }
}
