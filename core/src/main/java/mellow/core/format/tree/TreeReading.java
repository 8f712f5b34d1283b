package mellow.core.format.tree;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.Habits;
import mellow.core.format.ReadOptions;
import mellow.core.format.Repeats;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.TextReading;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.TreeEntries.Found;
import mellow.core.format.tree.TreeEntries.Leaf;

/** A file of nested keys in one language as it was read. */
public final class TreeReading extends TextReading<Leaf> {

    private final Mapping top;
    private final int rootAt;
    private final Habits habits;
    private final Function<TreeReading, FilePatch> patching;

    private TreeReading(
            SourceText source, Found found, ReadOptions options, Function<TreeReading, FilePatch> patching) {
        super(
                source,
                List.of(found.language()),
                options.source().filter(found.language()::equals),
                Repeats.lastOf(whole(source, found.leaves(), Leaf::entry), Leaf::entry, source.problems()),
                Leaf::entry);
        this.top = found.top();
        this.rootAt = found.rootAt();
        this.habits = found.habits();
        this.patching = patching;
    }

    /**
     * The reading of a tree.
     *
     * @param patching how the format writes it in place
     */
    public static TreeReading of(
            SourceText source, Mapping tree, ReadOptions options, Function<TreeReading, FilePatch> patching) {
        return new TreeReading(source, TreeEntries.of(tree, source, options), options, patching);
    }

    /** The object that holds everything, below a language at the root. */
    public Mapping top() {
        return top;
    }

    /** Where the key at the root begins that names the language, -1 for none. */
    public int rootAt() {
        return rootAt;
    }

    /** Whether keys are nested; empty where the file shows neither. */
    public Optional<Boolean> nested() {
        boolean dots = false;
        for (int i = 0; i < size(); i++) {
            if (!item(i).ownerPath().isEmpty()) {
                return Optional.of(true);
            }
            dots |= item(i).entry().key().indexOf('.') >= 0;
        }
        return dots ? Optional.of(false) : Optional.empty();
    }

    /** Whether new keys are to be nested: as the file does, else as the first of the others that shows it. */
    public boolean nestedLike(List<FileReading> siblings) {
        return nested().orElseGet(() -> siblings.stream()
                .filter(TreeReading.class::isInstance)
                .map(sibling -> ((TreeReading) sibling).nested())
                .flatMap(Optional::stream)
                .findFirst()
                .orElse(false));
    }

    @Override
    public Habits habits() {
        return habits;
    }

    /** Nested keys have comments at most, and those are no fields of their own. */
    @Override
    public boolean has(Field field) {
        return false;
    }

    @Override
    public FilePatch patch() {
        return patching.apply(this);
    }
}
