package mellow.core.format.source;

import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.Position;
import mellow.core.format.Problem;
import mellow.core.language.LanguageTag;
import mellow.core.text.Keepable;

/**
 * What the readings of text files share.
 *
 * @param <I> an entry with its places
 */
public abstract class TextReading<I> implements FileReading {

    private final SourceText source;
    private final List<LanguageTag> languages;
    private final Optional<LanguageTag> sourceLanguage;
    private final List<I> items;
    private final Function<I, FileEntry> entry;

    /**
     * A reading.
     *
     * @param items in file order, no entry twice
     * @param entry the entry of an item
     */
    protected TextReading(
            SourceText source,
            List<LanguageTag> languages,
            Optional<LanguageTag> sourceLanguage,
            List<I> items,
            Function<I, FileEntry> entry) {
        this.source = source;
        this.languages = List.copyOf(languages);
        this.sourceLanguage = sourceLanguage;
        this.items = items;
        this.entry = entry;
    }

    /**
     * Refuses halves of characters: an escape can spell one, no text file can hold it, and whatever would be written for it would be another text.
     *
     * @param read what is about to become a reading; {@code entry} tells its lines
     */
    protected static <T> List<T> whole(SourceText source, List<T> read, Function<T, FileEntry> entry) {
        if (source.text().indexOf('\\') < 0 && source.text().indexOf("&#") < 0) {
            return read;
        }
        for (T one : read) {
            FileEntry found = entry.apply(one);
            boolean halved = Keepable.halved(found.key())
                    || found.texts().stream()
                            .anyMatch(text -> text.forms().values().stream().anyMatch(Keepable::halved));
            if (halved) {
                throw source.problems()
                        .refuse(
                                Position.ofLine(Math.max(1, found.line())),
                                "half of a surrogate pair in “" + Keepable.shown(found.key(), 60) + "”",
                                "both halves, such as \\\\uD83D\\\\uDE00, or the character itself");
            }
        }
        return read;
    }

    /** The file. */
    public final SourceText source() {
        return source;
    }

    /** The entry at {@code index} with its places. */
    public final I item(int index) {
        return items.get(index);
    }

    @Override
    public final List<LanguageTag> languages() {
        return languages;
    }

    @Override
    public final Optional<LanguageTag> sourceLanguage() {
        return sourceLanguage;
    }

    @Override
    public final int size() {
        return items.size();
    }

    @Override
    public final FileEntry entry(int index) {
        return entry.apply(items.get(index));
    }

    @Override
    public final EntryId id(int index) {
        return entry(index).id();
    }

    @Override
    public final List<Problem> problems() {
        return source.problems().kept();
    }

    @Override
    public final String charset() {
        return source.charset().name();
    }
}
