package mellow.core.format.json;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.EnumSet;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
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
import mellow.core.format.tree.TreeEntries;
import mellow.core.format.tree.TreeReading;
import mellow.core.text.Shape;

/** JSON in one language. */
public final class JsonFormat implements FileFormat {

    private static final Traits TRAITS =
            Traits.of("json", "json", "application/json").knownBy("arb");

    private static final Pattern START = Pattern.compile("\\s*\\{\\s*(\"|\\}|$)(?s:.*)");

    @Override
    public Traits traits() {
        return TRAITS;
    }

    @Override
    public Set<Aspect> keeps() {
        return EnumSet.of(Aspect.UNSETTLED_TEXT, Aspect.PLURAL_FORMS, Aspect.LINE_BREAKS, Aspect.CONTEXT);
    }

    @Override
    public int likelihood(Sample sample) {
        boolean object = START.matcher(sample.text()).matches();
        return sample.named(".json", ".arb") ? (object ? 95 : 50) : object ? 70 : 0;
    }

    @Override
    public FileReading read(String file, byte[] bytes, ReadOptions options) {
        SourceText source = SourceText.read(file, bytes, options, "an object with keys and texts");
        Node tree = JsonParser.parse(source, options.limits(), TreeEntries.MOST_VALUES);
        if (!(tree instanceof Mapping mapping)) {
            throw source.refuse(tree.start(), "the document is no object", "an object with keys and texts");
        }
        return TreeReading.of(source, mapping, options, JsonPatch::new);
    }

    /** Flat, in the order of the entries: whether a dot in a key once was a level nobody can tell afterwards, and reading gives the same keys. */
    @Override
    public void write(EntryList entries, OutputStream out) throws IOException {
        int language = PlainForms.only(entries);
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        to.write("{");
        String gap = "\n";
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            FileText text = entry.texts().get(language);
            PlainForms.requireNoContext(entry, "JSON has");
            if (text.isEmpty()) {
                continue;
            }
            to.write(
                    gap + "  " + JsonStrings.quote(entry.key()) + ": " + value(entry.shape(), text, "  ", "\n", false));
            gap = ",\n";
        }
        to.write("\n}\n");
        to.flush();
    }

    /**
     * The same with a level for each part of a key between dots, in the order in which levels came first.
     *
     * @param indent spaces per level, 0 to 8
     * @param ascii whether letters beyond ASCII are written as escapes
     */
    public static void nested(EntryList entries, int indent, boolean ascii, OutputStream out) throws IOException {
        int language = PlainForms.only(entries);
        NestedKeys root = NestedKeys.root();
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            PlainForms.requireNoContext(entry, "JSON has");
            if (!entry.texts().get(language).isEmpty()) {
                root.add(entry);
            }
        }
        Writer to = new BufferedWriter(new OutputStreamWriter(out, StandardCharsets.UTF_8));
        level(root, language, " ".repeat(indent), "\n", ascii, to);
        to.write("\n");
        to.flush();
    }

    private static void level(NestedKeys level, int language, String step, String gap, boolean ascii, Writer to)
            throws IOException {
        to.write("{");
        String inner = gap + step;
        String between = inner;
        for (NestedKeys one : level.below().values()) {
            to.write(between + JsonStrings.quote(one.name(), ascii) + ": ");
            if (one.entry() == null) {
                level(one, language, step, inner, ascii, to);
            } else {
                FileText text = one.entry().texts().get(language);
                to.write(value(one.entry().shape(), text, inner.substring(1), "\n", ascii));
            }
            between = "," + inner;
        }
        to.write(level.below().isEmpty() ? "}" : gap + "}");
    }

    /** The value of an entry: a string, an object of plural forms, a list of states. */
    static String value(Shape shape, FileText text, String indent, String lineEnd, boolean ascii) {
        if (shape == Shape.PLAIN) {
            return JsonStrings.quote(text.main(), ascii);
        }
        boolean list = shape == Shape.STATES && dense(text);
        StringBuilder value = new StringBuilder(list ? "[" : "{");
        String gap = "";
        int count = text.forms().size();
        Iterable<String> names = list
                ? IntStream.range(0, count).mapToObj(Integer::toString).toList()
                : text.forms().keySet();
        for (String name : names) {
            value.append(gap).append(lineEnd).append(indent).append("  ");
            value.append(list ? "" : JsonStrings.quote(name, ascii) + ": ")
                    .append(JsonStrings.quote(text.form(name), ascii));
            gap = ",";
        }
        return value.append(lineEnd).append(indent).append(list ? "]" : "}").toString();
    }

    /** Whether states run from 0 on without a gap. */
    private static boolean dense(FileText text) {
        return IntStream.range(0, text.forms().size())
                .allMatch(i -> text.forms().containsKey(Integer.toString(i)));
    }
}
