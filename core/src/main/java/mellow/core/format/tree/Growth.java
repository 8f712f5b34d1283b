package mellow.core.format.tree;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import mellow.core.format.FileEntry;
import mellow.core.format.UnwritableTextException;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.Node.Member;
import mellow.core.format.tree.TreeEntries.Leaf;
import org.jspecify.annotations.Nullable;

/**
 * Where new entries of a file of nested keys go: into the object whose path has most of their key, behind their neighbour where it is there; what is left of
 * the key becomes objects of its own where the file nests its keys. Entries that need the same new object share it.
 */
public final class Growth {

    private final TreeReading file;
    private final boolean nested;
    private final Map<String, List<Integer>> leavesByOwner = new HashMap<>();
    private final List<Shoot> shoots = new ArrayList<>();
    private final Map<Mapping, Map<String, Branch>> opened = new IdentityHashMap<>();

    /** {@code nested}: whether what is left of a key is taken apart at its dots. */
    public Growth(TreeReading file, boolean nested) {
        this.file = file;
        this.nested = nested;
        for (int i = 0; i < file.size(); i++) {
            if (!file.item(i).members().isEmpty()) {
                leavesByOwner
                        .computeIfAbsent(file.item(i).ownerPath(), any -> new ArrayList<>())
                        .add(i);
            }
        }
    }

    /**
     * Something new in an object.
     *
     * @param owner the object
     * @param place index of the member it follows, -1 for an object without members
     * @param branch what comes
     */
    public record Shoot(Mapping owner, int place, Branch branch) {}

    /**
     * A new key.
     *
     * @param entry what it holds; null for an object
     * @param branches what the object holds
     */
    public record Branch(String key, @Nullable FileEntry entry, List<Branch> branches) {}

    /**
     * Finds a place for an entry.
     *
     * @param after index of the entry that it follows, -1 for none
     */
    public void add(int after, FileEntry added) {
        String key = added.key();
        Mapping owner = file.top();
        String path = "";
        int place = owner.members().size() - 1;
        for (int dot = key.lastIndexOf('.'); dot >= 0; dot = dot == 0 ? -1 : key.lastIndexOf('.', dot - 1)) {
            List<Integer> there = leavesByOwner.get(key.substring(0, dot + 1));
            if (there != null) {
                path = key.substring(0, dot + 1);
                Leaf leaf = file.item(nearest(there, after));
                owner = leaf.owner();
                place = Collections.max(leaf.members());
                break;
            }
        }
        List<Integer> top = leavesByOwner.get("");
        if (path.isEmpty() && top != null) {
            place = Collections.max(file.item(nearest(top, after)).members());
        }
        grow(owner, place, key.substring(path.length()), added);
    }

    /** The last of the entries up to {@code after}, else the first. */
    private static int nearest(List<Integer> leaves, int after) {
        int found = Collections.binarySearch(leaves, after < 0 ? Integer.MAX_VALUE : after);
        return leaves.get(Math.max(0, found >= 0 ? found : -found - 2));
    }

    private void grow(Mapping owner, int place, String rest, FileEntry added) {
        String[] parts = nested ? rest.split("\\.", -1) : new String[] {rest};
        boolean whole = parts.length == 1;
        for (String part : parts) {
            whole |= part.isEmpty();
        }
        if (whole) {
            shoots.add(new Shoot(owner, place, new Branch(rest, added, List.of())));
            return;
        }
        Map<String, Branch> known = opened.computeIfAbsent(owner, any -> new HashMap<>());
        Branch branch = known.get(parts[0]);
        if (branch == null) {
            for (Member member : owner.members()) {
                if (member.key().equals(parts[0])) {
                    throw new UnwritableTextException(
                            "The file has “" + parts[0] + "” as something else than an object, so " + added.key()
                                    + " has no place in it; export it fresh instead.");
                }
            }
            branch = new Branch(parts[0], null, new ArrayList<>());
            known.put(parts[0], branch);
            shoots.add(new Shoot(owner, place, branch));
        }
        for (int i = 1; i < parts.length - 1; i++) {
            branch = inner(branch, parts[i]);
        }
        branch.branches().add(new Branch(parts[parts.length - 1], added, List.of()));
    }

    private static Branch inner(Branch branch, String key) {
        for (Branch one : branch.branches()) {
            if (one.entry() == null && one.key().equals(key)) {
                return one;
            }
        }
        Branch made = new Branch(key, null, new ArrayList<>());
        branch.branches().add(made);
        return made;
    }

    /** What comes, in the order in which it was added. */
    public List<Shoot> shoots() {
        return shoots;
    }

    /**
     * Adds to {@code removed} the members whose objects hold nothing any more, so that no empty object stays behind.
     *
     * @param removed the members that go, by their object
     */
    public void prune(Map<Mapping, Set<Integer>> removed) {
        if (!removed.isEmpty()) {
            Set<Mapping> growing = Collections.newSetFromMap(new IdentityHashMap<>());
            shoots.forEach(shoot -> growing.add(shoot.owner()));
            emptied(file.top(), removed, growing);
        }
    }

    private static boolean emptied(Mapping mapping, Map<Mapping, Set<Integer>> removed, Set<Mapping> growing) {
        boolean empty = !mapping.members().isEmpty() && !growing.contains(mapping);
        Set<Integer> gone = removed.getOrDefault(mapping, Set.of());
        for (int i = 0; i < mapping.members().size(); i++) {
            if (gone.contains(i)) {
                continue;
            }
            if (mapping.members().get(i).value() instanceof Mapping inner && emptied(inner, removed, growing)) {
                removed.computeIfAbsent(mapping, any -> new TreeSet<>()).add(i);
                gone = removed.get(mapping);
            } else {
                empty = false;
            }
        }
        return empty;
    }
}
