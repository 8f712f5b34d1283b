package mellow.core.format;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import mellow.core.language.LanguageTag;

/**
 * A file in which nothing stands, or comments alone: a language with no texts yet, whatever its format asks of a file with texts.
 *
 * @param languages its language as somebody said or as its name tells
 * @param bytes what stands in it
 */
public record EmptyReading(List<LanguageTag> languages, byte[] bytes) implements FileReading {

    /** No comment fills more. */
    private static final int LARGEST = 100_000;

    /** The reading of a file without texts; empty for any other. */
    public static Optional<FileReading> of(String file, String format, byte[] bytes, ReadOptions options) {
        if (bytes.length > LARGEST || !blank(format, new String(bytes, StandardCharsets.UTF_8))) {
            return Optional.empty();
        }
        LanguageTag language = options.languageOf(file, Optional.empty());
        return Optional.of(new EmptyReading(List.of(language), bytes));
    }

    private static boolean blank(String format, String text) {
        String comments =
                switch (format) {
                    case "yaml" -> "#-";
                    case "properties" -> "#!";
                    case "po" -> "#";
                    default -> "";
                };
        String bare = text.startsWith("\uFEFF") ? text.substring(1) : text;
        return bare.lines()
                .map(String::strip)
                .allMatch(line -> line.isEmpty()
                        || line.equals("---") && comments.contains("-")
                        || comments.indexOf(line.charAt(0)) >= 0 && line.charAt(0) != '-');
    }

    @Override
    public Optional<LanguageTag> sourceLanguage() {
        return Optional.empty();
    }

    @Override
    public int size() {
        return 0;
    }

    @Override
    public FileEntry entry(int index) {
        throw new IndexOutOfBoundsException(index);
    }

    @Override
    public EntryId id(int index) {
        throw new IndexOutOfBoundsException(index);
    }

    @Override
    public boolean has(Field field) {
        return false;
    }

    @Override
    public List<Problem> problems() {
        return List.of();
    }

    @Override
    public String charset() {
        return StandardCharsets.UTF_8.name();
    }

    /** The same bytes again; an entry has no place in them. */
    @Override
    public FilePatch patch() {
        return new Untouched(bytes);
    }

    private record Untouched(byte[] bytes) implements FilePatch {

        @Override
        public void set(int entry, int language, FileText text) {
            throw new IndexOutOfBoundsException(entry);
        }

        @Override
        public void remove(int entry) {
            throw new IndexOutOfBoundsException(entry);
        }

        @Override
        public void insert(int after, FileEntry added) {
            throw new UnwritableTextException("The file is empty, and nothing in it tells how " + added.key()
                    + " would be written; send it out as a set or fresh.");
        }

        @Override
        public void writeTo(OutputStream out) throws IOException {
            out.write(bytes);
        }
    }
}
