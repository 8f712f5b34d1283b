package mellow.core.format.properties;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.Repeats;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.TextReading;
import mellow.core.language.LanguageTag;

/** A file of properties as it was read. */
final class PropertiesReading extends TextReading<PropertiesReading.Item> {

    /**
     * An entry with its places.
     *
     * @param start where its comments begin, or its line
     * @param valueStart where its text begins
     * @param valueEnd after its text, before the line end
     * @param separated whether something separates key and text
     */
    record Item(FileEntry entry, int start, int valueStart, int valueEnd, boolean separated) {}

    private PropertiesReading(SourceText source, LanguageTag language, Optional<LanguageTag> from, List<Item> items) {
        super(source, List.of(language), from, items, Item::entry);
    }

    static PropertiesReading of(SourceText source, ReadOptions options) {
        List<Item> items = scan(source, options);
        if (items.isEmpty()) {
            source.warn(0, "there are no texts in the file", "read as a file that has none yet");
        }
        LanguageTag language = options.languageOf(source.problems().file(), Optional.empty());
        return new PropertiesReading(
                source,
                language,
                options.source().filter(language::equals),
                Repeats.lastOf(whole(source, items, Item::entry), Item::entry, source.problems()));
    }

    private static List<Item> scan(SourceText source, ReadOptions options) {
        String text = source.text();
        List<Item> items = new ArrayList<>();
        List<String> comments = new ArrayList<>();
        int commentStart = -1;
        for (int at = 0; at < text.length(); ) {
            int lineStart = at;
            while (at < text.length() && PropertiesStrings.isSpace(text.charAt(at))) {
                at++;
            }
            if (at == text.length()) {
                break;
            }
            char first = text.charAt(at);
            if (first == '\n' || first == '\r') {
                // A blank line ends what is said about the next key.
                comments.clear();
                commentStart = -1;
                at++;
            } else if (first == '#' || first == '!') {
                int end = naturalEnd(text, at);
                if (comments.isEmpty()) {
                    commentStart = lineStart;
                }
                comments.add(text.substring(at + 1, end).strip());
                at = afterEnd(text, end);
            } else {
                source.checkCount(items.size() + 1, at, options.limits());
                items.add(item(source, at, commentStart < 0 ? lineStart : commentStart, comments, options));
                comments.clear();
                commentStart = -1;
                at = afterEnd(text, items.get(items.size() - 1).valueEnd);
            }
        }
        return items;
    }

    private static Item item(SourceText source, int keyStart, int start, List<String> comments, ReadOptions options) {
        String text = source.text();
        int end = logicalEnd(text, keyStart);
        source.checkLength(keyStart, end, options.limits());
        int keyEnd = keyStart;
        while (keyEnd < end) {
            char c = text.charAt(keyEnd);
            if (c == '\\') {
                keyEnd += 2;
                continue;
            }
            if (c == '=' || c == ':' || PropertiesStrings.isSpace(c)) {
                break;
            }
            keyEnd++;
        }
        keyEnd = Math.min(keyEnd, end);
        int value = skipSpace(text, keyEnd, end);
        if (value < end && (text.charAt(value) == '=' || text.charAt(value) == ':')) {
            value = skipSpace(text, value + 1, end);
        }
        try {
            FileEntry.Builder entry = FileEntry.of(PropertiesStrings.unescape(text, keyStart, keyEnd))
                    .line(source.line(keyStart))
                    .note(String.join("\n", comments).strip())
                    .texts(List.of(FileText.plain(PropertiesStrings.unescape(text, value, end))));
            return new Item(entry.build(), start, value, end, value > keyEnd);
        } catch (IllegalArgumentException broken) {
            int place = Math.max(keyStart, text.indexOf(broken.getMessage(), keyStart));
            throw source.refuse(
                    place,
                    "“" + broken.getMessage() + "”, which is no escape",
                    "\\u and four digits, or “\\\\” for a backslash");
        }
    }

    /** White space and continued lines between key and text. */
    private static int skipSpace(String text, int from, int end) {
        int i = from;
        while (i < end) {
            char c = text.charAt(i);
            if (PropertiesStrings.isSpace(c)) {
                i++;
            } else if (c == '\\' && i + 1 < end && (text.charAt(i + 1) == '\n' || text.charAt(i + 1) == '\r')) {
                i = afterEnd(text, i + 1);
            } else {
                break;
            }
        }
        return Math.min(i, end);
    }

    private static int naturalEnd(String text, int from) {
        int i = from;
        while (i < text.length() && text.charAt(i) != '\n' && text.charAt(i) != '\r') {
            i++;
        }
        return i;
    }

    /** The end of a line and of those that continue it: each of them ends with an odd number of backslashes. */
    private static int logicalEnd(String text, int from) {
        int end = naturalEnd(text, from);
        while (end < text.length() && continued(text, from, end)) {
            int next = afterEnd(text, end);
            end = naturalEnd(text, next);
        }
        return end;
    }

    private static boolean continued(String text, int from, int end) {
        int i = end - 1;
        while (i >= from && text.charAt(i) == '\\') {
            i--;
        }
        return (end - 1 - i) % 2 == 1;
    }

    private static int afterEnd(String text, int end) {
        if (end >= text.length()) {
            return text.length();
        }
        return text.charAt(end) == '\r' && end + 1 < text.length() && text.charAt(end + 1) == '\n' ? end + 2 : end + 1;
    }

    @Override
    public boolean has(Field field) {
        return field == Field.NOTE;
    }

    @Override
    public FilePatch patch() {
        return new PropertiesPatch(this);
    }
}
