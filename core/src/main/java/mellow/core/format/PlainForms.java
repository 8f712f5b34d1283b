package mellow.core.format;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import mellow.core.text.Shape;

/** Entries for formats that hold plain texts only: each form of any other entry becomes an entry of its own, {@code key[form]}. */
public final class PlainForms {

    private PlainForms() {}

    /** The same with plain entries only. */
    public static EntryList of(EntryList entries) {
        boolean plain = true;
        for (int i = 0; i < entries.size() && plain; i++) {
            plain = oneText(entries.entry(i));
        }
        if (plain) {
            return entries;
        }
        List<FileEntry> all = new ArrayList<>(entries.size());
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            if (oneText(entry)) {
                all.add(entry);
                continue;
            }
            Set<String> forms = new TreeSet<>();
            entry.texts().forEach(text -> forms.addAll(text.forms().keySet()));
            for (String form : forms) {
                all.add(entry.copy()
                        .key(entry.key() + "[" + form + "]")
                        .shape(Shape.PLAIN)
                        .texts(entry.texts().stream()
                                .map(text -> new FileText(
                                        FileText.plain(text.form(form)).forms(), text.state()))
                                .toList())
                        .build());
            }
        }
        return EntryList.of(entries.sourceLanguage(), entries.languages(), all);
    }

    /** A plain text, or the name of a file; other shapes need a row for each of their forms. */
    private static boolean oneText(FileEntry entry) {
        return entry.shape() == Shape.PLAIN || entry.shape() == Shape.ASSET;
    }

    /**
     * Refuses an entry with a context in a format without a place for it.
     *
     * @param format the format as the beginning of a sentence, with its verb, such as "JSON has"
     */
    public static void requireNoContext(FileEntry entry, String format) {
        if (!entry.context().isEmpty()) {
            throw new UnwritableTextException(format + " no place for the context of " + entry.key()
                    + "; give the entry a key of its own or choose another format.");
        }
    }

    /**
     * Index of the one language that a format with one language in a file writes: the translation when there is one beside the source.
     *
     * @throws UnwritableTextException when there are more
     */
    public static int only(EntryList entries) {
        int count = entries.languages().size();
        if (count > 2 || (count == 2 && entries.sourceLanguage().isEmpty())) {
            throw new UnwritableTextException(
                    "This format holds one language in a file, and there are " + count + "; choose one.");
        }
        return count == 1
                ? 0
                : 1 - entries.languages().indexOf(entries.sourceLanguage().orElseThrow());
    }
}
