package mellow.core.format.android;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.TreeMap;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileText;
import mellow.core.format.ReadOptions;
import mellow.core.format.Repeats;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.TextReading;
import mellow.core.format.xml.XmlNode.Attribute;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlNode.Remark;
import mellow.core.format.xml.XmlReader;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.jspecify.annotations.Nullable;

/** A file of string resources as it was read. */
final class AndroidReading extends TextReading<AndroidReading.Item> {

    final int end;

    /**
     * An entry with its place.
     *
     * @param start where its comment begins, or its element
     * @param element where its element begins
     */
    record Item(FileEntry entry, int start, int element) {}

    private AndroidReading(
            SourceText source, LanguageTag language, Optional<LanguageTag> from, List<Item> items, int end) {
        super(source, List.of(language), from, items, Item::entry);
        this.end = end;
    }

    static AndroidReading of(SourceText source, ReadOptions options) {
        XmlReader xml = new XmlReader(source, options.limits().textBytes());
        XmlReader.Event event = xml.next();
        while (event == XmlReader.Event.REMARK) {
            event = xml.next();
        }
        if (!xml.element().name().equals("resources")) {
            throw source.refuse(
                    xml.element().start(), "the document is <" + xml.element().name() + ">", "<resources>");
        }
        List<Item> items = new ArrayList<>();
        String note = "";
        int noteStart = -1;
        int end = -1;
        for (event = xml.next(); event != XmlReader.Event.DONE; event = xml.next()) {
            if (event == XmlReader.Event.START) {
                Element element = xml.readElement();
                Shape shape = shape(element);
                if (shape != null) {
                    source.checkCount(items.size() + 1, element.start(), options.limits());
                    items.add(new Item(
                            entry(source, element, shape, note),
                            noteStart < 0 ? element.start() : noteStart,
                            element.start()));
                }
                note = "";
                noteStart = -1;
            } else if (event == XmlReader.Event.REMARK && xml.node() instanceof Remark remark && remark.comment()) {
                note = note.isEmpty()
                        ? remark.text().strip()
                        : note + "\n" + remark.text().strip();
                noteStart = noteStart < 0 ? remark.start() : noteStart;
            } else if (event == XmlReader.Event.END) {
                end = xml.hasEndTag() ? xml.endTagStart() : -1;
            }
        }
        LanguageTag language = options.languageOf(source.problems().file(), Optional.empty());
        return new AndroidReading(
                source,
                language,
                options.source().filter(language::equals),
                Repeats.lastOf(whole(source, items, Item::entry), Item::entry, source.problems()),
                end);
    }

    private static @Nullable Shape shape(Element element) {
        return switch (element.name()) {
            case "string" -> Shape.PLAIN;
            case "plurals" -> Shape.PLURAL;
            case "string-array" -> Shape.STATES;
            // <item type="string"> is the long spelling of <string>; other resources are no texts.
            case "item" -> element.value("type").equals("string") ? Shape.PLAIN : null;
            default -> null;
        };
    }

    private static FileEntry entry(SourceText source, Element element, Shape shape, String note) {
        String name = element.value("name");
        if (name.isEmpty()) {
            throw source.refuse(element.start(), "a <" + element.name() + "> without a name", "a name of its own");
        }
        FileText text;
        if (shape == Shape.PLAIN) {
            text = FileText.plain(AndroidStrings.text(source, element));
        } else {
            TreeMap<String, String> forms = new TreeMap<>();
            int number = 0;
            for (Element item : element.all("item")) {
                String form = shape == Shape.PLURAL ? item.value("quantity") : Integer.toString(number++);
                if (shape == Shape.PLURAL && !form.matches("zero|one|two|few|many|other")) {
                    throw source.refuse(
                            item.start(),
                            "the quantity “" + form + "” of “" + name + "”",
                            "zero, one, two, few, many or other");
                }
                forms.put(form, AndroidStrings.text(source, item));
            }
            text = FileText.of(forms);
        }
        FileEntry.Builder entry = FileEntry.of(name)
                .line(source.line(element.start()))
                .context(element.value("product"))
                .shape(shape)
                .note(note)
                .translatable(!element.value("translatable").equals("false"))
                .texts(List.of(text));
        comment(element).ifPresent(entry::note);
        return entry.build();
    }

    /** An attribute of the tools' namespace or of none; either is seen. */
    private static Optional<String> comment(Element element) {
        return element.attributes().stream()
                .filter(attribute ->
                        attribute.name().equals("comment") || attribute.name().equals("description"))
                .map(Attribute::value)
                .findFirst();
    }

    @Override
    public boolean has(Field field) {
        return field == Field.NOTE || field == Field.CONTEXT;
    }

    @Override
    public FilePatch patch() {
        return new AndroidPatch(this);
    }
}
