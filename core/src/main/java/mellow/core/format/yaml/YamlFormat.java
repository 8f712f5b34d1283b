package mellow.core.format.yaml;

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
import mellow.core.format.ReadOptions;
import mellow.core.format.Traits;
import mellow.core.format.source.SourceText;
import mellow.core.format.tree.NestedKeys;
import mellow.core.format.tree.Node;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.TreeReading;
import mellow.core.text.Shape;

/** YAML in one language. */
public final class YamlFormat implements FileFormat {

    private static final Traits TRAITS =
            Traits.of("yaml", "yml", "application/yaml").alias("yml").alsoEnding("yaml");

    private static final Pattern KEY = Pattern.compile("(?m)^[\\w.'\"-]+:(\\s|$)");

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public Set<Aspect> keeps() {
        return EnumSet.of(Aspect.NOTE, Aspect.UNSETTLED_TEXT, Aspect.PLURAL_FORMS, Aspect.LINE_BREAKS, Aspect.CONTEXT);
    }

    @Override
    public int likelihood(Sample sample) {
        if (sample.named(".yml", ".yaml")) {
            return 90;
        }
        return sample.text().startsWith("---") && KEY.matcher(sample.text()).find() ? 60 : 0;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        SourceText source = SourceText.read(file, bytes, options, "keys and texts");
        Node tree = YamlParser.parse(source, options.limits());
        if (!(tree instanceof Mapping mapping)) {
            throw source.refuse(tree.start(), "the document has no keys", "keys and texts");
        }
        return TreeReading.of(source, mapping, options, YamlPatch::new);
    }

    /** Flat, in the order of the entries, texts in double quotes. */
    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        int language = PlainForms.only(entries);
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        boolean any = false;
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            PlainForms.requireNoContext(entry, "YAML has");
            FileText text = entry.texts().get(language);
            if (!text.isEmpty()) {
                to.write(lines(entry, entry.key(), text, "", "\n"));
                any = true;
            }
        }
        to.write(any ? "" : "{}\n");
        to.flush();
    }

    /** The same with a level for each part of a key between dots, in the order in which levels came first. */
    public static void nested(EntryList entries, OutputStream out) throws IOException {
        int language = PlainForms.only(entries);
        NestedKeys root = NestedKeys.root();
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            PlainForms.requireNoContext(entry, "YAML has");
            if (!entry.texts().get(language).isEmpty()) {
                root.add(entry);
            }
        }
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        to.write(root.below().isEmpty() ? "{}\n" : "");
        level(root, language, "", to);
        to.flush();
    }

    private static void level(NestedKeys level, int language, String indent, Writer to) throws IOException {
        for (NestedKeys one : level.below().values()) {
            if (one.entry() == null) {
                to.write(indent + YamlStrings.key(one.name()) + ":\n");
                level(one, language, indent + "  ", to);
            } else {
                to.write(lines(one.entry(), one.name(), one.entry().texts().get(language), indent, "\n"));
            }
        }
    }

    /** An entry as lines, its notes as comments above it. */
    static String lines(FileEntry entry, String key, FileText text, String indent, String lineEnd) {
        StringBuilder lines = new StringBuilder();
        for (String note : entry.notes()) {
            for (String line : note.split("\n", -1)) {
                lines.append(indent).append("# ").append(line).append(lineEnd);
            }
        }
        lines.append(indent).append(YamlStrings.key(key)).append(':');
        if (entry.shape() == Shape.PLAIN) {
            return lines.append(' ')
                    .append(YamlStrings.doubleQuoted(text.main(), false))
                    .append(lineEnd)
                    .toString();
        }
        lines.append(lineEnd);
        if (entry.shape() == Shape.STATES) {
            int last = text.forms().keySet().stream()
                    .mapToInt(Integer::parseInt)
                    .max()
                    .orElse(-1);
            for (int state = 0; state <= last; state++) {
                lines.append(indent).append("  - ");
                lines.append(YamlStrings.doubleQuoted(text.form(Integer.toString(state)), false))
                        .append(lineEnd);
            }
        } else {
            text.forms().forEach((form, words) -> lines.append(indent)
                    .append("  ")
                    .append(YamlStrings.key(form))
                    .append(": ")
                    .append(YamlStrings.doubleQuoted(words, false))
                    .append(lineEnd));
        }
        return lines.toString();
    }
}
