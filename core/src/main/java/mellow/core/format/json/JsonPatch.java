package mellow.core.format.json;

import java.io.IOException;
import java.io.OutputStream;
import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.Splice;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.Node.Member;
import mellow.core.format.tree.Node.Scalar;
import mellow.core.format.tree.TreeEntries.Leaf;
import mellow.core.format.tree.TreeReading;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/** Writes a JSON file in place. Members go and come with their commas, which are settled when the file is written. */
final class JsonPatch implements FilePatch {

    private final TreeReading file;
    private final SourceText source;
    private final Splice splice;
    private final boolean ascii;
    private final Map<Mapping, Set<Integer>> removed = new IdentityHashMap<>();
    private final List<Insertion> insertions = new ArrayList<>();

    /** Objects that had no members left and have got one, so that the next one needs a comma. */
    private final Set<Mapping> filled = Collections.newSetFromMap(new IdentityHashMap<>());

    private record Insertion(int after, FileEntry entry) {}

    JsonPatch(TreeReading file) {
        this.file = file;
        this.source = file.source();
        this.splice = source.splice();
        this.ascii = source.text().contains("\\u") && source.text().chars().allMatch(c -> c < 0x80);
    }

    @Override
    public void set(int entry, int language, FileText text) {
        Leaf leaf = file.item(entry);
        String key = leaf.entry().key();
        leaf.forms().forEach((form, scalar) -> {
            String now = text.form(form);
            if (!now.equals(scalar.text())) {
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

    private void addForms(Leaf leaf, List<String> added, FileText text, String key) {
        if (leaf.entry().shape() == Shape.PLAIN) {
            throw new UnwritableTextException("The file holds " + key
                    + " as one text, and its forms have no place there; export it fresh instead.");
        }
        Scalar last = leaf.forms().values().stream()
                .max(java.util.Comparator.comparingInt(Scalar::start))
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
        removed.forEach(this::takeOut);
        for (Insertion insertion : insertions) {
            place(insertion);
        }
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

    private void place(Insertion insertion) {
        FileEntry entry = insertion.entry;
        Mapping owner = file.top();
        String path = "";
        int place = -1;
        for (int i = insertion.after >= 0 ? insertion.after : file.size() - 1; i >= 0; i--) {
            Leaf leaf = file.item(i);
            if (!leaf.members().isEmpty() && entry.key().startsWith(leaf.ownerPath())) {
                owner = leaf.owner();
                path = leaf.ownerPath();
                place = Collections.max(leaf.members());
                break;
            }
        }
        Set<Integer> gone = removed.getOrDefault(owner, Set.of());
        while (place >= 0 && gone.contains(place)) {
            place--;
        }
        String end = source.lineEnd();
        List<Member> members = owner.members();
        String indent = members.isEmpty() ? "  " : indentOf(members.get(0));
        boolean spread = members.isEmpty() || !indent.isEmpty();
        FileText text = entry.texts().get(0);
        String value = JsonFormat.value(
                entry.shape(), text.isEmpty() ? FileText.of(Map.of(Text.OTHER, "")) : text, indent, end, ascii);
        String member = JsonStrings.quote(entry.key().substring(path.length()), ascii) + ": " + value;
        boolean anyKept = members.size() > gone.size();
        if (place >= 0) {
            splice.replace(
                    members.get(place).value().end(),
                    members.get(place).value().end(),
                    "," + (spread ? end + indent : " ") + member,
                    entry.key());
        } else if (anyKept) {
            int first = 0;
            while (gone.contains(first)) {
                first++;
            }
            splice.replace(
                    members.get(first).start(),
                    members.get(first).start(),
                    member + "," + (spread ? end + indent : " "),
                    entry.key());
        } else {
            int inside = owner.start() + 1;
            splice.replace(inside, inside, (filled.add(owner) ? "" : ",") + end + indent + member, entry.key());
        }
    }

    private String indentOf(Member member) {
        String line = source.text().substring(source.lineStart(member.start()), member.start());
        return line.isBlank() ? line : "";
    }
}
