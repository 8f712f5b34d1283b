package mellow.core.format.memory;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.format.Problems;
import mellow.core.format.Repeats;
import mellow.core.format.source.SourceText;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.language.LanguageTag;

/** Collects units of many languages, each of which may leave some out, and lines their texts up at the end. */
final class Units {

    private static final String XML = "http://www.w3.org/XML/1998/namespace";

    private final SourceText source;
    private final Set<LanguageTag> languages = new LinkedHashSet<>();
    private final List<FileEntry.Builder> entries = new ArrayList<>();
    private final List<Map<LanguageTag, String>> texts = new ArrayList<>();

    Units(SourceText source) {
        this.source = source;
    }

    int size() {
        return entries.size();
    }

    void add(FileEntry.Builder entry, Map<LanguageTag, String> inLanguages) {
        languages.addAll(inLanguages.keySet());
        entries.add(entry);
        texts.add(new LinkedHashMap<>(inLanguages));
    }

    /** The language of an element by xml:lang, or by lang as older files have it. */
    Optional<LanguageTag> language(Element element) {
        String value = element.attribute(XML, "lang")
                .or(() -> element.attribute("lang"))
                .map(found -> found.value())
                .orElse("");
        Optional<LanguageTag> tag = LanguageTag.parse(value);
        if (tag.isEmpty()) {
            source.warn(
                    element.start(),
                    value.isEmpty() ? "a text without a language" : "“" + value + "”, which is no language tag",
                    "left out");
        }
        return tag;
    }

    EntryList list(Optional<LanguageTag> from, Problems problems) {
        List<LanguageTag> ordered = new ArrayList<>();
        from.filter(languages::contains).ifPresent(ordered::add);
        languages.stream().filter(language -> !ordered.contains(language)).forEach(ordered::add);
        List<FileEntry> built = new ArrayList<>(entries.size());
        for (int i = 0; i < entries.size(); i++) {
            Map<LanguageTag, String> mine = texts.get(i);
            built.add(entries.get(i)
                    .texts(ordered.stream()
                            .map(language -> FileText.plain(mine.getOrDefault(language, "")))
                            .toList())
                    .build());
        }
        return EntryList.of(
                ordered.stream().findFirst().filter(first -> ordered.size() > 1),
                ordered,
                Repeats.lastOf(built, entry -> entry, problems));
    }
}
