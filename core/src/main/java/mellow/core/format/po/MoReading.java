package mellow.core.format.po;

import java.util.List;
import java.util.Optional;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FilePatch;
import mellow.core.format.FileReading;
import mellow.core.format.Problem;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;

/** A compiled catalogue as the catalogue it was made of; it cannot be written in place. */
record MoReading(FileReading catalogue) implements FileReading {

    @Override
    public List<LanguageTag> languages() {
        return catalogue.languages();
    }

    @Override
    public Optional<LanguageTag> sourceLanguage() {
        return catalogue.sourceLanguage();
    }

    @Override
    public int size() {
        return catalogue.size();
    }

    @Override
    public FileEntry entry(int index) {
        return catalogue.entry(index);
    }

    @Override
    public EntryId id(int index) {
        return catalogue.id(index);
    }

    @Override
    public boolean has(Field field) {
        return field == Field.CONTEXT;
    }

    @Override
    public List<Problem> problems() {
        return catalogue.problems();
    }

    @Override
    public String charset() {
        return catalogue.charset();
    }

    @Override
    public FilePatch patch() {
        throw new UnwritableTextException("A compiled catalogue cannot be changed in place; write it fresh.");
    }
}
