package mellow.core.format.xliff;

import java.util.List;
import java.util.Optional;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.Habits;
import mellow.core.format.KeyHabit;
import mellow.core.format.source.SourceText;
import mellow.core.format.source.TextReading;
import mellow.core.language.LanguageTag;

/** An XLIFF file as it was read. */
final class XliffReading extends TextReading<XliffReading.Item> {

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

    private final Habits habits;

    XliffReading(
            SourceText source,
            List<LanguageTag> languages,
            Habits habits,
            List<Item> items,
            boolean second,
            int bodyEnd) {
        super(source, languages, keyed(habits) ? Optional.empty() : Optional.of(languages.get(0)), items, Item::entry);
        this.habits = habits;
        this.second = second;
        this.bodyEnd = bodyEnd;
    }

    private static boolean keyed(Habits habits) {
        return habits.key().equals(Optional.of(KeyHabit.KEY));
    }

    /** Whether sources are keys, and no texts. */
    boolean keyed() {
        return keyed(habits);
    }

    /** Whether the text of that language is what the source says. */
    boolean isSource(int language) {
        return language == 0 && !keyed();
    }

    @Override
    public Habits habits() {
        return habits;
    }

    @Override
    public boolean bilingual() {
        return !keyed();
    }

    @Override
    public boolean has(Field field) {
        return switch (field) {
            case CONTEXT -> false;
            case NOTE, REFERENCE, LIMIT, SECTION -> true;
        };
    }

    @Override
    public FilePatch patch() {
        return new XliffPatch(this);
    }
}
