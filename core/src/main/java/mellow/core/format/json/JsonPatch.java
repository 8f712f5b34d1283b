package mellow.core.format.json;

import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.Splice;
import mellow.core.format.tree.Growth;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.Node.Member;
import mellow.core.format.tree.Node.Scalar;
import mellow.core.format.tree.TreeEntries.Leaf;
import mellow.core.format.tree.TreeReading;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/** Writes a JSON file in place. Members go and come with their commas, which are settled when the file is written. */
final class JsonPatch implements FilePatch {

    private final TreeReading file;
    private final SourceText source;
    private final Splice splice;
    private boolean ascii;
    private final Map<Mapping, Set<Integer>> removed = new IdentityHashMap<>();
    private final List<Insertion> insertions = new ArrayList<>();

    /** Objects that had no members left and have got one, so that the next one needs a comma. */
    private final Set<Mapping> filled = Collections.newSetFromMap(new IdentityHashMap<>());

    private record Insertion(int after, FileEntry entry) {}

    JsonPatch(TreeReading file) {
        this.file = file;
        this.source = file.source();
        this.splice = source.splice();
        this.ascii = escapes(source.text());
    }

    private List<FileReading> siblings = List.of();

    @Override
    public void like(List<FileReading> others) {
        siblings = others;
        boolean plain = source.text().chars().allMatch(c -> c < 0x80);
        if (plain && !ascii) {
            ascii = others.stream()
                    .filter(TreeReading.class::isInstance)
                    .map(other -> ((TreeReading) other).source().text())
                    .anyMatch(JsonPatch::escapes);
        }
    }

    private static boolean escapes(String text) {
        return text.contains("\\u") && text.chars().allMatch(c -> c < 0x80);
    }

    @Override
    public void rename(LanguageTag language, String spelled) {
        int at = file.rootAt();
        if (at >= 0) {
            int end = source.text().indexOf('"', at + 1) + 1;
            splice.replace(at, end, JsonStrings.quote(spelled, ascii), spelled);
        }
    }

    @Override
    public void set(int entry, int language, FileText text) {
        Leaf leaf = file.item(entry);
        String key = leaf.entry().key();
        leaf.forms().forEach((form, scalar) -> {
            String now = text.form(form);
            if (!now.equals(scalar.text()) && !dropped(leaf, scalar, text, now)) {
                splice.replace(scalar.start(), scalar.end(), JsonStrings.quote(now, ascii), key);
            }
        });
        List<String> added = text.forms().keySet().stream()
                .filter(form -> !leaf.forms().containsKey(form))
                .toList();
        if (!added.isEmpty()) {
            addForms(leaf, added, text, key);
        }
    }

    /** A form that the language has no use for goes. */
    private boolean dropped(Leaf leaf, Scalar scalar, FileText text, String now) {
        if (!now.isEmpty() || text.isEmpty() || leaf.entry().shape() != Shape.PLURAL) {
            return false;
        }
        for (int index : leaf.members()) {
            Member member = leaf.owner().members().get(index);
            if (member.value() == scalar) {
                removed.computeIfAbsent(leaf.owner(), any -> new TreeSet<>()).add(index);
                return true;
            }
            if (member.value() instanceof Mapping inner) {
                for (int i = 0; i < inner.members().size(); i++) {
                    if (inner.members().get(i).value() == scalar) {
                        removed.computeIfAbsent(inner, any -> new TreeSet<>()).add(i);
                        return true;
                    }
                }
            }
        }
        return false;
    }

    private void addForms(Leaf leaf, List<String> added, FileText text, String key) {
        if (leaf.entry().shape() == Shape.PLAIN) {
            throw new UnwritableTextException("The file holds " + key
                    + " as one text, and its forms have no place there; export it fresh instead.");
        }
        Scalar last = leaf.forms().values().stream()
                .max(Comparator.comparingInt(Scalar::start))
                .orElseThrow();
        String line = source.text().substring(source.lineStart(last.start()), last.start());
        String indent = line.substring(0, line.length() - line.stripLeading().length());
        boolean ownLine = !line.isBlank() && !line.stripLeading().startsWith("{");
        StringBuilder forms = new StringBuilder();
        boolean siblings = leaf.members().size() > 1;
        String stem = key.substring(leaf.ownerPath().length());
        for (String form : added) {
            String name = leaf.entry().shape() == Shape.STATES
                    ? ""
                    : JsonStrings.quote(siblings ? stem + "_" + form : form, ascii) + ": ";
            forms.append(',').append(ownLine || line.isBlank() ? source.lineEnd() + indent : " ");
            forms.append(name).append(JsonStrings.quote(text.form(form), ascii));
        }
        splice.replace(last.end(), last.end(), forms.toString(), key);
    }

    @Override
    public void remove(int entry) {
        Leaf leaf = file.item(entry);
        if (leaf.members().isEmpty()) {
            throw new UnwritableTextException(
                    leaf.entry().key() + " is an item of a list; taking it out would renumber the others.");
        }
        removed.computeIfAbsent(leaf.owner(), any -> new TreeSet<>()).addAll(leaf.members());
    }

    @Override
    public void insert(int after, FileEntry added) {
        insertions.add(new Insertion(after, added));
    }

    @Override
    public void writeTo(OutputStream out) throws IOException {
        Growth growth = new Growth(file, file.nestedLike(siblings));
        insertions.forEach(insertion -> growth.add(insertion.after, insertion.entry));
        growth.prune(removed);
        removed.forEach(this::takeOut);
        growth.shoots().forEach(this::place);
        splice.writeTo(out);
    }

    private void takeOut(Mapping owner, Set<Integer> gone) {
        List<Member> members = owner.members();
        int lastKept = -1;
        for (int i = 0; i < members.size(); i++) {
            lastKept = gone.contains(i) ? lastKept : i;
        }
        for (int i : gone) {
            if (i < lastKept) {
                splice.remove(members.get(i).start(), members.get(i + 1).start());
            }
        }
        if (lastKept < members.size() - 1) {
            int from = lastKept >= 0
                    ? members.get(lastKept).value().end()
                    : members.get(0).start();
            splice.remove(from, members.get(members.size() - 1).value().end());
        }
    }

    private void place(Growth.Shoot shoot) {
        Mapping owner = shoot.owner();
        int place = shoot.place();
        Set<Integer> gone = removed.getOrDefault(owner, Set.of());
        while (place >= 0 && gone.contains(place)) {
            place--;
        }
        String end = source.lineEnd();
        List<Member> members = owner.members();
        String indent = members.isEmpty() ? "  " : indentOf(members.get(0));
        boolean spread = members.isEmpty() || !indent.isEmpty();
        String key = shoot.branch().key();
        String member = member(shoot.branch(), indent, end);
        boolean anyKept = members.size() > gone.size();
        if (place >= 0) {
            splice.replace(
                    members.get(place).value().end(),
                    members.get(place).value().end(),
                    "," + (spread ? end + indent : " ") + member,
                    key);
        } else if (anyKept) {
            int first = 0;
            while (gone.contains(first)) {
                first++;
            }
            splice.replace(
                    members.get(first).start(),
                    members.get(first).start(),
                    member + "," + (spread ? end + indent : " "),
                    key);
        } else {
            if (source.text().charAt(owner.start()) != '{') {
                throw new UnwritableTextException("The file has null where its texts would be, and " + key
                        + " has no place there; write {} instead.");
            }
            int inside = owner.start() + 1;
            splice.replace(inside, inside, (filled.add(owner) ? "" : ",") + end + indent + member, key);
        }
    }

    private String member(Growth.Branch branch, String indent, String end) {
        FileEntry entry = branch.entry();
        String name = JsonStrings.quote(branch.key(), ascii) + ": ";
        if (entry != null) {
            FileText text = entry.texts().get(0);
            return name
                    + JsonFormat.value(
                            entry.shape(),
                            text.isEmpty() ? FileText.of(Map.of(Text.OTHER, "")) : text,
                            indent,
                            end,
                            ascii);
        }
        StringBuilder object = new StringBuilder(name).append('{');
        String gap = "";
        for (Growth.Branch inner : branch.branches()) {
            object.append(gap).append(end).append(indent).append("  ").append(member(inner, indent + "  ", end));
            gap = ",";
        }
        return object.append(end).append(indent).append('}').toString();
    }

    private String indentOf(Member member) {
        String line = source.text().substring(source.lineStart(member.start()), member.start());
        return line.isBlank() ? line : "";
    }
}
