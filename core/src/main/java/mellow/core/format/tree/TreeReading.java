package mellow.core.format.tree;

import java.util.List;
import java.util.function.Function;
import mellow.core.format.FilePatch;
import mellow.core.format.ReadOptions;
import mellow.core.format.Repeats;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.TextReading;
import mellow.core.format.tree.Node.Mapping;
import mellow.core.format.tree.TreeEntries.Found;
import mellow.core.format.tree.TreeEntries.Leaf;
import mellow.core.language.LanguageTag;

/** A file of nested keys in one language as it was read. */
public final class TreeReading extends TextReading<Leaf> {

    private final Mapping top;
    private final Function<TreeReading, FilePatch> patching;

    private TreeReading(
            SourceText source,
            Found found,
            LanguageTag language,
            ReadOptions options,
            Function<TreeReading, FilePatch> patching) {
        super(
                source,
                List.of(language),
                options.source().filter(language::equals),
                Repeats.lastOf(found.leaves(), Leaf::entry, source.problems()),
                Leaf::entry);
        this.top = found.top();
        this.patching = patching;
    }

    /**
     * The reading of a tree.
     *
     * @param patching how the format writes it in place
     */
    public static TreeReading of(
            SourceText source, Mapping tree, ReadOptions options, Function<TreeReading, FilePatch> patching) {
        Found found = TreeEntries.of(tree, source, options.limits());
        LanguageTag language = options.languageOf(source.problems().file(), found.root());
        return new TreeReading(source, found, language, options, patching);
    }

    /** The object that holds everything, below a language at the root. */
    public Mapping top() {
        return top;
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
