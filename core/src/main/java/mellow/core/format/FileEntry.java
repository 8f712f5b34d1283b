package mellow.core.format;

import java.util.ArrayList;
import java.util.List;
import mellow.core.text.Shape;

/**
 * An entry as a file gives it.
 *
 * @param line where it begins, 1-based, 0 when it comes from no file
 * @param key its key, exactly as written
 * @param context tells equal keys apart, empty for none
 * @param shape what kind of text it holds
 * @param notes for translators, in file order
 * @param references where it is used, in file order
 * @param section its section, empty for none
 * @param maxLength longest allowed text in characters, 0 for no limit
 * @param translatable whether it is to be translated at all
 * @param former the source that it had before it was rewritten, as the file says; empty for none
 * @param flags what else the file says of it in one word each, such as PO's {@code c-format}
 * @param texts one per language of the file, in the file's order
 */
public record FileEntry(
        int line,
        String key,
        String context,
        Shape shape,
        List<String> notes,
        List<String> references,
        String section,
        int maxLength,
        boolean translatable,
        String former,
        List<String> flags,
        List<FileText> texts) {

    public FileEntry {
        notes = List.copyOf(notes);
        references = List.copyOf(references);
        flags = List.copyOf(flags);
        texts = List.copyOf(texts);
    }

    /** What tells this entry from every other in its table. */
    public EntryId id() {
        return new EntryId(key, context);
    }

    /** All notes as one text, a line break between two. */
    public String note() {
        return String.join("\n", notes);
    }

    /** All references as one text, a space between two. */
    public String reference() {
        return String.join(" ", references);
    }

    /** The main form in the language at {@code index}, empty for none. */
    public String text(int index) {
        return texts.get(index).main();
    }

    /** The same with other texts. */
    public FileEntry with(List<FileText> others) {
        return copy().texts(others).build();
    }

    /** The same told apart by something else. */
    public FileEntry in(String other) {
        return copy().context(other).build();
    }

    /** A builder that has everything this has. */
    public Builder copy() {
        return of(key).line(line)
                .context(context)
                .shape(shape)
                .notes(notes)
                .references(references)
                .section(section)
                .maxLength(maxLength)
                .translatable(translatable)
                .former(former)
                .flags(flags)
                .texts(texts);
    }

    /** An entry of that key with nothing else. */
    public static Builder of(String key) {
        return new Builder(key);
    }

    /** Puts an entry together; everything not given is empty. */
    public static final class Builder {

        private String key;
        private int line;
        private String context = "";
        private Shape shape = Shape.PLAIN;
        private final List<String> notes = new ArrayList<>();
        private final List<String> references = new ArrayList<>();
        private String section = "";
        private int maxLength;
        private boolean translatable = true;
        private String former = "";
        private List<String> flags = List.of();
        private List<FileText> texts = List.of();

        private Builder(String key) {
            this.key = key;
        }

        public Builder key(String given) {
            key = given;
            return this;
        }

        public Builder line(int given) {
            line = given;
            return this;
        }

        public Builder context(String given) {
            context = given;
            return this;
        }

        public Builder shape(Shape given) {
            shape = given;
            return this;
        }

        /** Adds a note; an empty one is none. */
        public Builder note(String given) {
            if (!given.isEmpty()) {
                notes.add(given);
            }
            return this;
        }

        /** These notes and no others. */
        public Builder notes(List<String> given) {
            notes.clear();
            notes.addAll(given);
            return this;
        }

        /** Adds a reference; an empty one is none. */
        public Builder reference(String given) {
            if (!given.isEmpty()) {
                references.add(given);
            }
            return this;
        }

        /** These references and no others. */
        public Builder references(List<String> given) {
            references.clear();
            references.addAll(given);
            return this;
        }

        public Builder section(String given) {
            section = given;
            return this;
        }

        public Builder maxLength(int given) {
            maxLength = given;
            return this;
        }

        public Builder translatable(boolean given) {
            translatable = given;
            return this;
        }

        public Builder former(String given) {
            former = given;
            return this;
        }

        public Builder flags(List<String> given) {
            flags = given;
            return this;
        }

        public Builder texts(List<FileText> given) {
            texts = given;
            return this;
        }

        /** Plain texts, one per language; empty for none. */
        public Builder plain(List<String> given) {
            texts = given.stream().map(FileText::plain).toList();
            return this;
        }

        public FileEntry build() {
            return new FileEntry(
                    line,
                    key,
                    context,
                    shape,
                    notes,
                    references,
                    section,
                    maxLength,
                    translatable,
                    former,
                    flags,
                    texts);
        }
    }
}
