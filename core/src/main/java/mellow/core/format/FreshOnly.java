package mellow.core.format;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import mellow.core.language.LanguageTag;

/**
 * A file of a format that is only written fresh, as it was read.
 *
 * @param entries what it holds; how it was understood, where that is a reading itself
 * @param problems what is wrong with it
 * @param charset its character set
 * @param fields what it says of entries beside texts
 * @param format what it is, for the sentence
 */
public record FreshOnly(EntryList entries, List<Problem> problems, String charset, Set<Field> fields, String format)
        implements FileReading {

    @Override
    public List<LanguageTag> languages() {
        return entries.languages();
    }

    @Override
    public Optional<LanguageTag> sourceLanguage() {
        return entries.sourceLanguage();
    }

    @Override
    public int size() {
        return entries.size();
    }

    @Override
    public FileEntry entry(int index) {
        return entries.entry(index);
    }

    @Override
    public EntryId id(int index) {
        return entries.entry(index).id();
    }

    @Override
    public boolean has(Field field) {
        return fields.contains(field);
    }

    @Override
    public Habits habits() {
        return entries instanceof FileReading read ? read.habits() : Habits.NONE;
    }

    @Override
    public boolean bilingual() {
        return entries instanceof FileReading read && read.bilingual();
    }

    @Override
    public Optional<Set<String>> forms(int index, int language) {
        return entries instanceof FileReading read ? read.forms(index, language) : Optional.empty();
    }

    @Override
    public FilePatch patch() {
        throw new UnwritableTextException(format + " cannot be changed in place; write it fresh.");
    }
}
