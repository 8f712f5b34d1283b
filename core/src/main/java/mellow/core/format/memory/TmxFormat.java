package mellow.core.format.memory;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mellow.core.format.Aspect;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.PlainForms;
import mellow.core.format.ReadOptions;
import mellow.core.format.Traits;
import mellow.core.format.Traits.Languages;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.inline.InlineStandard;
import mellow.core.format.inline.InlineWriter;
import mellow.core.format.source.SourceText;
import mellow.core.format.xliff.Inline;
import mellow.core.format.xml.XmlEntries;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlRoot;
import mellow.core.format.xml.XmlText;
import mellow.core.language.LanguageTag;

/** TMX 1.4b: a translation unit is an entry, its tuid the key; a unit without one has its source as the key. */
public final class TmxFormat implements FileFormat {

    private static final Traits TRAITS = Traits.of("tmx", "tmx", "application/xml")
            .in(Languages.MANY)
            .onlyFresh()
            .spellingItself();

    static final String KEY = "x-key";
    static final String CONTEXT = "x-context";

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public Set<Aspect> keeps() {
        return EnumSet.of(
                Aspect.CONTEXT,
                Aspect.NOTE,
                Aspect.UNSETTLED_TEXT,
                Aspect.PLURAL_FORMS,
                Aspect.LINE_BREAKS,
                Aspect.UNTRANSLATED);
    }

    @Override
    public int likelihood(Sample sample) {
        return XmlRoot.named(sample.text(), "tmx") ? 100 : sample.named(".tmx") ? 50 : 0;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        return new Reader().read(file, bytes, options);
    }

    /** Knows the elements of TMX. */
    static final class Reader extends UnitReader {

        Reader() {
            super(List.of("tmx"), Set.of("tu"), "A TMX file");
        }

        @Override
        Optional<LanguageTag> stated(Element element) {
            return element.name().equals("header") ? LanguageTag.parse(element.value("srclang")) : Optional.empty();
        }

        @Override
        void unit(Element unit, SourceText source, Units units, Optional<LanguageTag> from) {
            TmxFormat.unit(unit, source, units, from);
        }
    }

    private static void unit(Element unit, SourceText source, Units units, Optional<LanguageTag> from) {
        Map<LanguageTag, String> texts = texts(unit, source, units);
        if (texts.isEmpty()) {
            source.warn(unit.start(), "a unit without texts", "left out");
            return;
        }
        String first = from.map(texts::get)
                .filter(text -> text != null)
                .orElse(texts.values().iterator().next());
        String id = property(unit, KEY).orElse(unit.value("tuid"));
        FileEntry.Builder entry = FileEntry.of(id.isEmpty() ? first : id).line(source.line(unit.start()));
        unit.all("note").forEach(note -> entry.note(note.text()));
        property(unit, CONTEXT).ifPresent(entry::context);
        units.add(entry, texts);
    }

    /** The texts of a unit by their languages, in the order in which they stand; of two in one language the later one. */
    static Map<LanguageTag, String> texts(Element unit, SourceText source, Units units) {
        Map<LanguageTag, String> texts = new LinkedHashMap<>();
        for (Element variant : unit.all("tuv")) {
            Element segment = variant.first("seg")
                    .orElseThrow(() -> source.refuse(variant.start(), "a <tuv> without a <seg>", "one <seg>"));
            units.language(variant).ifPresent(language -> texts.put(language, Inline.text(source, segment)));
        }
        return texts;
    }

    static Optional<String> property(Element unit, String type) {
        return unit.all("prop").stream()
                .filter(property -> property.value("type").equals(type))
                .map(Element::text)
                .findFirst();
    }

    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        EntryList plain = PlainForms.of(entries);
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        String from = plain.sourceLanguage().map(LanguageTag::value).orElse("*all*");
        to.write("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<tmx version=\"1.4\">\n"
                + "  <header creationtool=\"Mellow Ledger\" creationtoolversion=\"0.1.0\" segtype=\"block\" o-tmf=\"ledger\" adminlang=\"en\" srclang=\""
                + from + "\" datatype=\"plaintext\"/>\n  <body>\n");
        for (int i = 0; i < plain.size(); i++) {
            FileEntry entry = plain.entry(i);
            if (entry.texts().stream().allMatch(FileText::isEmpty)) {
                continue;
            }
            XmlEntries.require(entry);
            // TMX 1.4b §3.2: a tuid is text without white space.
            boolean named = entry.key().codePoints().noneMatch(Character::isWhitespace);
            to.write("    <tu tuid=\"" + (named ? XmlText.escapeAttribute(entry.key()) : "u" + (i + 1)) + "\">\n");
            for (String note : entry.notes()) {
                to.write("      <note>" + XmlText.escape(note) + "</note>\n");
            }
            if (!named) {
                to.write("      <prop type=\"" + KEY + "\">" + XmlText.escape(entry.key()) + "</prop>\n");
            }
            if (!entry.context().isEmpty()) {
                to.write("      <prop type=\"" + CONTEXT + "\">" + XmlText.escape(entry.context()) + "</prop>\n");
            }
            InlineWriter inline = new InlineWriter(
                    InlineStandard.TMX,
                    entry.texts().stream().map(FileText::main).toList());
            for (int language = 0; language < plain.languages().size(); language++) {
                if (!entry.texts().get(language).isEmpty()) {
                    to.write("      <tuv xml:lang=\"" + plain.languages().get(language) + "\"><seg>"
                            + markup(entry.key(), entry.text(language), inline) + "</seg></tuv>\n");
                }
            }
            to.write("    </tu>\n");
        }
        to.write("  </body>\n</tmx>\n");
        to.flush();
    }

    private static String markup(String key, String text, InlineWriter inline) {
        try {
            return inline.markup(text);
        } catch (IllegalArgumentException unwritable) {
            throw new UnwritableTextException(
                    "The text of " + key + " has " + unwritable.getMessage() + "; change the text.");
        }
    }
}
