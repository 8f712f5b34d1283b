package mellow.core.merge;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.StandardRules;
import mellow.core.format.registry.Formats;
import mellow.core.language.LanguageTag;

/** Files for tests, written and read in a real format from lines of "key | source | German"; "~" before a text marks it unsure. */
final class MergeFiles {

    static final LanguageTag ENGLISH = new LanguageTag("en");
    static final LanguageTag GERMAN = new LanguageTag("de");

    private MergeFiles() {}

    static FileReading file(String format, List<String> lines) {
        List<FileEntry> entries = new ArrayList<>();
        for (String line : lines) {
            String[] parts = line.split("\\|", -1);
            String german = parts[2].strip();
            FileText text = german.startsWith("~")
                    ? FileText.plain(german.substring(1)).in(FileState.PENCILLED)
                    : german.isEmpty() ? FileText.NONE : FileText.plain(german).in(FileState.SETTLED);
            entries.add(FileEntry.of(parts[0].strip())
                    .texts(List.of(FileText.plain(parts[1].strip()), text))
                    .build());
        }
        return file(format, entries);
    }

    static FileReading file(String format, Iterable<FileEntry> entries) {
        List<FileEntry> all = new ArrayList<>();
        entries.forEach(all::add);
        FileFormat known = Formats.named(format).orElseThrow();
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try {
            known.write(EntryList.of(Optional.of(ENGLISH), List.of(ENGLISH, GERMAN), all), out);
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        StandardRules.check(format, out.toByteArray());
        return known.read(
                "texts", out.toByteArray(), ReadOptions.AUTOMATIC.from(ENGLISH).in(GERMAN));
    }
}
