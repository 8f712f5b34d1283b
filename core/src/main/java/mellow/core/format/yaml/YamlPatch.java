package mellow.core.format.yaml;

import java.util.Collections;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.source.OrderedPatch;
import mellow.core.format.source.SourceText;
import mellow.core.format.tree.Growth;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.Node.Member;
import mellow.core.format.tree.Node.Scalar;
import mellow.core.format.tree.TreeEntries.Leaf;
import mellow.core.format.tree.TreeReading;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import org.jspecify.annotations.Nullable;

/** Writes a YAML file in place: each text keeps its style as long as that style can spell it. */
final class YamlPatch extends OrderedPatch {

    private final TreeReading file;
    private final SourceText source;
    private final Map<Mapping, Set<Integer>> gone = new IdentityHashMap<>();
    private final Set<Mapping> filled = Collections.newSetFromMap(new IdentityHashMap<>());
    private List<FileReading> siblings = List.of();
    private @Nullable Growth growth;

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
            if (text.form(form).equals(scalar.text())) {
                return;
            }
            Optional<Member> member =
                    text.isEmpty() || !text.form(form).isEmpty() ? Optional.empty() : own(leaf, scalar);
            if (member.isPresent()) {
                // A form that the language has no use for goes with its line.
                splice.remove(source.lineStart(member.get().start()), endOf(member.get()));
            } else {
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

    /** The member that holds a form on a line of its own. */
    private Optional<Member> own(Leaf leaf, Scalar scalar) {
        if (leaf.entry().shape() != Shape.PLURAL) {
            return Optional.empty();
        }
        return leaf.members().stream()
                .map(index -> leaf.owner().members().get(index))
                .flatMap(member -> member.value() instanceof Mapping inner && !flow(inner)
                        ? inner.members().stream()
                        : Stream.of(member))
                .filter(member -> member.value() == scalar && onItsOwnLine(member))
                .findFirst();
    }

    private boolean onItsOwnLine(Member member) {
        return source.text()
                .substring(source.lineStart(member.start()), member.start())
                .isBlank();
    }

    private void addForms(Leaf leaf, List<String> added, FileText text, String key) {
        Scalar last = leaf.forms().values().stream()
                .max(Comparator.comparingInt(Scalar::start))
                .orElseThrow();
        String line = source.text().substring(source.lineStart(last.start()), last.start());
        String indent = line.substring(0, line.length() - line.stripLeading().length());
        boolean siblings = leaf.members().size() > 1;
        boolean flow = line.contains("{") || line.contains("[");
        if (flow || leaf.entry().shape() == Shape.PLAIN) {
            throw new UnwritableTextException("The file holds " + key
                    + " in one line, and more forms have no place there; export it fresh instead.");
        }
        StringBuilder lines = new StringBuilder();
        String stem = key.substring(leaf.ownerPath().length());
        for (String form : added) {
            String name = leaf.entry().shape() == Shape.STATES
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
            if (!onItsOwnLine(leaf.owner().members().get(index))) {
                throw new UnwritableTextException(
                        leaf.entry().key()
                                + " begins an item of a list, from which it cannot be taken out in place; export it fresh instead.");
            }
            gone.computeIfAbsent(leaf.owner(), any -> new TreeSet<>()).add(index);
        }
    }

    /** Lines of everything that goes; an object that holds nothing any more goes as a whole. */
    @Override
    protected void finish() {
        if (growth != null) {
            growth.shoots().forEach(this::put);
        }
        growth().prune(gone);
        growth = null;
        gone.forEach((owner, members) -> members.forEach(index -> {
            Member member = owner.members().get(index);
            int start = source.lineStart(member.start());
            for (int lines = member.comment().isEmpty() ? 0 : member.comment().split("\n", -1).length;
                    lines > 0;
                    lines--) {
                start = source.lineStart(start - 1);
            }
            splice.remove(start, endOf(member));
        }));
    }

    private Growth growth() {
        if (growth == null) {
            growth = new Growth(file, file.nestedLike(siblings));
        }
        return growth;
    }

    @Override
    public void like(List<FileReading> others) {
        siblings = others;
    }

    @Override
    public void rename(LanguageTag language, String spelled) {
        int at = file.rootAt();
        if (at >= 0) {
            char quote = source.text().charAt(at);
            boolean quoted = quote == '"' || quote == '\'';
            int end = quoted
                    ? source.text().indexOf(quote, at + 1) + 1
                    : source.text().indexOf(':', at);
            String key = YamlStrings.key(spelled);
            splice.replace(at, end, quoted && key.equals(spelled) ? quote + spelled + quote : key, spelled);
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
        growth().add(after, added);
    }

    private void put(Growth.Shoot shoot) {
        Mapping owner = shoot.owner();
        String key = shoot.branch().key();
        boolean empty = owner.members().isEmpty();
        if (empty ? file.rootAt() < 0 : flow(owner)) {
            throw new UnwritableTextException("The file keeps its texts between braces, where " + key
                    + " cannot be added in place; export it fresh instead.");
        }
        if (empty) {
            if (owner.start() < owner.end() && filled.add(owner)) {
                // What stands for nothing, "{}" or "null", makes room.
                splice.remove(source.text().indexOf(':', file.rootAt()) + 1, owner.end());
            }
            insertAt(source.lineAfter(file.rootAt()), lines(shoot.branch(), "  "), key);
            return;
        }
        Member before = owner.members().get(shoot.place());
        int column = before.start() - source.lineStart(before.start());
        insertAt(endOf(before), lines(shoot.branch(), " ".repeat(column)), key);
    }

    private String lines(Growth.Branch branch, String indent) {
        FileEntry entry = branch.entry();
        if (entry != null) {
            return YamlFormat.lines(entry, branch.key(), entry.texts().get(0), indent, source.lineEnd());
        }
        StringBuilder lines = new StringBuilder(indent)
                .append(YamlStrings.key(branch.key()))
                .append(':')
                .append(source.lineEnd());
        branch.branches().forEach(inner -> lines.append(lines(inner, indent + "  ")));
        return lines.toString();
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
