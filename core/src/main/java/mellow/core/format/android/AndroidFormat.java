package mellow.core.format.android;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.EnumSet;
import java.util.Set;
import java.util.regex.Pattern;
import mellow.core.format.Aspect;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.PlainForms;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.Traits;
import mellow.core.format.xml.XmlEntries;
import mellow.core.format.xml.XmlRoot;
import mellow.core.format.xml.XmlText;
import mellow.core.text.Shape;

/** String resources. */
public final class AndroidFormat implements FileFormat {

    private static final Traits TRAITS =
            Traits.of("android", "xml", "application/xml").spellingItself();

    /** Declares the element that marks what is not translated within a text. */
    private static final String NAMESPACE = " xmlns:xliff=\"urn:oasis:names:tc:xliff:document:1.2\"";

    /** Variants of a product, such as tablet and watch; other contexts would make the platform leave the text out. */
    private static final Pattern PRODUCT = Pattern.compile("[a-z][a-z0-9_]*");

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public Set<Aspect> keeps() {
        return EnumSet.of(
                Aspect.NOTE,
                Aspect.NOT_FOR_TRANSLATION,
                Aspect.UNSETTLED_TEXT,
                Aspect.PLURAL_FORMS,
                Aspect.LINE_BREAKS,
                Aspect.CONTEXT);
    }

    @Override
    public int likelihood(Sample sample) {
        return XmlRoot.named(sample.text(), "resources") ? 95 : sample.named("strings.xml") ? 50 : 0;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        Problems problems = new Problems(file);
        return AndroidReading.of(XmlText.decode(bytes, options.charset(), options.limits(), problems), options);
    }

    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        int language = PlainForms.only(entries);
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        boolean marks = false;
        for (int i = 0; i < entries.size() && !marks; i++) {
            marks = entries.entry(i).texts().get(language).forms().values().stream()
                    .anyMatch(text -> text.contains(AndroidStrings.MARK));
        }
        to.write("<?xml version=\"1.0\" encoding=\"utf-8\"?>\n<resources" + (marks ? NAMESPACE : "") + ">\n");
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            if (!PRODUCT.matcher(entry.context()).matches()) {
                PlainForms.requireNoContext(entry, "String resources have");
            }
            if (!entry.texts().get(language).isEmpty()) {
                to.write(resource(entry, entry.texts().get(language), "    ", "\n"));
            }
        }
        to.write("</resources>\n");
        to.flush();
    }

    /** An entry as lines. */
    static String resource(FileEntry entry, FileText text, String indent, String lineEnd) {
        XmlEntries.require(entry);
        StringBuilder lines = new StringBuilder();
        for (String note : entry.notes()) {
            lines.append(indent)
                    .append("<!-- ")
                    .append(note.replace("--", "- -"))
                    .append(" -->")
                    .append(lineEnd);
        }
        String name = " name=\"" + XmlText.escapeAttribute(entry.key()) + "\""
                + (entry.context().isEmpty() ? "" : " product=\"" + entry.context() + "\"")
                + (entry.translatable() ? "" : " translatable=\"false\"");
        if (entry.shape() == Shape.PLAIN || entry.shape() == Shape.ASSET) {
            return lines.append(indent)
                    .append("<string")
                    .append(name)
                    .append('>')
                    .append(AndroidStrings.markup(text.main()))
                    .append("</string>")
                    .append(lineEnd)
                    .toString();
        }
        String tag = entry.shape() == Shape.PLURAL ? "plurals" : "string-array";
        lines.append(indent).append('<').append(tag).append(name).append('>').append(lineEnd);
        if (entry.shape() == Shape.PLURAL) {
            text.forms().forEach((form, words) -> lines.append(indent)
                    .append("    <item quantity=\"")
                    .append(form)
                    .append("\">")
                    .append(AndroidStrings.markup(words))
                    .append("</item>")
                    .append(lineEnd));
        } else {
            int last = text.forms().keySet().stream()
                    .mapToInt(Integer::parseInt)
                    .max()
                    .orElse(-1);
            for (int state = 0; state <= last; state++) {
                lines.append(indent)
                        .append("    <item>")
                        .append(AndroidStrings.markup(text.form(Integer.toString(state))))
                        .append("</item>")
                        .append(lineEnd);
            }
        }
        return lines.append(indent)
                .append("</")
                .append(tag)
                .append('>')
                .append(lineEnd)
                .toString();
    }
}
