package mellow.core.format.xliff;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import mellow.core.format.FileEntry;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.source.SourceText;
import mellow.core.format.xliff.XliffReading.Item;
import mellow.core.format.xml.XmlNode.Attribute;
import mellow.core.format.xml.XmlNode.Element;

/** A {@code unit} of XLIFF 2.1 §4.2.2.6: an entry, or one per segment when it has several. */
final class Unit2 {

    private Unit2() {}

    static List<Item> entries(SourceText source, Element unit, String section, boolean translatable) {
        String id = unit.value("id");
        if (id.isEmpty()) {
            throw source.refuse(unit.start(), "a <unit> without an id", "an id of its own");
        }
        List<Element> segments = unit.all("segment");
        if (segments.isEmpty()) {
            throw source.refuse(unit.start(), "the unit “" + id + "” without a <segment>", "at least one");
        }
        String name = unit.value("name");
        String key = name.isEmpty() ? id : name;
        List<Item> entries = new ArrayList<>(segments.size());
        for (int i = 0; i < segments.size(); i++) {
            Element segment = segments.get(i);
            String part = segment.value("id").isEmpty() ? Integer.toString(i + 1) : segment.value("id");
            entries.add(entry(
                    source, unit, segment, i, segments.size() == 1 ? key : key + "/" + part, section, translatable));
        }
        return entries;
    }

    private static Item entry(
            SourceText source,
            Element unit,
            Element segment,
            int index,
            String key,
            String section,
            boolean translatable) {
        Element from = segment.first("source")
                .orElseThrow(() -> source.refuse(
                        segment.start(),
                        "a segment of “" + key + "” without a <source>",
                        "a <source> in every segment"));
        Map<String, String> data = data(unit);
        String target = segment.first("target")
                .map(element -> Inline.text(source, element, data))
                .orElse("");
        FileEntry.Builder entry = FileEntry.of(key)
                .line(source.line(segment.start()))
                .section(section)
                .maxLength(limit(source, unit))
                .translatable(translatable)
                .texts(List.of(
                        FileText.plain(Inline.text(source, from, data)),
                        new FileText(FileText.plain(target).forms(), state(segment, target.isEmpty()))));
        unit.first("notes").ifPresent(notes -> notes.all("note").forEach(note -> {
            if (note.value("category").equals("location")) {
                entry.reference(note.text());
            } else if (note.value("category").equals(XliffWriter.CONTEXT)) {
                entry.context(note.text());
            } else {
                entry.note(note.text());
            }
        }));
        return new Item(entry.build(), unit.start(), index, List.of());
    }

    /** XLIFF 2.1 §4.2.2.9 {@code originalData}: what inline elements of the unit refer to, by id. */
    static Map<String, String> data(Element unit) {
        Map<String, String> data = new HashMap<>();
        unit.first("originalData")
                .ifPresent(original -> original.all("data").forEach(one -> data.put(one.value("id"), one.text())));
        return data;
    }

    private static Optional<FileState> state(Element segment, boolean empty) {
        if (!empty && segment.value("subState").equals(States.PENCILLED)) {
            return Optional.of(FileState.PENCILLED);
        }
        return States.of2(segment.value("state"), empty);
    }

    /** XLIFF 2.1 §5.9 {@code slr:sizeRestriction}: "20" or "5,20". */
    private static int limit(SourceText source, Element unit) {
        Optional<Attribute> restriction = unit.attributes().stream()
                .filter(attribute -> attribute.name().equals("sizeRestriction"))
                .findFirst();
        return restriction
                .map(found -> SizeLimit.number(
                        source,
                        found.start(),
                        found.value().substring(found.value().indexOf(',') + 1)))
                .orElse(0);
    }
}
