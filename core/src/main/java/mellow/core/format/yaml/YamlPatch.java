package mellow.core.format.yaml;

import java.util.Collections;
import java.util.List;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.source.OrderedPatch;
import mellow.core.format.source.SourceText;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.Node.Member;
import mellow.core.format.tree.Node.Scalar;
import mellow.core.format.tree.TreeEntries.Leaf;
import mellow.core.format.tree.TreeReading;

/** Writes a YAML file in place: each text keeps its style as long as that style can spell it. */
final class YamlPatch extends OrderedPatch {

    private final TreeReading file;
    private final SourceText source;

    YamlPatch(TreeReading file) {
        super(file.source().splice());
        this.file = file;
        this.source = file.source();
    }

    @Override
    public void set(int entry, int language, FileText text) {
        Leaf leaf = file.item(entry);
        String key = leaf.entry().key();
        leaf.forms().forEach((form, scalar) -> {
            if (!text.form(form).equals(scalar.text())) {
                splice.replace(scalar.start(), scalar.end(), spelled(scalar, text.form(form)), key);
            }
        });
        List<String> added = text.forms().keySet().stream()
                .filter(form -> !leaf.forms().containsKey(form))
                .toList();
        if (!added.isEmpty()) {
            addForms(leaf, added, text, key);
        }
    }

    private void addForms(Leaf leaf, List<String> added, FileText text, String key) {
        Scalar last = leaf.forms().values().stream()
                .max(java.util.Comparator.comparingInt(Scalar::start))
                .orElseThrow();
        String line = source.text().substring(source.lineStart(last.start()), last.start());
        String indent = line.substring(0, line.length() - line.stripLeading().length());
        boolean siblings = leaf.members().size() > 1;
        boolean flow = line.contains("{") || line.contains("[");
        if (flow || leaf.entry().shape() == mellow.core.text.Shape.PLAIN) {
            throw new UnwritableTextException("The file holds " + key
                    + " in one line, and more forms have no place there; export it fresh instead.");
        }
        StringBuilder lines = new StringBuilder();
        String stem = key.substring(leaf.ownerPath().length());
        for (String form : added) {
            String name = leaf.entry().shape() == mellow.core.text.Shape.STATES
                    ? "- "
                    : YamlStrings.key(siblings ? stem + "_" + form : form) + ": ";
            lines.append(indent)
                    .append(name)
                    .append(YamlStrings.doubleQuoted(text.form(form), false))
                    .append(source.lineEnd());
        }
        insertAt(source.lineAfter(Math.max(last.start(), last.end() - 1)), lines.toString(), key);
    }

    private String spelled(Scalar scalar, String text) {
        char style = scalar.start() < scalar.end() ? source.text().charAt(scalar.start()) : ' ';
        return switch (style) {
            case '\'' ->
                YamlStrings.isPrintable(text) ? YamlStrings.singleQuoted(text) : YamlStrings.doubleQuoted(text, false);
            case '"' -> YamlStrings.doubleQuoted(text, ascii(scalar));
            case '|', '>' -> block(scalar, text);
            default ->
                (scalar.start() == scalar.end() ? " " : "")
                        + (plainFits(scalar, text) ? text : YamlStrings.doubleQuoted(text, false));
        };
    }

    private boolean plainFits(Scalar scalar, String text) {
        String line = source.text().substring(source.lineStart(scalar.start()), scalar.start());
        boolean flow = line.contains("{") || line.contains("[");
        return YamlStrings.isPlain(text) && !(flow && text.matches(".*[,\\[\\]{}:].*"));
    }

    private boolean ascii(Scalar scalar) {
        String spelled = source.text().substring(scalar.start(), scalar.end());
        return spelled.contains("\\u") && spelled.chars().allMatch(c -> c < 0x80);
    }

    /** A literal scalar with the indentation it had; a folded one becomes literal, which spells every text exactly. */
    private String block(Scalar scalar, String text) {
        boolean spellable = !text.isEmpty()
                && text.lines().allMatch(YamlStrings::isPrintable)
                && text.indexOf('\r') < 0
                && !text.startsWith(" ")
                && !text.startsWith("\n")
                && !text.isBlank();
        if (!spellable) {
            return YamlStrings.doubleQuoted(text, false);
        }
        String body = source.text().substring(scalar.start(), scalar.end());
        String indent = indentOf(scalar, body);
        int trailing = 0;
        while (trailing < text.length() && text.charAt(text.length() - 1 - trailing) == '\n') {
            trailing++;
        }
        String words = text.substring(0, text.length() - trailing);
        StringBuilder spelled = new StringBuilder("|").append(trailing == 0 ? "-" : trailing == 1 ? "" : "+");
        for (String line : words.split("\n", -1)) {
            spelled.append(source.lineEnd())
                    .append(line.isEmpty() ? "" : indent)
                    .append(line);
        }
        spelled.append(source.lineEnd().repeat(Math.max(0, trailing - 1)));
        return spelled.toString();
    }

    private String indentOf(Scalar scalar, String body) {
        int line = body.indexOf('\n');
        while (line >= 0) {
            int first = line + 1;
            while (first < body.length() && body.charAt(first) == ' ') {
                first++;
            }
            if (first < body.length() && body.charAt(first) != '\n' && body.charAt(first) != '\r') {
                return body.substring(line + 1, first);
            }
            line = body.indexOf('\n', line + 1);
        }
        String own = source.text().substring(source.lineStart(scalar.start()), scalar.start());
        return own.substring(0, own.length() - own.stripLeading().length()) + "  ";
    }

    @Override
    protected void takeOut(int entry) {
        Leaf leaf = file.item(entry);
        if (leaf.members().isEmpty() || flow(leaf.owner())) {
            throw new UnwritableTextException(
                    leaf.entry().key()
                            + " stands in a list or between braces, from which it cannot be taken out in place; export it fresh instead.");
        }
        for (int index : leaf.members()) {
            Member member = leaf.owner().members().get(index);
            int start = source.lineStart(member.start());
            int end = endOf(member);
            for (int lines = member.comment().isEmpty() ? 0 : member.comment().split("\n", -1).length;
                    lines > 0;
                    lines--) {
                start = source.lineStart(start - 1);
            }
            if (!source.text()
                    .substring(source.lineStart(member.start()), member.start())
                    .isBlank()) {
                throw new UnwritableTextException(
                        leaf.entry().key()
                                + " begins an item of a list, from which it cannot be taken out in place; export it fresh instead.");
            }
            splice.remove(start, end);
        }
    }

    private int endOf(Member member) {
        return source.lineAfter(Math.max(member.start(), member.value().end() - 1));
    }

    private boolean flow(Mapping mapping) {
        return mapping.start() < source.text().length() && source.text().charAt(mapping.start()) == '{';
    }

    @Override
    protected void putIn(int after, FileEntry added) {
        Mapping owner = file.top();
        String path = "";
        int place = owner.members().size() - 1;
        for (int i = after; i >= 0; i--) {
            Leaf leaf = file.item(i);
            if (!leaf.members().isEmpty() && added.key().startsWith(leaf.ownerPath()) && !flow(leaf.owner())) {
                owner = leaf.owner();
                path = leaf.ownerPath();
                place = Collections.max(leaf.members());
                break;
            }
        }
        if (flow(owner) || place < 0) {
            throw new UnwritableTextException("The file keeps its texts between braces, where " + added.key()
                    + " cannot be added in place; export it fresh instead.");
        }
        Member before = owner.members().get(place);
        String line = source.text().substring(source.lineStart(before.start()), before.start());
        String indent = " ".repeat(line.length());
        insertAt(
                endOf(before),
                YamlFormat.lines(
                        added,
                        added.key().substring(path.length()),
                        added.texts().get(0),
                        indent,
                        source.lineEnd()),
                added.key());
    }

    /** Puts lines where a line begins; the file may end without a line end. */
    private void insertAt(int place, String lines, String key) {
        String text = source.text();
        boolean open = place > 0 && text.charAt(place - 1) != '\n' && text.charAt(place - 1) != '\r';
        splice.replace(
                place,
                place,
                open
                        ? source.lineEnd()
                                + lines.substring(
                                        0, lines.length() - source.lineEnd().length())
                        : lines,
                key);
    }

    @Override
    protected int size() {
        return file.size();
    }
}
