package mellow.server.master;

import java.lang.ref.SoftReference;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Supplier;
import mellow.core.format.EntryId;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.server.file.FileStore;
import org.springframework.stereotype.Component;

/**
 * Reads stored files, each once for every way to read it: one after another it is looked at, compared and taken in, and is the base of the next comparison.
 * What was read last is remembered as long as there is memory to spare; stored files never change. Needs a transaction around it.
 */
@Component
public class Readings {

    /** More than the files of most sets; each is let go when memory is wanted. */
    private static final int REMEMBERED = 64;

    private final FileStore files;
    private final Map<Asked, SoftReference<FileRead>> recent = new LinkedHashMap<>(2 * REMEMBERED, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<Asked, SoftReference<FileRead>> eldest) {
            return size() > REMEMBERED;
        }
    };

    Readings(FileStore files) {
        this.files = files;
    }

    /** Everything that what is read depends on; which of the table's entries have forms is put to it afterwards. */
    private record Asked(long file, String path, ReadingChoice how, LanguageTag source, boolean member) {}

    /**
     * A stored file.
     *
     * @param how how it is read
     * @param source the source language of the table it goes into
     * @param formed the table's entries that have forms
     * @throws mellow.core.format.UnreadableFileException when it cannot be read
     */
    public FileRead of(String path, long file, ReadingChoice how, LanguageTag source, Map<EntryId, Shape> formed) {
        return of(path, file, () -> files.load(file), how, source, formed);
    }

    /** The same of a file whose content is at hand. */
    public FileRead of(
            String path,
            long file,
            Supplier<byte[]> content,
            ReadingChoice how,
            LanguageTag source,
            Map<EntryId, Shape> formed) {
        return remembered(
                        new Asked(file, path, how, source, false), () -> FileRead.of(path, content.get(), how, source))
                .formed(formed);
    }

    /** The same of a file in a set, in which a language that has no texts yet is one. */
    public FileRead ofMember(
            String path, long file, ReadingChoice how, LanguageTag source, Map<EntryId, Shape> formed) {
        return remembered(
                        new Asked(file, path, how, source, true),
                        () -> FileRead.ofMember(path, files.load(file), how, source, Map.of()))
                .formed(formed);
    }

    private FileRead remembered(Asked asked, Supplier<FileRead> anew) {
        synchronized (recent) {
            SoftReference<FileRead> before = recent.get(asked);
            FileRead read = before == null ? null : before.get();
            if (read != null) {
                files.requireKept(asked.file);
                return read;
            }
        }
        // Outside: two who ask at once read twice, and nobody waits for another's file.
        FileRead read = anew.get();
        synchronized (recent) {
            recent.put(asked, new SoftReference<>(read));
        }
        return read;
    }
}
