package mellow.core.format.android;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.android.AndroidReading.Item;
import mellow.core.format.source.OrderedPatch;
import mellow.core.format.source.SourceText;
import mellow.core.format.xml.XmlNode.Characters;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.text.Shape;

/** Writes string resources in place. */
final class AndroidPatch extends OrderedPatch {

    private final AndroidReading file;
    private final SourceText source;

    AndroidPatch(AndroidReading file) {
        super(file.source().splice());
        this.file = file;
        this.source = file.source();
    }

    /** Refuses a text with marks that the file has no namespace for: it could not be read any more. */
    private void requireDeclared(FileText text, String key) {
        boolean marked = text.forms().values().stream().anyMatch(form -> form.contains(AndroidStrings.MARK));
        if (marked && !source.text().contains("xmlns:xliff")) {
            throw new UnwritableTextException(
                    "The text of " + key
                            + " has <xliff:…>, whose namespace the file does not declare; declare it in <resources>, or export it fresh.");
        }
    }

    @Override
    public void set(int entry, int language, FileText text) {
        requireDeclared(text, file.item(entry).entry().key());
        Item item = file.item(entry);
        Element element = XmlReader.elementAt(source, item.element());
        String key = item.entry().key();
        FileText before = item.entry().texts().get(0);
        if (item.entry().shape() == Shape.PLAIN) {
            if (!text.main().equals(before.main())) {
                content(element, text.main(), before.main(), key);
            }
            return;
        }
        Set<String> missing = new LinkedHashSet<>(text.forms().keySet());
        List<Element> items = element.all("item");
        for (int i = 0; i < items.size(); i++) {
            String form = item.entry().shape() == Shape.PLURAL ? items.get(i).value("quantity") : Integer.toString(i);
            missing.remove(form);
            if (item.entry().shape() == Shape.PLURAL
                    && !text.isEmpty()
                    && text.form(form).isEmpty()) {
                // A form that the language has no use for goes with its line.
                splice.remove(
                        source.lineStart(items.get(i).start()),
                        source.lineAfter(items.get(i).end() - 1));
            } else if (!text.form(form).equals(before.form(form))) {
                content(items.get(i), text.form(form), before.form(form), key);
            }
        }
        if (!missing.isEmpty() && !items.isEmpty()) {
            Element last = items.get(items.size() - 1);
            String indent = source.text().substring(source.lineStart(last.start()), last.start());
            StringBuilder added = new StringBuilder();
            for (String form : missing) {
                added.append(indent.isBlank() ? source.lineEnd() + indent : "")
                        .append(item.entry().shape() == Shape.PLURAL ? "<item quantity=\"" + form + "\">" : "<item>")
                        .append(AndroidStrings.markup(text.form(form)))
                        .append("</item>");
            }
            splice.replace(last.end(), last.end(), added.toString(), key);
        }
    }

    /**
     * A text that was one CDATA section stays one: tags in it are words, and only backslashes are escaped. Where tags were words before, spelled
     * {@code &lt;b>}, they stay words.
     */
    private void content(Element element, String text, String before, String key) {
        String markup = element.elements().isEmpty() && AndroidStrings.hasTags(before)
                ? AndroidStrings.withoutTags(text)
                : AndroidStrings.markup(text);
        boolean cdata = element.children().size() == 1
                && element.children().get(0) instanceof Characters characters
                && characters.cdata();
        if (cdata && !text.contains("]]>")) {
            markup = "<![CDATA[" + AndroidStrings.words(text) + "]]>";
        }
        if (element.selfClosing()) {
            String tag =
                    source.text().substring(element.start(), element.end() - 2).stripTrailing();
            splice.replace(element.start(), element.end(), tag + ">" + markup + "</" + element.name() + ">", key);
        } else {
            splice.replace(element.contentStart(), element.contentEnd(), markup, key);
        }
    }

    @Override
    protected void takeOut(int entry) {
        Item item = file.item(entry);
        Element element = XmlReader.elementAt(source, item.element());
        int start = source.lineStart(item.start());
        int end = source.lineAfter(element.end() - 1);
        boolean alone = source.text().substring(start, item.start()).isBlank()
                && source.text().substring(element.end(), end).isBlank();
        splice.remove(alone ? start : item.start(), alone ? end : element.end());
    }

    @Override
    protected void putIn(int after, FileEntry added) {
        requireDeclared(added.texts().get(0), added.key());
        String lineEnd = source.lineEnd();
        if (after < 0 && file.end < 0) {
            throw new UnwritableTextException("The file has no place for the new entry " + added.key()
                    + ": its <resources/> is closed; export it fresh instead.");
        }
        if (after < 0) {
            splice.replace(
                    file.end,
                    file.end,
                    AndroidFormat.resource(added, added.texts().get(0), "    ", lineEnd),
                    added.key());
            return;
        }
        Element element = XmlReader.elementAt(source, file.item(after).element());
        String indent = source.text().substring(source.lineStart(element.start()), element.start());
        String lines = AndroidFormat.resource(added, added.texts().get(0), indent.isBlank() ? indent : "    ", lineEnd);
        splice.replace(
                element.end(),
                element.end(),
                lineEnd + lines.substring(0, lines.length() - lineEnd.length()),
                added.key());
    }

    @Override
    protected int size() {
        return file.size();
    }
}
