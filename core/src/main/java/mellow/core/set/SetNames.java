package mellow.core.set;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import mellow.core.format.FileNames;
import mellow.core.format.LanguagePart;

/** Names for tables: what their files are called, and the folders they lie in where that does not tell them apart. Never a language. */
public final class SetNames {

    /** Folders that say how a program is built and not which part of it this is. */
    private static final Set<String> BUILD = Set.of(
            "src",
            "main",
            "res",
            "resources",
            "java",
            "kotlin",
            "web",
            "public",
            "assets",
            "static",
            "dist",
            "target",
            "test",
            "locale",
            "locales",
            "i18n",
            "lang",
            "languages",
            "translations",
            "messages",
            "po",
            "config",
            "lc_messages",
            "values",
            "l10n");

    private static final String CATALOGUES = "po";

    private SetNames() {}

    /** "panels/ramp-panel_v2.csv" reads "Ramp panel". */
    public static String title(String path) {
        return titled(FileNames.table(path));
    }

    private static String titled(String name) {
        String words = name.replaceAll("[-_.]+", " ")
                .replaceFirst("(?i)\\s+(v|version)?\\s*[0-9]+$", "")
                .strip();
        return words.isEmpty() ? "Texts" : Character.toUpperCase(words.charAt(0)) + words.substring(1);
    }

    /** The name, with a number where it is taken; {@code taken} in small letters. */
    public static String free(String name, Set<String> taken) {
        String free = name;
        for (int n = 2; taken.contains(free.toLowerCase(Locale.ROOT)); n++) {
            free = name + " " + n;
        }
        return free;
    }

    /** The same sets with a name each, no two alike. */
    static List<FileSet> named(List<FileSet> sets) {
        Map<String, List<FileSet>> alike = new LinkedHashMap<>();
        sets.forEach(set -> alike.computeIfAbsent(plain(set).toLowerCase(Locale.ROOT), any -> new ArrayList<>())
                .add(set));
        Map<FileSet, String> names = new LinkedHashMap<>();
        for (List<FileSet> group : alike.values()) {
            List<String> prefixes = prefixes(group);
            for (int i = 0; i < group.size(); i++) {
                String name = prefixes.get(i).isEmpty()
                        ? plain(group.get(i))
                        : prefixed(prefixes.get(i), plain(group.get(i)));
                names.put(group.get(i), name);
            }
        }
        Map<String, Integer> taken = new LinkedHashMap<>();
        List<FileSet> named = new ArrayList<>();
        for (FileSet set : sets) {
            String name = Objects.requireNonNull(names.get(set));
            int n = taken.merge(name.toLowerCase(Locale.ROOT), 1, Integer::sum);
            named.add(new FileSet(
                    set.pattern(), n == 1 ? name : name + " " + n, set.members(), set.source(), set.table()));
        }
        return named;
    }

    private static String plain(FileSet set) {
        String pattern = set.pattern().replace("*", LanguagePart.PLACE);
        if (!pattern.contains(LanguagePart.PLACE)) {
            return title(pattern);
        }
        String name = FileNames.tableOf(pattern);
        return name.equalsIgnoreCase(CATALOGUES) ? ofCatalogues(set, name) : titled(name);
    }

    /** The folder of catalogues is named after the format everywhere; the template is named after the program, or the folder above is. */
    private static String ofCatalogues(FileSet set, String folder) {
        Optional<String> template = set.source().path().filter(path -> path.endsWith(".pot"));
        List<String> above = foldersOf(set.pattern());
        return template.map(SetNames::title)
                .orElseGet(() -> titled(above.isEmpty() ? folder : above.get(above.size() - 1)));
    }

    private static String prefixed(String folder, String name) {
        return titled(folder) + " " + Character.toLowerCase(name.charAt(0)) + name.substring(1);
    }

    /** For each set of the same name the nearest folder that none of the others has there; all its folders where there is none. */
    private static List<String> prefixes(List<FileSet> group) {
        if (group.size() == 1) {
            return List.of("");
        }
        List<List<String>> folders = group.stream().map(SetNames::folders).toList();
        int deepest = folders.stream().mapToInt(List::size).max().orElse(0);
        for (int back = 1; back <= deepest; back++) {
            int at = back;
            List<String> there = folders.stream()
                    .map(one -> one.size() < at ? "" : one.get(one.size() - at))
                    .toList();
            if (there.stream().distinct().count() == group.size()) {
                return there;
            }
        }
        return folders.stream().map(one -> String.join(" ", one)).toList();
    }

    private static List<String> folders(FileSet set) {
        String own = plain(set).toLowerCase(Locale.ROOT);
        return foldersOf(set.pattern()).stream()
                .filter(folder -> !titled(folder).toLowerCase(Locale.ROOT).equals(own))
                .collect(Collectors.toList());
    }

    private static List<String> foldersOf(String pattern) {
        String[] parts = pattern.split("/");
        List<String> folders = new ArrayList<>();
        for (int i = 0; i < parts.length - 1; i++) {
            boolean says = !parts[i].contains(LanguagePart.PLACE) && !BUILD.contains(parts[i].toLowerCase(Locale.ROOT));
            if (says && !parts[i].isEmpty()) {
                folders.add(parts[i]);
            }
        }
        return folders;
    }
}
