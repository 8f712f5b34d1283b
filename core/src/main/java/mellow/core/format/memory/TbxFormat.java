package mellow.core.format.memory;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
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
import mellow.core.format.source.SourceText;
import mellow.core.format.xml.XmlEntries;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlRoot;
import mellow.core.format.xml.XmlText;
import mellow.core.language.LanguageTag;

/**
 * TBX-Basic (ISO 30042:2008 and :2019): a concept is an entry, the first term of a language that is neither deprecated nor superseded its text. Those are
 * words to avoid and stand in notes, as do definitions.
 */
public final class TbxFormat implements FileFormat {

    private static final Traits TRAITS = Traits.of("tbx", "tbx", "application/xml")
            .in(Languages.MANY)
            .onlyFresh()
            .spellingItself();

    /** ISO 30042, administrativeStatus: terms that are no longer to be used. */
    private static final Set<String> AVOIDED = Set.of("deprecatedTerm-admn-sts", "supersededTerm-admn-sts");

    /** An xs:ID, which XML wants for ids (Namespaces in XML 1.0, NCName); what it cannot spell stands in a note with an id of its own. */
    private static final Pattern NAME = Pattern.compile("[A-Za-z_][A-Za-z0-9_.-]*");

    /** A note that says which word is not to be used; written as the deprecated term that it was, or will be, read from. */
    private static final Pattern AVOID = Pattern.compile("Avoid in ([A-Za-z0-9-]+): (.+)");

    private static final String KEY = "-key";
    private static final String CONTEXT = "-context";

    /** Terms have no codes, so nothing carries what XML cannot hold. */
    private static void require(FileEntry entry) {
        XmlEntries.require(entry);
        entry.texts().stream()
                .flatMap(text -> XmlText.unwritable(text.main()).stream())
                .findFirst()
                .ifPresent(character -> {
                    throw new UnwritableTextException("The text of " + entry.key() + " has the character " + character
                            + ", which XML cannot hold; change the text.");
                });
    }

    /** Whether a key looks like the ids that others get, or like those of their notes. */
    private static boolean numbered(String key) {
        return key.matches("c[0-9]+(-key|-context)?");
    }

    private static void note(String id, String text, Writer to) throws IOException {
        to.write("        <note id=\"" + id + "\">" + XmlText.escape(text) + "</note>\n");
    }

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
        return XmlRoot.named(sample.text(), "martif", "tbx") ? 100 : sample.named(".tbx") ? 50 : 0;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        return new UnitReader(List.of("martif", "tbx"), Set.of("termEntry", "conceptEntry"), "A TBX file") {

            @Override
            Optional<LanguageTag> stated(Element element) {
                return !element.name().equals("martif") && !element.name().equals("tbx")
                        ? Optional.empty()
                        : element.attributes().stream()
                                .filter(attribute -> attribute.name().equals("lang"))
                                .findFirst()
                                .flatMap(attribute -> LanguageTag.parse(attribute.value()));
            }

            @Override
            void unit(Element unit, SourceText source, Units units, Optional<LanguageTag> from) {
                TbxFormat.concept(unit, source, units, from);
            }
        }.read(file, bytes, options);
    }

    private static void concept(Element concept, SourceText source, Units units, Optional<LanguageTag> from) {
        Map<LanguageTag, String> terms = new LinkedHashMap<>();
        Map<String, LanguageTag> avoided = new LinkedHashMap<>();
        for (Element section : concept.elements()) {
            if (!section.name().equals("langSet") && !section.name().equals("langSec")) {
                continue;
            }
            units.language(section).ifPresent(language -> {
                for (Element group : section.elements()) {
                    Element holder =
                            group.name().equals("ntig") ? group.first("termGrp").orElse(group) : group;
                    holder.first("term").ifPresent(term -> {
                        boolean deprecated = holder.all("termNote").stream()
                                .anyMatch(note -> AVOIDED.contains(note.text().strip()));
                        if (deprecated) {
                            avoided.put(term.text(), language);
                        } else {
                            terms.putIfAbsent(language, term.text());
                        }
                    });
                }
            });
        }
        if (terms.isEmpty()) {
            source.warn(concept.start(), "a concept without terms", "left out");
            return;
        }
        String id = concept.value("id");
        String first = from.map(terms::get)
                .filter(term -> term != null)
                .orElse(terms.values().iterator().next());
        Optional<String> key = told(concept, id + KEY);
        FileEntry.Builder entry = FileEntry.of(key.orElse(id.isEmpty() ? first : id))
                .line(source.line(concept.start()))
                .context(told(concept, id + CONTEXT).orElse(""));
        definitions(concept).forEach(definition -> entry.note(definition.text().strip()));
        avoided.forEach((term, language) -> entry.note("Avoid in " + language + ": " + term));
        units.add(entry, terms);
    }

    /** What a note of our own says, by its id. */
    private static Optional<String> told(Element concept, String id) {
        return concept.all("note").stream()
                .filter(note -> note.value("id").equals(id))
                .map(Element::text)
                .findFirst();
    }

    private static List<Element> definitions(Element concept) {
        return Stream.concat(
                        concept.all("descrip").stream(),
                        concept.all("descripGrp").stream().flatMap(group -> group.all("descrip").stream()))
                .filter(description -> description.value("type").equals("definition"))
                .toList();
    }

    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        EntryList plain = PlainForms.of(entries);
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        String from = plain.sourceLanguage()
                .or(() -> plain.languages().stream().findFirst())
                .map(LanguageTag::value)
                .orElse("en");
        to.write(
                "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<tbx style=\"dca\" type=\"TBX-Basic\" xml:lang=\"" + from
                        + "\" xmlns=\"urn:iso:std:iso:30042:ed-2\">\n  <tbxHeader><fileDesc><sourceDesc><p>Mellow Ledger</p></sourceDesc></fileDesc></tbxHeader>\n  <text>\n    <body>\n");
        Set<String> ids = new HashSet<>();
        for (int i = 0; i < plain.size(); i++) {
            FileEntry entry = plain.entry(i);
            if (entry.texts().stream().allMatch(FileText::isEmpty)) {
                continue;
            }
            require(entry);
            boolean named =
                    entry.context().isEmpty() && NAME.matcher(entry.key()).matches() && !numbered(entry.key());
            String id = named && ids.add(entry.key()) ? entry.key() : "c" + (i + 1);
            to.write("      <conceptEntry id=\"" + id + "\">\n");
            Map<LanguageTag, List<String>> avoided = new LinkedHashMap<>();
            for (String note : entry.notes()) {
                Matcher avoid = AVOID.matcher(note);
                Optional<LanguageTag> in = avoid.matches() ? LanguageTag.parse(avoid.group(1)) : Optional.empty();
                if (in.filter(plain.languages()::contains).isPresent()) {
                    avoided.computeIfAbsent(in.get(), one -> new ArrayList<>()).add(avoid.group(2));
                } else {
                    to.write("        <descrip type=\"definition\">" + XmlText.escape(note) + "</descrip>\n");
                }
            }
            if (!id.equals(entry.key())) {
                note(id + KEY, entry.key(), to);
            }
            if (!entry.context().isEmpty()) {
                note(id + CONTEXT, entry.context(), to);
            }
            for (int language = 0; language < plain.languages().size(); language++) {
                LanguageTag tag = plain.languages().get(language);
                boolean said = !entry.texts().get(language).isEmpty();
                List<String> not = avoided.getOrDefault(tag, List.of());
                if (!said && not.isEmpty()) {
                    continue;
                }
                to.write("        <langSec xml:lang=\"" + tag + "\">");
                if (said) {
                    to.write("<termSec><term>" + XmlText.escape(entry.text(language)) + "</term></termSec>");
                }
                for (String word : not) {
                    to.write(
                            "<termSec><term>" + XmlText.escape(word)
                                    + "</term><termNote type=\"administrativeStatus\">deprecatedTerm-admn-sts</termNote></termSec>");
                }
                to.write("</langSec>\n");
            }
            to.write("      </conceptEntry>\n");
        }
        to.write("    </body>\n  </text>\n</tbx>\n");
        to.flush();
    }
}
