package mellow.core.format.xliff;

import java.util.List;
import java.util.Optional;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.Problem;
import mellow.core.format.source.SourceText;
import mellow.core.language.LanguageTag;

/** An XLIFF file as it was read. */
final class XliffReading implements FileReading {

    private final SourceText source;
    private final List<LanguageTag> languages;
    private final List<Item> items;
    final boolean second;
    final int bodyEnd;

    /**
     * An entry and where it stands.
     *
     * @param entry what it says
     * @param unit where its element begins: a {@code trans-unit}, a {@code unit}, or a {@code group} of plural forms
     * @param segment index of its segment in a unit of XLIFF 2, else 0
     * @param form names of the forms in a group, in file order; empty for a plain entry
     */
    record Item(FileEntry entry, int unit, int segment, List<String> form) {}

    XliffReading(SourceText source, List<LanguageTag> languages, List<Item> items, boolean second, int bodyEnd) {
        this.source = source;
        this.languages = languages;
        this.items = items;
        this.second = second;
        this.bodyEnd = bodyEnd;
    }

    @Override
    public List<LanguageTag> languages() {
        return languages;
    }

    @Override
    public Optional<LanguageTag> sourceLanguage() {
        return Optional.of(languages.get(0));
    }

    @Override
    public int size() {
        return items.size();
    }

    @Override
    public FileEntry entry(int index) {
        return items.get(index).entry;
    }

    @Override
    public EntryId id(int index) {
        return items.get(index).entry.id();
    }

    Item item(int index) {
        return items.get(index);
    }

    SourceText source() {
        return source;
    }

    @Override
    public boolean has(Field field) {
        return switch (field) {
            case CONTEXT -> false;
            case NOTE, REFERENCE, LIMIT, SECTION -> true;
        };
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
        return new XliffPatch(this);
    }
}
