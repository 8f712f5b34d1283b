package mellow.core.format;

import java.nio.charset.Charset;
import java.util.Optional;
import mellow.core.language.LanguageTag;

/**
 * What is known about a file before it is read; everything else is found in it.
 *
 * @param charset its character set
 * @param language the language of its texts, for formats with one language in a file
 * @param source the language that its texts are translated from
 * @param keys what tells entries apart, for bilingual formats
 * @param siblings what siblings by suffix are, for formats of nested keys
 * @param limits what it may not exceed
 */
public record ReadOptions(
        Optional<Charset> charset,
        Optional<LanguageTag> language,
        Optional<LanguageTag> source,
        Optional<KeyHabit> keys,
        Optional<SiblingHabit> siblings,
        Limits limits) {

    /** Nothing is known. */
    public static final ReadOptions AUTOMATIC = new ReadOptions(
            Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(), Optional.empty(), Limits.DEFAULT);

    /** The same in a language. */
    public ReadOptions in(LanguageTag known) {
        return new ReadOptions(charset, Optional.of(known), source, keys, siblings, limits);
    }

    /** The same from a language. */
    public ReadOptions from(LanguageTag known) {
        return new ReadOptions(charset, language, Optional.of(known), keys, siblings, limits);
    }

    /** The same in a character set. */
    public ReadOptions spelled(Charset known) {
        return new ReadOptions(Optional.of(known), language, source, keys, siblings, limits);
    }

    /** The same within limits. */
    public ReadOptions within(Limits known) {
        return new ReadOptions(charset, language, source, keys, siblings, known);
    }

    /** The same with entries told apart by that. */
    public ReadOptions by(KeyHabit known) {
        return new ReadOptions(charset, language, source, Optional.of(known), siblings, limits);
    }

    /** The same with siblings by suffix being that. */
    public ReadOptions with(SiblingHabit known) {
        return new ReadOptions(charset, language, source, keys, Optional.of(known), limits);
    }

    /** The language of a file that holds one: as somebody said, as the file says, as its name says, else the source's. */
    public LanguageTag languageOf(String file, Optional<LanguageTag> stated) {
        return language.or(() -> stated)
                .or(() -> FileNames.language(file))
                .or(() -> source)
                .orElse(LanguageTag.UNDETERMINED);
    }
}
