package mellow.core.format;

import java.util.Optional;
import mellow.core.language.LanguageTag;

/**
 * What the names of files tell: {@code values-pt-rBR/strings.xml}, {@code messages.sr.xlf}, {@code de-DE.yml}, {@code strings_fi.properties},
 * {@code locale/fi/LC_MESSAGES/app.po}. Immutable functions.
 */
public final class FileNames {

    private FileNames() {}

    /** The language that a path tells by itself; the file's own name counts before its folders. */
    public static Optional<LanguageTag> language(String path) {
        return LanguagePart.sureOf(path).map(LanguagePart::tag);
    }

    /** The table that a path tells: its name without ending, language and folders of languages; empty when nothing is left. */
    public static String table(String path) {
        return LanguagePart.sureOf(path)
                .map(part -> tableOf(part.pattern()))
                .orElseGet(() -> tableOf(path.replace('\\', '/')));
    }

    /** The same of a path in which {@value LanguagePart#PLACE} stands for the language. */
    public static String tableOf(String pattern) {
        String[] parts = pattern.split("/");
        String stem = stem(parts[parts.length - 1]);
        if (!stem.contains(LanguagePart.PLACE)) {
            return stem;
        }
        String rest = stem.replaceAll("[._-]?\\{}", "").replaceAll("^[._-]+", "");
        if (!rest.isEmpty()) {
            return rest;
        }
        for (int i = parts.length - 2; i >= 0; i--) {
            boolean language = parts[i].contains(LanguagePart.PLACE)
                    || FileNames.language(parts[i] + "/x").isPresent();
            if (!language && !parts[i].equals("LC_MESSAGES") && !parts[i].isEmpty()) {
                return parts[i];
            }
        }
        return "";
    }

    private static String stem(String name) {
        int dot = name.lastIndexOf('.');
        return dot > 0 ? name.substring(0, dot) : name;
    }
}
