package mellow.core.format;

import java.util.Collections;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.text.Text;

/**
 * An entry's text in one language as a file gives it.
 *
 * @param forms the forms by name as in {@link Text}, without empty ones; empty when the file has no text
 * @param state what the file says about it, absent for formats and texts without a state
 * @param older whether the file says that it was made for an older source than the one beside it
 */
public record FileText(SortedMap<String, String> forms, Optional<FileState> state, boolean older) {

    /** No text and no word about it. */
    public static final FileText NONE = new FileText(Collections.emptySortedMap(), Optional.empty(), false);

    public FileText {
        if (forms.containsValue("")) {
            SortedMap<String, String> full = new TreeMap<>(forms);
            full.values().removeIf(String::isEmpty);
            forms = full;
        }
        forms = Collections.unmodifiableSortedMap(forms);
    }

    /** A text for the source beside it. */
    public FileText(SortedMap<String, String> forms, Optional<FileState> state) {
        this(forms, state, false);
    }

    /** A plain text without a state; empty for none. */
    public static FileText plain(String text) {
        return text.isEmpty() ? NONE : new FileText(new TreeMap<>(Map.of(Text.OTHER, text)), Optional.empty());
    }

    /** Forms without a state. */
    public static FileText of(Map<String, String> forms) {
        return new FileText(new TreeMap<>(forms), Optional.empty());
    }

    /** The same forms in a state. */
    public FileText in(FileState known) {
        return new FileText(forms, Optional.of(known), older);
    }

    /** The same, made for an older source. */
    public FileText forOlder() {
        return new FileText(forms, state, true);
    }

    /** Whether there is no text. */
    public boolean isEmpty() {
        return forms.isEmpty();
    }

    /** Whether both say the same, whatever their states. */
    public boolean says(FileText other) {
        return forms.equals(other.forms);
    }

    /** The form {@value Text#OTHER}, or the last there is; empty for no text. */
    public String main() {
        String other = forms.get(Text.OTHER);
        return other != null ? other : forms.isEmpty() ? "" : Objects.requireNonNull(forms.get(forms.lastKey()));
    }

    /** The form of that name, empty for none. */
    public String form(String name) {
        return forms.getOrDefault(name, "");
    }
}
