package mellow.core.format.xliff;

import java.util.List;
import java.util.Optional;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.format.source.SourceText;
import mellow.core.format.xliff.XliffReading.Item;
import mellow.core.format.xml.XmlNode.Element;

/** A {@code trans-unit} of XLIFF 1.2 §2.3 as an entry. */
final class Unit12 {

    private Unit12() {}

    static Item entry(SourceText source, Element unit, String section, boolean translatable) {
        String id = unit.value("id");
        if (id.isEmpty()) {
            throw source.refuse(unit.start(), "a <trans-unit> without an id", "an id of its own");
        }
        Element from = unit.first("source")
                .orElseThrow(() -> source.refuse(
                        unit.start(), "the unit “" + id + "” without a <source>", "a <source> in every unit"));
        Optional<Element> to = unit.first("target");
        String target = to.map(element -> Inline.text(source, element)).orElse("");
        String name = unit.value("resname");
        FileEntry.Builder entry = FileEntry.of(name.isEmpty() ? id : name)
                .line(source.line(unit.start()))
                .section(section)
                .maxLength(limit(source, unit))
                .translatable(translatable)
                .texts(List.of(
                        FileText.plain(Inline.text(source, from)),
                        new FileText(
                                FileText.plain(target).forms(),
                                States.of12(
                                        to.map(element -> element.value("state"))
                                                .orElse(""),
                                        unit.value("approved"),
                                        target.isEmpty()))));
        unit.all("note").forEach(note -> entry.note(note.text()));
        unit.all("context-group").forEach(group -> reference(group, entry));
        return new Item(entry.build(), unit.start(), 0, List.of());
    }

    /** XLIFF 1.2 §2.3 {@code maxwidth}; its unit is pixels unless {@code size-unit} says otherwise. */
    private static int limit(SourceText source, Element unit) {
        String width = unit.value("maxwidth");
        if (width.isEmpty()) {
            return 0;
        }
        if (!unit.value("size-unit").equals("char")) {
            source.warn(
                    unit.start(),
                    "a maxwidth of " + width + " in "
                            + (unit.value("size-unit").isEmpty() ? "pixels" : unit.value("size-unit")),
                    "kept in the file, but no limit in characters");
            return 0;
        }
        return SizeLimit.number(source, unit.start(), width);
    }

    private static void reference(Element group, FileEntry.Builder entry) {
        String file = "";
        String line = "";
        for (Element context : group.all("context")) {
            if (context.value("context-type").equals("sourcefile")) {
                file = context.text().strip();
            } else if (context.value("context-type").equals("linenumber")) {
                line = context.text().strip();
            } else if (context.value("context-type").equals(XliffWriter.CONTEXT)) {
                entry.context(context.text());
            }
        }
        if (!file.isEmpty()) {
            entry.reference(line.isEmpty() ? file : file + ":" + line);
        }
    }
}
