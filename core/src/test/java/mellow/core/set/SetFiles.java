package mellow.core.set;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.FreshOnly;
import mellow.core.language.LanguageTag;

/** Builds files of sets for tests, from a line as {@code sets.cases} has them. */
final class SetFiles {

    private SetFiles() {}

    static FileFacts facts(String line) {
        List<String> words = new ArrayList<>(Arrays.asList(line.split(" ")));
        String path = words.remove(0);
        String format = words.remove(0);
        if (words.contains("broken")) {
            return FileFacts.unreadable(path, format);
        }
        List<LanguageTag> languages = new ArrayList<>();
        Optional<LanguageTag> from = Optional.empty();
        List<String> keys = new ArrayList<>();
        for (String word : words) {
            if (word.startsWith("lang=")) {
                Arrays.stream(word.substring(5).split(","))
                        .map(LanguageTag::new)
                        .forEach(languages::add);
            } else if (word.startsWith("from=")) {
                from = Optional.of(new LanguageTag(word.substring(5)));
            } else if (word.contains("..")) {
                for (char c = word.charAt(0); c <= word.charAt(3); c++) {
                    keys.add(c + "=" + path + c);
                }
            } else {
                keys.add(word);
            }
        }
        Prints prints = Prints.of(reading("und", keys.toArray(String[]::new)), 0);
        return new FileFacts(path, format, languages, from, from.isPresent(), prints, true);
    }

    /** A file of one language: "key=text", or "key" without a text. */
    static FileReading reading(String language, String... texts) {
        List<FileEntry> entries = new ArrayList<>();
        for (String one : texts) {
            int split = one.indexOf('=');
            String key = split < 0 ? one : one.substring(0, split);
            entries.add(FileEntry.of(key)
                    .line(entries.size() + 1)
                    .plain(List.of(split < 0 ? "" : one.substring(split + 1)))
                    .build());
        }
        return of(Optional.empty(), List.of(language), entries);
    }

    /** A catalogue: "key|source|text". */
    static FileReading bilingual(String from, String to, String... messages) {
        List<FileEntry> entries = new ArrayList<>();
        for (String one : messages) {
            String[] parts = one.split("\\|", -1);
            entries.add(FileEntry.of(parts[0])
                    .line(entries.size() + 1)
                    .texts(List.of(FileText.plain(parts[1]), FileText.plain(parts[2])))
                    .build());
        }
        return of(Optional.of(new LanguageTag(from)), List.of(from, to), entries);
    }

    static FileReading of(Optional<LanguageTag> source, List<String> languages, List<FileEntry> entries) {
        return new FreshOnly(
                EntryList.of(
                        source,
                        languages.stream()
                                .map(tag -> tag.equals("und") ? LanguageTag.UNDETERMINED : new LanguageTag(tag))
                                .toList(),
                        entries),
                List.of(),
                "UTF-8",
                Set.of(FileReading.Field.values()),
                "test");
    }
}
