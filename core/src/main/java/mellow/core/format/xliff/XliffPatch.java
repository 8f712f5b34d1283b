package mellow.core.format.xliff;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.format.FileEntry;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.Limits;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.source.OrderedPatch;
import mellow.core.format.source.SourceText;
import mellow.core.format.xliff.XliffReading.Item;
import mellow.core.format.xml.XmlNode.Attribute;
import mellow.core.format.xml.XmlNode.Characters;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlReader;
import mellow.core.format.xml.XmlText;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.jspecify.annotations.Nullable;

/** Writes an XLIFF file in place: texts and states of targets, rewritten sources, units removed and added. */
final class XliffPatch extends OrderedPatch {

    /** Where a tag begins that has no prefix. */
    private static final Pattern TAG = Pattern.compile("<(/?)(?=[A-Za-z])");

    private final XliffReading file;
    private final SourceText source;
    private @Nullable XliffWriter units;

    XliffPatch(XliffReading file) {
        super(file.source().splice());
        this.file = file;
        this.source = file.source();
    }

    @Override
    public void set(int entry, int language, FileText text) {
        Item item = file.item(entry);
        Element element = XmlReader.elementAt(source, item.unit());
        String key = item.entry().key();
        if (item.entry().shape() == Shape.PLAIN) {
            Element holder = file.second ? element.all("segment").get(item.segment()) : element;
            set(element, holder, language, text.main(), text.state(), key);
            return;
        }
        for (Element unit : element.elements()) {
            if (!unit.name().equals(file.second ? "unit" : "trans-unit")) {
                continue;
            }
            String form = unit.value(file.second ? "name" : "resname");
            Element holder = file.second ? unit.all("segment").get(0) : unit;
            set(unit, holder, language, text.form(form), text.state(), key);
        }
        text.forms().keySet().stream()
                .filter(form -> !item.form().contains(form))
                .findFirst()
                .ifPresent(form -> {
                    throw new UnwritableTextException("The file has no place for the form “" + form + "” of " + key
                            + "; export it fresh instead.");
                });
    }

    private void set(Element unit, Element holder, int language, String text, Optional<FileState> state, String key) {
        Element from = holder.first("source").orElseThrow();
        Optional<Element> target = holder.first("target");
        Map<String, String> data = Unit2.data(unit);
        Inline.Codes known = new Inline.Codes();
        known.add(source, from, data);
        target.ifPresent(element -> known.add(source, element, data));
        if (file.isSource(language)) {
            replaceContent(from, markup(text, known, key), "source", key);
            return;
        }
        Map<String, String> states = new LinkedHashMap<>();
        state.filter(given -> !text.isEmpty() || given == FileState.UNTRANSLATED)
                .ifPresent(given -> {
                    if (file.second) {
                        Map<String, String> attributes = new LinkedHashMap<>();
                        attributes.put("state", States.word2(given));
                        if (!States.subState(given).isEmpty()
                                || !holder.value("subState").isEmpty()) {
                            attributes.put("subState", States.subState(given));
                        }
                        retag(holder, attributes, key);
                    } else {
                        states.put("state", States.word12(given));
                        if (given == FileState.SETTLED || unit.value("approved").equals("yes")) {
                            retag(unit, Map.of("approved", given == FileState.SETTLED ? "yes" : "no"), key);
                        }
                    }
                });
        String markup = markup(text, known, key);
        if (target.isEmpty()) {
            if (!text.isEmpty()) {
                addTarget(holder, from, startTag("target", from.prefix(), states) + markup, key);
            }
        } else {
            if (!states.isEmpty() && !target.get().selfClosing()) {
                retag(target.get(), states, key);
            }
            if (!target.get().selfClosing()) {
                replaceContent(target.get(), markup, "target", key);
            } else if (!text.isEmpty()) {
                String tag = tagged(target.get(), states);
                splice.replace(
                        target.get().start(),
                        target.get().end(),
                        tag.substring(0, tag.length() - 2).stripTrailing() + ">" + markup
                                + endTag("target", from.prefix()),
                        key);
            }
        }
    }

    private String markup(String text, Inline.Codes known, String key) {
        try {
            return Inline.markup(text, known, file.second);
        } catch (IllegalArgumentException wrong) {
            throw new UnwritableTextException("The text of " + key + " has " + wrong.getMessage()
                    + "; mend it so that its inline codes come in pairs as in the source.");
        }
    }

    private void replaceContent(Element element, String markup, String name, String key) {
        if (element.selfClosing()) {
            String tag = tagged(element, Map.of());
            splice.replace(
                    element.start(),
                    element.end(),
                    tag.substring(0, tag.length() - 2).stripTrailing() + ">" + markup + endTag(name, element.prefix()),
                    key);
            return;
        }
        boolean cdata = element.children().size() == 1
                && element.children().get(0) instanceof Characters characters
                && characters.cdata();
        String by = markup;
        if (cdata && !markup.contains("]]&gt;") && !markup.contains("&#")) {
            by = "<![CDATA[" + markup.replace("&lt;", "<").replace("&gt;", ">").replace("&amp;", "&") + "]]>";
        }
        splice.replace(element.contentStart(), element.contentEnd(), by, key);
    }

    private void addTarget(Element holder, Element from, String opened, String key) {
        Element before = holder.first("seg-source").orElse(from);
        int lineStart = source.lineStart(before.start());
        String indent = source.text().substring(lineStart, before.start());
        String gap = indent.isBlank() ? source.lineEnd() + indent : "";
        splice.replace(before.end(), before.end(), gap + opened + endTag("target", from.prefix()), key);
    }

    private static String startTag(String name, String prefix, Map<String, String> attributes) {
        StringBuilder tag = new StringBuilder("<")
                .append(prefix.isEmpty() ? "" : prefix + ":")
                .append(name);
        attributes.forEach((attribute, value) ->
                tag.append(' ').append(attribute).append("=\"").append(value).append('"'));
        return tag.append('>').toString();
    }

    private static String endTag(String name, String prefix) {
        return "</" + (prefix.isEmpty() ? "" : prefix + ":") + name + ">";
    }

    /** Changes attributes of a start tag and nothing else in it; an empty value takes an attribute away. */
    private void retag(Element element, Map<String, String> attributes, String key) {
        String tag = tagged(element, attributes);
        if (!tag.contentEquals(source.text().subSequence(element.start(), element.contentStart()))) {
            splice.replace(element.start(), element.contentStart(), tag, key);
        }
    }

    private String tagged(Element element, Map<String, String> attributes) {
        StringBuilder tag = new StringBuilder(source.text().substring(element.start(), element.contentStart()));
        int nameEnd = 1
                + (element.prefix().isEmpty() ? 0 : element.prefix().length() + 1)
                + element.name().length();
        StringBuilder added = new StringBuilder();
        List<Attribute> present = element.attributes();
        // From the back, so that places before stay true.
        for (int i = present.size() - 1; i >= 0; i--) {
            Attribute attribute = present.get(i);
            String value = attributes.get(attribute.name());
            if (value == null || !attribute.namespace().isEmpty() || value.equals(attribute.value())) {
                continue;
            }
            int start = value.isEmpty() ? attribute.start() - 1 : attribute.valueStart();
            int end = value.isEmpty() ? attribute.valueEnd() + 1 : attribute.valueEnd();
            tag.replace(start - element.start(), end - element.start(), XmlText.escapeAttribute(value));
        }
        attributes.forEach((name, value) -> {
            if (!value.isEmpty() && element.attribute(name).isEmpty()) {
                added.append(' ').append(name).append("=\"").append(value).append('"');
            }
        });
        return tag.insert(nameEnd, added).toString();
    }

    @Override
    public void rename(LanguageTag language, String spelled) {
        XmlReader xml = new XmlReader(source, Limits.DEFAULT.textBytes());
        for (XmlReader.Event event = xml.next(); event != XmlReader.Event.DONE; event = xml.next()) {
            if (event != XmlReader.Event.START) {
                continue;
            }
            Element element = xml.element();
            if (element.name().equals(file.second ? "xliff" : "file")) {
                retag(element, Map.of(file.second ? "trgLang" : "target-language", language.value()), spelled);
            }
        }
    }

    @Override
    protected void takeOut(int entry) {
        Item item = file.item(entry);
        Element element = XmlReader.elementAt(source, item.unit());
        if (file.second
                && item.entry().shape() == Shape.PLAIN
                && element.all("segment").size() > 1) {
            element = element.all("segment").get(item.segment());
        }
        int start = source.lineStart(element.start());
        int end = source.lineAfter(element.end() - 1);
        boolean alone = source.text().substring(start, element.start()).isBlank()
                && source.text().substring(element.end(), end).isBlank();
        splice.remove(alone ? start : element.start(), alone ? end : element.end());
    }

    /** Made when the first entry is added: it reads the file once for the ids that are taken. */
    private XliffWriter units() {
        XliffWriter known = units;
        if (known == null) {
            known = XliffWriter.into(file);
            units = known;
        }
        return known;
    }

    @Override
    protected void putIn(int after, FileEntry added) {
        String lineEnd = source.lineEnd();
        if (after >= 0) {
            Element unit = XmlReader.elementAt(source, file.item(after).unit());
            String indent = source.text().substring(source.lineStart(unit.start()), unit.start());
            String lines = prefixed(units().unit(added, indent.isBlank() ? indent : "", lineEnd), unit.prefix());
            splice.replace(
                    unit.end(),
                    unit.end(),
                    lineEnd + lines.substring(0, lines.length() - lineEnd.length()),
                    added.key());
            return;
        }
        if (file.bodyEnd < 0) {
            throw new UnwritableTextException("The file has no place for the new entry " + added.key()
                    + ": it has no units and no open body; export it fresh instead.");
        }
        String closing = source.text().substring(file.bodyEnd + 2, source.text().indexOf('>', file.bodyEnd));
        String prefix = closing.contains(":") ? closing.substring(0, closing.indexOf(':')) : "";
        splice.replace(
                file.bodyEnd,
                file.bodyEnd,
                lineEnd + prefixed(units().unit(added, "      ", lineEnd), prefix),
                added.key());
    }

    /** The same elements as a file with a prefix for them writes them; every "<" that begins none is escaped. */
    private static String prefixed(String lines, String prefix) {
        return prefix.isEmpty() ? lines : TAG.matcher(lines).replaceAll("<$1" + Matcher.quoteReplacement(prefix) + ":");
    }

    @Override
    protected int size() {
        return file.size();
    }
}
