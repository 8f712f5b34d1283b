package mellow.core.format.memory;

import java.io.IOException;
import java.io.Writer;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import mellow.core.format.Problem;
import mellow.core.format.Problems;
import mellow.core.format.ReadOptions;
import mellow.core.format.inline.InlineStandard;
import mellow.core.format.inline.InlineWriter;
import mellow.core.format.source.SourceText;
import mellow.core.format.xml.XmlNode.Element;
import mellow.core.format.xml.XmlText;
import mellow.core.language.LanguageTag;

/**
 * TMX 1.4b as a memory: every unit counts, also two with one source and different texts, which a table could not tell apart. Level 2: inline codes are kept as they
 * are spelled.
 */
public final class MemoryFile {

    private MemoryFile() {}

    /**
     * Reads the units of a file, each text of a unit with its source; a unit without the file's source language is from the first language that it has.
     *
     * @param each is given them in their order
     * @return what was left out, and why
     * @throws mellow.core.format.UnreadableFileException when it is no TMX file
     */
    public static List<Problem> read(String file, byte[] bytes, ReadOptions options, Consumer<MemoryUnit> each) {
        Problems problems = new Problems(file);
        SourceText source = XmlText.decode(bytes, options.charset(), options.limits(), problems);
        Units units = new Units(source);
        int[] read = {0};
        new TmxFormat.Reader().walk(source, options, () -> read[0], (unit, from) -> {
            read[0]++;
            Map<LanguageTag, String> texts = TmxFormat.texts(unit, source, units);
            LanguageTag own = LanguageTag.parse(unit.value("srclang"))
                    .or(() -> from)
                    .filter(texts::containsKey)
                    .orElseGet(() -> from.flatMap(tag -> texts.keySet().stream()
                                    .filter(one -> one.language().equals(tag.language()))
                                    .findFirst())
                            .or(() -> texts.keySet().stream().findFirst())
                            .orElse(LanguageTag.UNDETERMINED));
            String said = texts.getOrDefault(own, "");
            if (texts.size() < 2 || said.isBlank()) {
                source.warn(unit.start(), "a unit without a source and a text", "left out");
                return;
            }
            texts.forEach((to, text) -> {
                if (!to.equals(own) && !text.isBlank()) {
                    each.accept(unit(unit, own, to, said, text));
                }
            });
        });
        return problems.kept();
    }

    private static MemoryUnit unit(Element unit, LanguageTag from, LanguageTag to, String source, String text) {
        Element variant = unit.all("tuv").stream()
                .filter(one -> one.attributes().stream()
                        .filter(attribute -> attribute.name().equals("lang"))
                        .anyMatch(attribute ->
                                LanguageTag.parse(attribute.value()).equals(Optional.of(to))))
                .findFirst()
                .orElse(unit);
        return new MemoryUnit(
                from,
                to,
                source,
                text,
                TmxFormat.property(unit, TmxFormat.CONTEXT)
                        .or(() -> TmxFormat.property(unit, TmxFormat.KEY))
                        .orElse(unit.value("tuid")),
                unit.first("note").map(Element::text).orElse(""),
                either(variant, unit, "changeid", "creationid"),
                either(variant, unit, "changedate", "creationdate"));
    }

    /** The first that is there, of the text before its unit. */
    private static String either(Element variant, Element unit, String changed, String made) {
        for (Element element : List.of(variant, unit)) {
            for (String name : List.of(changed, made)) {
                String value = element.value(name);
                if (!value.isEmpty()) {
                    return value;
                }
            }
        }
        return "";
    }

    /** Writes the beginning of a file. */
    public static void begin(Writer to) throws IOException {
        to.write(
                "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<tmx version=\"1.4\">\n"
                        + "  <header creationtool=\"Mellow Ledger\" creationtoolversion=\"0.1.0\" segtype=\"block\" o-tmf=\"ledger\" adminlang=\"en\" srclang=\"*all*\" datatype=\"plaintext\"/>\n  <body>\n");
    }

    /**
     * Writes a unit.
     *
     * @return whether it could be; not where it has a character that XML cannot hold
     */
    public static boolean write(MemoryUnit unit, Writer to) throws IOException {
        InlineWriter inline = new InlineWriter(InlineStandard.TMX, List.of(unit.source(), unit.text()));
        String source;
        String text;
        try {
            source = inline.markup(unit.source());
            text = inline.markup(unit.text());
        } catch (IllegalArgumentException unwritable) {
            return false;
        }
        if (XmlText.unwritable(unit.context() + unit.note() + unit.madeBy()).isPresent()) {
            return false;
        }
        to.write("    <tu srclang=\"" + unit.from() + "\"" + attribute("changedate", unit.madeAt())
                + attribute("changeid", unit.madeBy()) + ">\n");
        if (!unit.note().isEmpty()) {
            to.write("      <note>" + XmlText.escape(unit.note()) + "</note>\n");
        }
        if (!unit.context().isEmpty()) {
            to.write("      <prop type=\"" + TmxFormat.CONTEXT + "\">" + XmlText.escape(unit.context()) + "</prop>\n");
        }
        to.write("      <tuv xml:lang=\"" + unit.from() + "\"><seg>" + source + "</seg></tuv>\n");
        to.write("      <tuv xml:lang=\"" + unit.to() + "\"><seg>" + text + "</seg></tuv>\n    </tu>\n");
        return true;
    }

    private static String attribute(String name, String value) {
        return value.isEmpty() ? "" : " " + name + "=\"" + XmlText.escapeAttribute(value) + "\"";
    }

    /** Writes the end of a file. */
    public static void end(Writer to) throws IOException {
        to.write("  </body>\n</tmx>\n");
        to.flush();
    }
}
