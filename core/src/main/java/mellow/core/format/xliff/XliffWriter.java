package mellow.core.format.xliff;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.Limits;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.inline.InlineStandard;
import mellow.core.format.inline.InlineWriter;
import mellow.core.format.xml.XmlEntries;
import mellow.core.format.xml.XmlReader;
import mellow.core.format.xml.XmlText;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;

/** Writes a new XLIFF file. One use. */
final class XliffWriter {

    private static final Pattern LINE = Pattern.compile("(.+):([0-9]+)");

    private static final String SIZES = "urn:oasis:names:tc:xliff:sizerestriction:2.0";

    private static final Set<String> OWNERS = Set.of("file", "group", "unit", "trans-unit");

    private final EntryList entries;
    private final boolean second;
    /** Whether units are written into a file that may not know all namespaces. */
    private final boolean alone;

    private final int from;
    private final int to;
    private final Set<String> ids = new HashSet<>();
    private int unit;

    XliffWriter(EntryList entries, boolean second) {
        this.entries = entries;
        this.second = second;
        this.alone = false;
        this.from = entries.sourceLanguage().map(entries.languages()::indexOf).orElse(0);
        if (entries.languages().size() > 2) {
            throw new UnwritableTextException("An XLIFF file holds a source and one language, and there are "
                    + entries.languages().size() + "; choose one with its language.");
        }
        this.to = entries.languages().size() == 2 ? 1 - from : -1;
    }

    /** To write single units into a file that exists: keys stand where its sources are when those are keys, and no id is one of its own. */
    private XliffWriter(XliffReading file, EntryList none) {
        this.entries = none;
        this.second = file.second;
        this.alone = true;
        this.from = file.keyed() ? -1 : 0;
        this.to = file.keyed() ? 0 : none.languages().size() - 1 > 0 ? 1 : -1;
        XmlReader xml = new XmlReader(file.source(), Limits.DEFAULT.textBytes());
        for (XmlReader.Event event = xml.next(); event != XmlReader.Event.DONE; event = xml.next()) {
            if (event == XmlReader.Event.START && OWNERS.contains(xml.element().name())) {
                ids.add(xml.element().value("id"));
            }
        }
    }

    /** Only to write single units into a file that exists. */
    static XliffWriter into(XliffReading file) {
        List<LanguageTag> languages =
                file.languages().subList(0, Math.min(2, file.languages().size()));
        return new XliffWriter(file, EntryList.of(Optional.empty(), languages, List.of()));
    }

    /** An id that no other has. */
    private String numbered(String prefix) {
        do {
            unit++;
        } while (!ids.add(prefix + unit));
        return prefix + unit;
    }

    void writeTo(OutputStream out) throws IOException {
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        to.write("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
        to.write(second ? head2() : head12());
        String section = "";
        int groups = 0;
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            if (!entry.section().equals(section)) {
                to.write(section.isEmpty() ? "" : "      </group>\n");
                section = entry.section();
                groups++;
                to.write(section.isEmpty() ? "" : group(section, groups));
            }
            to.write(unit(entry, section.isEmpty() ? "      " : "        ", "\n"));
        }
        to.write(section.isEmpty() ? "" : "      </group>\n");
        to.write(second ? "  </file>\n</xliff>\n" : "    </body>\n  </file>\n</xliff>\n");
        to.flush();
    }

    private String group(String section, int number) {
        return second
                ? "      <group id=\"g" + number + "\" name=\"" + XmlText.escapeAttribute(section) + "\">\n"
                : "      <group resname=\"" + XmlText.escapeAttribute(section) + "\">\n";
    }

    private String head12() {
        return "<xliff version=\"1.2\" xmlns=\"urn:oasis:names:tc:xliff:document:1.2\">\n"
                + "  <file original=\"table\" datatype=\"plaintext\" source-language=\"" + language(from) + "\""
                + (to < 0 ? "" : " target-language=\"" + language(to) + "\"")
                + ">\n    <body>\n";
    }

    private String head2() {
        boolean limits = false;
        for (int i = 0; i < entries.size() && !limits; i++) {
            limits = entries.entry(i).maxLength() > 0;
        }
        return "<xliff version=\"2.0\" xmlns=\"urn:oasis:names:tc:xliff:document:2.0\" srcLang=\"" + language(from)
                + "\""
                + (to < 0 ? "" : " trgLang=\"" + language(to) + "\"")
                + (limits ? " xmlns:slr=\"" + SIZES + "\"" : "")
                + ">\n  <file id=\"f1\" xml:space=\"preserve\">\n"
                + (limits ? "    <slr:profiles generalProfile=\"xliff:codepoints\"/>\n" : "");
    }

    private LanguageTag language(int index) {
        return entries.languages().get(index);
    }

    /** An entry as lines that begin with {@code indent}. */
    String unit(FileEntry entry, String indent, String lineEnd) {
        FileText target = to < 0 ? FileText.NONE : entry.texts().get(to);
        FileText source = from < 0 ? FileText.plain(entry.key()) : entry.texts().get(from);
        XmlEntries.require(entry);
        StringBuilder lines = new StringBuilder();
        if (entry.shape() == Shape.PLAIN) {
            one(entry, entry.key(), source.main(), target.main(), target.state(), indent, lineEnd, lines);
            return lines.toString();
        }
        String kind = entry.shape().word();
        String key = XmlText.escapeAttribute(attribute(entry.key(), entry.key()));
        lines.append(indent)
                .append(
                        second
                                ? "<group id=\"" + numbered("f") + "\" name=\"" + key + "\" type=\"mellow:" + kind
                                        + "\""
                                : "<group resname=\"" + key + "\" restype=\"x-mellow-" + kind + "\"")
                .append(entry.translatable() ? "" : " translate=\"no\"")
                .append('>')
                .append(lineEnd);
        Set<String> forms = new TreeSet<>(source.forms().keySet());
        forms.addAll(target.forms().keySet());
        FileEntry described = entry;
        for (String form : forms) {
            Optional<FileState> state = target.form(form).isEmpty() ? Optional.empty() : target.state();
            one(described, form, source.form(form), target.form(form), state, indent + "  ", lineEnd, lines);
            // Notes belong to the entry, so its first form carries them.
            described = FileEntry.of(entry.key()).maxLength(entry.maxLength()).build();
        }
        return lines.append(indent).append("</group>").append(lineEnd).toString();
    }

    private void one(
            FileEntry entry,
            String name,
            String source,
            String target,
            Optional<FileState> state,
            String indent,
            String lineEnd,
            StringBuilder lines) {
        InlineWriter inline =
                new InlineWriter(second ? InlineStandard.XLIFF_2 : InlineStandard.XLIFF_1, List.of(source, target));
        String sourceMarkup = markup(entry.key(), source, inline);
        String targetMarkup = markup(entry.key(), target, inline);
        String id =
                id(entry.shape() == Shape.PLAIN && name.equals(entry.key()) ? name : entry.key() + "[" + name + "]");
        String resource = XmlText.escapeAttribute(attribute(entry.key(), name));
        String inner = indent + "  ";
        if (second) {
            lines.append(indent)
                    .append("<unit id=\"")
                    .append(numbered("u"))
                    .append("\" name=\"")
                    .append(resource)
                    .append('"');
            lines.append(entry.translatable() ? "" : " translate=\"no\"");
            if (entry.maxLength() > 0) {
                lines.append(alone ? " xmlns:slr=\"" + SIZES + "\"" : "")
                        .append(" slr:sizeRestriction=\"")
                        .append(entry.maxLength())
                        .append('"');
            }
            lines.append('>').append(lineEnd);
            notes2(entry, inner, lineEnd, lines);
            originalData(inline.data(), inner, lineEnd, lines);
            lines.append(inner).append("<segment");
            state.ifPresent(known -> {
                lines.append(" state=\"").append(States.word2(known)).append('"');
                String sub = States.subState(known);
                lines.append(sub.isEmpty() ? "" : " subState=\"" + sub + "\"");
            });
            lines.append('>').append(lineEnd);
            lines.append(inner)
                    .append("  <source>")
                    .append(sourceMarkup)
                    .append("</source>")
                    .append(lineEnd);
            if (!target.isEmpty()) {
                lines.append(inner)
                        .append("  <target>")
                        .append(targetMarkup)
                        .append("</target>")
                        .append(lineEnd);
            }
            lines.append(inner)
                    .append("</segment>")
                    .append(lineEnd)
                    .append(indent)
                    .append("</unit>")
                    .append(lineEnd);
            return;
        }
        lines.append(indent)
                .append("<trans-unit id=\"")
                .append(XmlText.escapeAttribute(id))
                .append("\" resname=\"");
        lines.append(resource).append('"');
        lines.append(state.filter(FileState.SETTLED::equals).isPresent() ? " approved=\"yes\"" : "");
        lines.append(entry.translatable() ? "" : " translate=\"no\"");
        lines.append(entry.maxLength() == 0 ? "" : " maxwidth=\"" + entry.maxLength() + "\" size-unit=\"char\"");
        lines.append(" xml:space=\"preserve\">").append(lineEnd);
        lines.append(inner)
                .append("<source>")
                .append(sourceMarkup)
                .append("</source>")
                .append(lineEnd);
        if (!target.isEmpty()) {
            lines.append(inner).append("<target");
            state.ifPresent(known ->
                    lines.append(" state=\"").append(States.word12(known)).append('"'));
            lines.append('>').append(targetMarkup).append("</target>").append(lineEnd);
        }
        notes12(entry, inner, lineEnd, lines);
        lines.append(indent).append("</trans-unit>").append(lineEnd);
    }

    private static void notes12(FileEntry entry, String indent, String lineEnd, StringBuilder lines) {
        for (String reference : entry.references()) {
            Matcher line = LINE.matcher(reference);
            boolean split = line.matches();
            lines.append(indent).append("<context-group purpose=\"location\"><context context-type=\"sourcefile\">");
            lines.append(XmlText.escape(split ? line.group(1) : reference)).append("</context>");
            lines.append(split ? "<context context-type=\"linenumber\">" + line.group(2) + "</context>" : "");
            lines.append("</context-group>").append(lineEnd);
        }
        if (!entry.context().isEmpty()) {
            lines.append(indent)
                    .append("<context-group><context context-type=\"")
                    .append(CONTEXT)
                    .append("\">");
            lines.append(XmlText.escape(entry.context()))
                    .append("</context></context-group>")
                    .append(lineEnd);
        }
        for (String note : entry.notes()) {
            lines.append(indent)
                    .append("<note>")
                    .append(XmlText.escape(note))
                    .append("</note>")
                    .append(lineEnd);
        }
    }

    /** The context type, and the note category of XLIFF 2, that carries what tells equal keys apart. */
    static final String CONTEXT = "x-mellow-context";

    private static void notes2(FileEntry entry, String indent, String lineEnd, StringBuilder lines) {
        if (entry.notes().isEmpty()
                && entry.references().isEmpty()
                && entry.context().isEmpty()) {
            return;
        }
        lines.append(indent).append("<notes>").append(lineEnd);
        for (String reference : entry.references()) {
            lines.append(indent)
                    .append("  <note category=\"location\">")
                    .append(XmlText.escape(reference))
                    .append("</note>");
            lines.append(lineEnd);
        }
        if (!entry.context().isEmpty()) {
            lines.append(indent).append("  <note category=\"").append(CONTEXT).append("\">");
            lines.append(XmlText.escape(entry.context())).append("</note>").append(lineEnd);
        }
        for (String note : entry.notes()) {
            lines.append(indent)
                    .append("  <note>")
                    .append(XmlText.escape(note))
                    .append("</note>")
                    .append(lineEnd);
        }
        lines.append(indent).append("</notes>").append(lineEnd);
    }

    private static void originalData(List<String> data, String indent, String lineEnd, StringBuilder lines) {
        if (!data.isEmpty()) {
            lines.append(indent).append("<originalData>").append(lineEnd);
            for (int i = 0; i < data.size(); i++) {
                lines.append(indent)
                        .append("  <data id=\"d")
                        .append(i + 1)
                        .append("\">")
                        .append(data.get(i))
                        .append("</data>")
                        .append(lineEnd);
            }
            lines.append(indent).append("</originalData>").append(lineEnd);
        }
    }

    private static String markup(String key, String text, InlineWriter inline) {
        try {
            return inline.markup(text);
        } catch (IllegalArgumentException unwritable) {
            throw new UnwritableTextException(
                    "The text of " + key + " has " + unwritable.getMessage() + "; change the text.");
        }
    }

    private static String attribute(String key, String value) {
        XmlText.unwritable(value).ifPresent(character -> {
            throw new UnwritableTextException(
                    "The key " + key + " has the character " + character + ", which XML cannot hold; rename it.");
        });
        return value;
    }

    private String id(String wanted) {
        String id = wanted;
        for (int i = 2; !ids.add(id); i++) {
            id = wanted + "#" + i;
        }
        return id;
    }
}
