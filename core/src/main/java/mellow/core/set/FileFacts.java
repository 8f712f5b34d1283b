package mellow.core.set;

import java.util.List;
import java.util.Optional;
import mellow.core.format.FileFormat;
import mellow.core.format.FileReading;
import mellow.core.language.LanguageTag;

/**
 * What is known about a file that was dropped, before anybody says what it is.
 *
 * @param path its path in what was dropped, {@code /} between folders
 * @param format the name of its format; of the one its name tells when it cannot be read
 * @param languages the languages it holds texts in, sources of a bilingual file apart, as it says itself or as its name says; none for a template
 * @param from the language that it says its texts are translated from
 * @param bilingual whether it holds sources and translations
 * @param prints its keys and texts
 * @param readable whether it could be read
 */
public record FileFacts(
        String path,
        String format,
        List<LanguageTag> languages,
        Optional<LanguageTag> from,
        boolean bilingual,
        Prints prints,
        boolean readable) {

    public FileFacts {
        languages = List.copyOf(languages);
    }

    /** What a reading tells. */
    public static FileFacts of(String path, FileFormat format, FileReading file) {
        List<LanguageTag> all = file.languages();
        boolean bilingual = format.bilingual() && file.sourceLanguage().isPresent();
        Optional<LanguageTag> from =
                file.sourceLanguage().filter(tag -> bilingual && !tag.equals(LanguageTag.UNDETERMINED));
        int source = bilingual ? all.indexOf(file.sourceLanguage().orElseThrow()) : -1;
        List<LanguageTag> texts = all.stream()
                .filter(tag -> !tag.equals(LanguageTag.UNDETERMINED) && (all.size() == 1 || all.indexOf(tag) != source))
                .distinct()
                .toList();
        int column = all.isEmpty() ? -1 : all.size() - 1;
        // A template's only column is its source, which is no language of its own.
        List<LanguageTag> own = bilingual && all.size() == 1 && isTemplate(path) ? List.of() : texts;
        return new FileFacts(
                path.replace('\\', '/'), format.name(), own, from, bilingual, Prints.of(file, column), true);
    }

    /** A file that cannot be read. */
    public static FileFacts unreadable(String path, String format) {
        return new FileFacts(path.replace('\\', '/'), format, List.of(), Optional.empty(), false, Prints.NONE, false);
    }

    /** Whether it is a template of catalogues. */
    public boolean template() {
        return isTemplate(path);
    }

    private static boolean isTemplate(String path) {
        return path.endsWith(".pot");
    }
}
