package mellow.core.format.tree;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.format.Habits;
import mellow.core.format.Limits;
import mellow.core.format.ReadOptions;
import mellow.core.format.source.SourceText;
import mellow.core.format.tree.Node.Kind;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.Node.Member;
import mellow.core.format.tree.Node.Scalar;
import mellow.core.format.tree.Node.Sequence;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.text.Text;

/**
 * Turns a tree into entries. The key of a leaf is the path to it, joined with dots. Plural texts are recognised in the habits of the web: an object
 * of plural categories, and {@link Siblings} by suffix. A sequence of texts is one
 * entry with numbered states.
 */
public final class TreeEntries {

    /** Values that an entry has on the average at most: forms, and the objects around it. */
    public static final int MOST_VALUES = 4;

    private static final Set<String> CATEGORIES = Set.of("zero", "one", "two", "few", "many", "other");

    private final SourceText source;
    private final Limits limits;
    private final List<Leaf> leaves = new ArrayList<>();
    private int others;
    private int otherAt = -1;
    private Optional<LanguageTag> root = Optional.empty();
    private Siblings siblings = Siblings.of(new Mapping(0, 0, List.of()), Optional.empty());

    /**
     * An entry with the places of its forms.
     *
     * @param forms the value of each form, by name
     * @param owner the innermost object that holds it
     * @param members indices of its members in the owner; empty for an item of a sequence
     * @param ownerPath the path of the owner with a dot at its end, empty for the root
     */
    public record Leaf(
            FileEntry entry, Map<String, Scalar> forms, Mapping owner, List<Integer> members, String ownerPath) {}

    private TreeEntries(SourceText source, Limits limits) {
        this.source = source;
        this.limits = limits;
    }

    /**
     * What a tree holds.
     *
     * @param root the language when the tree's one outermost key is a language tag
     * @param language the language of its texts
     * @param rootAt where that key begins, -1 for none
     * @param top the object below that key, or the whole tree
     * @param habits how siblings by suffix were understood
     * @param leaves in file order
     */
    public record Found(
            Optional<LanguageTag> root,
            LanguageTag language,
            int rootAt,
            Mapping top,
            Habits habits,
            List<Leaf> leaves) {}

    /** The entries of a tree. */
    public static Found of(Mapping tree, SourceText source, ReadOptions options) {
        TreeEntries entries = new TreeEntries(source, options.limits());
        Mapping top = tree;
        if (tree.members().size() == 1) {
            Member only = tree.members().get(0);
            // Three letters are a word far more often than a language.
            Optional<LanguageTag> tag =
                    LanguageTag.parse(only.key()).filter(known -> known.value().matches("[a-z]{2}(-.*)?"));
            if (only.value() instanceof Mapping inner) {
                entries.root = tag;
                top = tag.isPresent() ? inner : tree;
            } else if (only.value() instanceof Scalar scalar && scalar.kind() == Kind.NULL && tag.isPresent()) {
                entries.root = tag;
                top = new Mapping(scalar.start(), scalar.end(), List.of());
            }
        }
        LanguageTag language = options.languageOf(source.problems().file(), entries.root);
        entries.siblings = Siblings.of(top, options.siblings());
        entries.mapping(top, "");
        if (entries.others > 0) {
            source.warn(
                    entries.otherAt,
                    entries.others == 1
                            ? "a number or a truth value, which is no text"
                            : entries.others + " numbers and truth values, which are no texts; the first of them here",
                    "left alone");
        }
        int rootAt = entries.root.isPresent() ? tree.members().get(0).start() : -1;
        return new Found(entries.root, language, rootAt, top, entries.siblings.habits(), entries.leaves);
    }

    private void mapping(Mapping mapping, String path) {
        Map<String, Integer> places = new HashMap<>();
        for (int i = 0; i < mapping.members().size(); i++) {
            Integer earlier = places.put(mapping.members().get(i).key(), i);
            if (earlier != null) {
                source.warn(
                        mapping.members().get(i).start(),
                        "the key “" + mapping.members().get(i).key() + "” stands in line "
                                + source.line(mapping.members().get(earlier).start()) + " already",
                        "this one, the last, counts");
            }
        }
        Set<Integer> taken = new LinkedHashSet<>();
        Map<Integer, Map<String, Integer>> groups = siblings.groups(mapping);
        for (int i = 0; i < mapping.members().size(); i++) {
            Member member = mapping.members().get(i);
            if (!Objects.equals(places.get(member.key()), i) || taken.contains(i)) {
                continue;
            }
            Map<String, Integer> group = groups.get(i);
            if (group != null) {
                taken.addAll(group.values());
                String stem = Siblings.stem(member.key());
                Map<String, Scalar> forms = new TreeMap<>();
                group.forEach((form, index) ->
                        forms.put(form, (Scalar) mapping.members().get(index).value()));
                add(member, path + stem, Shape.PLURAL, forms, mapping, List.copyOf(group.values()), path);
            } else {
                value(member, i, mapping, path);
            }
        }
    }

    private void value(Member member, int index, Mapping owner, String path) {
        String key = path + member.key();
        Node value = member.value();
        if (value instanceof Scalar scalar && scalar.kind() != Kind.OTHER) {
            add(member, key, Shape.PLAIN, Map.of(Text.OTHER, scalar), owner, List.of(index), path);
        } else if (value instanceof Scalar scalar && !scalar.text().startsWith("*")) {
            otherAt = otherAt < 0 ? member.start() : otherAt;
            others++;
        } else if (value instanceof Scalar scalar) {
            source.warn(
                    member.start(),
                    member.key().equals("<<")
                            ? "texts taken over from “" + scalar.text() + "”"
                            : "the value of “" + key + "” is the alias “" + scalar.text() + "”",
                    "it stays in the file, and changes where the text it stands for does");
        } else if (value instanceof Mapping inner) {
            Map<String, Scalar> forms = categories(inner);
            if (forms.isEmpty()) {
                mapping(inner, key + ".");
            } else {
                add(member, key, Shape.PLURAL, forms, owner, List.of(index), path);
            }
        } else if (value instanceof Sequence sequence) {
            sequence(member, index, sequence, owner, key, path);
        }
    }

    private void sequence(Member member, int index, Sequence sequence, Mapping owner, String key, String path) {
        boolean texts = !sequence.items().isEmpty()
                && sequence.items().size() <= Shape.MOST_STATES
                && sequence.items().stream()
                        .allMatch(item -> item instanceof Scalar scalar && scalar.kind() == Kind.TEXT);
        if (texts) {
            Map<String, Scalar> forms = new LinkedHashMap<>();
            for (int i = 0; i < sequence.items().size(); i++) {
                forms.put(Integer.toString(i), (Scalar) sequence.items().get(i));
            }
            add(member, key, Shape.STATES, forms, owner, List.of(index), path);
            return;
        }
        for (int i = 0; i < sequence.items().size(); i++) {
            Node item = sequence.items().get(i);
            String itemKey = key + "." + i;
            if (item instanceof Mapping inner) {
                mapping(inner, itemKey + ".");
            } else if (item instanceof Sequence inner) {
                sequence(new Member(itemKey, inner.start(), "", inner), index, inner, owner, itemKey, path);
            } else if (item instanceof Scalar scalar && scalar.kind() != Kind.OTHER) {
                Member asMember = new Member(itemKey, scalar.start(), "", scalar);
                add(asMember, itemKey, Shape.PLAIN, Map.of(Text.OTHER, scalar), owner, List.of(), path);
            }
        }
    }

    private static Map<String, Scalar> categories(Mapping inner) {
        Map<String, Scalar> forms = new TreeMap<>();
        for (Member member : inner.members()) {
            if (!CATEGORIES.contains(member.key())
                    || !(member.value() instanceof Scalar scalar)
                    || scalar.kind() == Kind.OTHER) {
                return Map.of();
            }
            forms.put(member.key(), scalar);
        }
        boolean plural = forms.containsKey(Text.OTHER) || forms.containsKey("many") || forms.containsKey("few");
        return plural ? forms : Map.of();
    }

    private void add(
            Member member,
            String key,
            Shape shape,
            Map<String, Scalar> forms,
            Mapping owner,
            List<Integer> members,
            String path) {
        source.checkCount(leaves.size() + 1, member.start(), limits);
        Map<String, String> texts = new TreeMap<>();
        forms.forEach((form, scalar) -> texts.put(form, scalar.text()));
        int dot = path.indexOf('.');
        FileEntry entry = FileEntry.of(key)
                .line(source.line(member.start()))
                .shape(shape)
                .note(member.comment())
                .section(dot < 0 ? "" : path.substring(0, dot))
                .texts(List.of(FileText.of(texts)))
                .build();
        leaves.add(new Leaf(entry, forms, owner, members, path));
    }
}
