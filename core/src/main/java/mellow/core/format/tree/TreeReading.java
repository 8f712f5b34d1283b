package mellow.core.format.tree;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileNames;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.Problem;
import mellow.core.format.ReadOptions;
import mellow.core.format.Repeats;
import mellow.core.format.source.SourceText;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.TreeEntries.Leaf;
import mellow.core.language.LanguageTag;

/** A file of nested keys in one language as it was read. */
public final class TreeReading implements FileReading {

    private final SourceText source;
    private final LanguageTag language;
    private final Optional<LanguageTag> from;
    private final Mapping top;
    private final List<Leaf> leaves;
    private final Function<TreeReading, FilePatch> patching;

    /**
     * The reading of a tree.
     *
     * @param patching how the format writes it in place
     */
    public TreeReading(
            SourceText source, Mapping tree, ReadOptions options, Function<TreeReading, FilePatch> patching) {
        TreeEntries.Found found = TreeEntries.of(tree, source, options.limits());
        this.source = source;
        this.top = found.top();
        this.patching = patching;
        this.language = options.language()
                .or(found::root)
                .or(() -> FileNames.language(source.problems().file()))
                .or(options::source)
                .orElse(LanguageTag.UNDETERMINED);
        this.from = options.source().filter(language::equals);
        this.leaves = Repeats.lastOf(found.leaves(), Leaf::entry, source.problems());
    }

    @Override
    public List<LanguageTag> languages() {
        return List.of(language);
    }

    @Override
    public Optional<LanguageTag> sourceLanguage() {
        return from;
    }

    @Override
    public int size() {
        return leaves.size();
    }

    @Override
    public FileEntry entry(int index) {
        return leaves.get(index).entry();
    }

    @Override
    public EntryId id(int index) {
        return leaves.get(index).entry().id();
    }

    /** The entry at {@code index} with its places. */
    public Leaf leaf(int index) {
        return leaves.get(index);
    }

    /** The object that holds everything, below a language at the root. */
    public Mapping top() {
        return top;
    }

    /** The file. */
    public SourceText source() {
        return source;
    }

    @Override
    public boolean has(Field field) {
        return false;
    }

    @Override
    public List<Problem> problems() {
        return source.problems().kept();
    }

    @Override
    public String charset() {
        return source.charset().name();
    }

    @Override
    public FilePatch patch() {
        return patching.apply(this);
    }
}
