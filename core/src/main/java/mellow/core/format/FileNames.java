package mellow.core.format;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.language.LanguageTag;

/**
 * What the names of files tell: {@code values-pt-rBR/strings.xml}, {@code messages.sr.xlf}, {@code de-DE.yml}, {@code strings_fi.properties},
 * {@code locale/fi/LC_MESSAGES/app.po}. Immutable functions.
 */
public final class FileNames {

    /** Android's folders: {@code values-fi}, {@code values-pt-rBR}, {@code values-b+sr+Latn}, each perhaps with more qualifiers. */
    private static final Pattern VALUES =
            Pattern.compile("values-(b\\+[A-Za-z0-9+]+|[a-z]{2,3}(?:-r[A-Z]{2})?)(?:-[a-z0-9-]+)?");

    private static final Pattern LAST_PART =
            Pattern.compile("^(.*?)[._-]?([A-Za-z]{2,3}(?:[-_][A-Za-z]{4})?(?:[-_](?:[A-Za-z]{2}|[0-9]{3}))?)$");

    /** Endings and folders of two or three letters that are no language here. */
    private static final List<String> NO_LANGUAGE = List.of(
            "app", "src", "res", "raw", "web", "lib", "new", "old", "xml", "all", "key", "txt", "doc", "ios", "www",
            "gui", "api", "dev", "tmp");

    private FileNames() {}

    /** The language that a path tells; the file's own name counts before its folders. */
    public static Optional<LanguageTag> language(String path) {
        String[] parts = path.replace('\\', '/').split("/");
        String name = stem(parts[parts.length - 1]);
        Optional<LanguageTag> own = ofName(name);
        if (own.isPresent()) {
            return own;
        }
        for (int i = parts.length - 2; i >= 0; i--) {
            Matcher values = VALUES.matcher(parts[i]);
            if (values.matches()) {
                String tag = values.group(1);
                return LanguageTag.parse(
                        tag.startsWith("b+") ? tag.substring(2).replace('+', '-') : tag.replace("-r", "-"));
            }
            Optional<LanguageTag> folder = whole(parts[i].replaceAll("\\.lproj$", ""));
            if (folder.isPresent()) {
                return folder;
            }
        }
        return Optional.empty();
    }

    private static Optional<LanguageTag> ofName(String name) {
        Optional<LanguageTag> all = whole(name);
        if (all.isPresent()) {
            return all;
        }
        // From the longest tag at the end of the name to the shortest: "app_zh-Hant_TW" before "TW".
        for (int i = 1; i < name.length(); i++) {
            char before = name.charAt(i - 1);
            if (before == '.' || before == '_' || before == '-') {
                Matcher end = LAST_PART.matcher(name.substring(i));
                if (end.matches() && end.group(1).isEmpty()) {
                    Optional<LanguageTag> tag = whole(end.group(2));
                    if (tag.isPresent()) {
                        return tag;
                    }
                }
            }
        }
        return Optional.empty();
    }

    private static Optional<LanguageTag> whole(String part) {
        if (!part.matches("[A-Za-z]{2,3}([-_][A-Za-z]{4})?([-_]([A-Za-z]{2}|[0-9]{3}))?")
                || NO_LANGUAGE.contains(part.toLowerCase(Locale.ROOT))) {
            return Optional.empty();
        }
        return LanguageTag.parse(part);
    }

    /** The table that a path tells: its name without ending, language and folders of languages; empty when nothing is left. */
    public static String table(String path) {
        String[] parts = path.replace('\\', '/').split("/");
        String stem = stem(parts[parts.length - 1]);
        Optional<LanguageTag> own = ofName(stem);
        if (own.isEmpty()) {
            return stem;
        }
        for (int i = 0; i < stem.length(); i++) {
            boolean boundary = i == 0 || "._-".indexOf(stem.charAt(i - 1)) >= 0;
            if (boundary && whole(stem.substring(i)).equals(own)) {
                return i == 0 ? folder(parts) : stem.substring(0, i - 1);
            }
        }
        return stem;
    }

    private static String folder(String[] parts) {
        for (int i = parts.length - 2; i >= 0; i--) {
            if (whole(parts[i]).isEmpty() && !parts[i].equals("LC_MESSAGES") && !parts[i].isEmpty()) {
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
