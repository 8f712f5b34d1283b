package mellow.core.asset;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.asset.AssetPattern.Named;
import mellow.core.format.LanguagePart;
import mellow.core.language.LanguageTag;

/** Finds out from the names of many files which entry and language each is for. Takes time linear in the paths but for the few patterns that are tried. */
public final class AssetNames {

    /** So many patterns explain a folder; more of them guess. */
    private static final int MOST_PATTERNS = 5;

    /** A language that so many names tell in one way is one, though no name comes in two languages, where at least every other file is named so. */
    private static final int OFTEN = 3;

    /** One name of so many that a pattern explains comes in two languages: fewer are chance, as in thousands of icons. */
    private static final int SEVERAL_OF = 10;

    private static final int TRIED_OF_PATH = 4;

    private static final String QUALIFIED = LanguagePart.PLACE + "-";
    private static final Pattern SEPARATED = Pattern.compile("[^\\pL\\pN/]{1,3}$");

    /** Languages that products are often made in. */
    private static final Set<String> USUAL = Set.of(
            ("af am ar az be bg bn bs ca cs cy da de el en es et eu fa fi fil fr ga gl gu he hi hr hu hy id is it ja ka kk km kn ko ky lo lt lv mk ml mn mr ms my nb nl nn no"
                            + " pa pl pt ro ru si sk sl sq sr sv ta te th tr uk ur uz vi zh zu")
                    .split(" "));

    private AssetNames() {}

    /**
     * Proposes patterns, the one that explains most files first.
     *
     * @param known languages that the files are likely to be in
     */
    public static List<AssetPattern> propose(Collection<String> paths, Set<LanguageTag> known) {
        List<AssetPattern> patterns = new ArrayList<>();
        Map<ScaleMark, List<LanguagePart>> left = parts(paths);
        while (patterns.size() < MOST_PATTERNS && !left.isEmpty()) {
            Optional<AssetPattern> best = best(left, known);
            if (best.isEmpty()) {
                break;
            }
            AssetPattern pattern = narrowed(best.get(), left);
            int before = left.size();
            left.entrySet()
                    .removeIf(one -> pattern.named(one.getKey(), one.getValue()).isPresent());
            if (left.size() == before) {
                break;
            }
            patterns.add(pattern);
        }
        return patterns;
    }

    /** Every language that a path may tell, by path: finding them takes longest. */
    private static Map<ScaleMark, List<LanguagePart>> parts(Collection<String> paths) {
        Map<ScaleMark, List<LanguagePart>> parts = new LinkedHashMap<>();
        for (String path : paths) {
            ScaleMark scale = ScaleMark.ofPath(path);
            parts.computeIfAbsent(scale, one -> LanguagePart.of(one.without()));
        }
        return parts;
    }

    private static Optional<AssetPattern> best(Map<ScaleMark, List<LanguagePart>> paths, Set<LanguageTag> known) {
        Map<String, Seen> candidates = new LinkedHashMap<>();
        for (List<LanguagePart> parts : paths.values()) {
            int tried = 0;
            for (LanguagePart part : parts) {
                if (tried++ == TRIED_OF_PATH) {
                    break;
                }
                int place = tried;
                shape(part.pattern()).ifPresent(shape -> candidates
                        .computeIfAbsent(shape, any -> new Seen())
                        .add(part, place));
            }
        }
        return candidates.entrySet().stream()
                .filter(one -> one.getValue().counts(known, paths.size()))
                .max(Comparator.comparingInt(
                        (Map.Entry<String, Seen> one) -> one.getValue().worth(known)))
                .map(one -> AssetPattern.of(one.getKey()));
    }

    /** What was seen of files that a pattern explains. */
    private static final class Seen {
        private final Map<String, Set<LanguageTag>> byName = new HashMap<>();
        private final Map<LanguageTag, Integer> languages = new HashMap<>();
        private final Map<LanguageTag, Integer> sure = new HashMap<>();
        private int files;
        private int later;

        void add(LanguagePart part, int place) {
            files++;
            later += place - 1;
            byName.computeIfAbsent(part.pattern(), any -> new HashSet<>()).add(part.tag());
            languages.merge(part.tag(), 1, Integer::sum);
            if (part.sure()) {
                sure.merge(part.tag(), 1, Integer::sum);
            }
        }

        private long severally() {
            return byName.values().stream().filter(tags -> tags.size() > 1).count();
        }

        boolean counts(Set<LanguageTag> known, int of) {
            boolean most = 2 * files >= of;
            if (2 * usual(known) < files) {
                return false;
            }
            return severally() * SEVERAL_OF >= Math.max(1, byName.size())
                    || most && sure.values().stream().anyMatch(number -> number >= OFTEN)
                    || languages.keySet().stream().anyMatch(known::contains);
        }

        /** How many of the files are in languages that products come in, or that are expected: north-east, south-west and bottom right are codes as well. */
        private int usual(Set<LanguageTag> known) {
            return languages.entrySet().stream()
                    .filter(one -> known.contains(one.getKey())
                            || USUAL.contains(one.getKey().language()))
                    .mapToInt(Map.Entry::getValue)
                    .sum();
        }

        /** Files count most, then that they come in several languages, then that the part is where languages are expected. */
        int worth(Set<LanguageTag> known) {
            long sure = languages.entrySet().stream()
                    .filter(one -> known.contains(one.getKey()))
                    .mapToInt(Map.Entry::getValue)
                    .sum();
            return (int) (4L * files + 4 * severally() + sure - later);
        }
    }

    /** The pattern of a path whose language is known: the rest of its name and the folders after the language are the key. Empty where nothing is left for one. */
    private static Optional<String> shape(String pattern) {
        int slash = pattern.lastIndexOf('/');
        String name = pattern.substring(slash + 1);
        int dot = name.lastIndexOf('.');
        String ending = dot > 0 ? ".{ext}" : "";
        String stem = dot > 0 ? name.substring(0, dot) : name;
        int inName = stem.indexOf(LanguagePart.PLACE);
        int inFolder = slash < 0 ? -1 : pattern.substring(0, slash).indexOf(LanguagePart.PLACE);
        StringBuilder shape = new StringBuilder();
        if (inFolder >= 0) {
            int from = pattern.lastIndexOf('/', inFolder) + 1;
            int to = pattern.indexOf('/', inFolder);
            String folder = pattern.substring(from, to);
            int qualified = folder.indexOf(QUALIFIED);
            if (qualified >= 0) {
                // What a resource folder says besides its language, such as for which screens, tells its files apart.
                shape.append(pattern, 0, from + qualified).append(QUALIFIED + "{folder}/");
            } else {
                shape.append(from == 0 ? "" : "{folder}/").append(folder).append('/');
            }
        }
        if (inName < 0) {
            shape.append("{key}");
        } else if (stem.equals(LanguagePart.PLACE)) {
            if (inFolder >= 0 || slash < 0) {
                return Optional.empty();
            }
            shape.append("{key}/").append(LanguagePart.PLACE);
        } else {
            String before = stem.substring(0, inName);
            String after = stem.substring(inName + LanguagePart.PLACE.length());
            if (before.isEmpty() && inFolder < 0 && slash >= 0) {
                shape.append("{folder}/");
            }
            shape.append(before.isEmpty() ? "" : "{key}" + last(before))
                    .append(LanguagePart.PLACE)
                    .append(before.isEmpty() ? first(after) + "{key}" : after);
        }
        return Optional.of(shape.append(ending).toString().replace(LanguagePart.PLACE, "{language}"));
    }

    /** What separates a name from its language. */
    private static String last(String text) {
        Matcher separated = SEPARATED.matcher(text);
        return separated.find() ? separated.group() : text.substring(text.length() - 1);
    }

    private static String first(String text) {
        return text.isEmpty() ? "" : text.substring(0, 1);
    }

    /** The same with the folders that all of its files have in common written out, so that they are no part of the key. */
    private static AssetPattern narrowed(AssetPattern pattern, Map<ScaleMark, List<LanguagePart>> paths) {
        String text = pattern.toString();
        Map<String, String> mine = new LinkedHashMap<>();
        paths.forEach((path, parts) ->
                pattern.named(path, parts).ifPresent(named -> mine.put(path.in(path.without()), named.key())));
        String common = null;
        for (String path : mine.keySet()) {
            String folders = path.substring(0, path.lastIndexOf('/') + 1);
            common = common == null ? folders : common(common, folders);
        }
        if (common == null || common.isEmpty()) {
            return pattern;
        }
        String folders = text.startsWith("{folder}/") ? constantFolder(text, mine) : "";
        if (!folders.isEmpty()) {
            return AssetPattern.of(folders + text.substring("{folder}/".length()));
        }
        return text.startsWith("{key}") && !text.startsWith("{key}/") ? AssetPattern.of(common + text) : pattern;
    }

    /** The folders before that of the language where they are the same in all paths; {@code keys} are by path. */
    private static String constantFolder(String text, Map<String, String> keys) {
        AssetPattern rest = AssetPattern.of(text.substring("{folder}/".length()));
        String folder = null;
        for (Map.Entry<String, String> one : keys.entrySet()) {
            String path = one.getKey();
            String key = one.getValue();
            if (folder == null) {
                folder = folderOf(path, key, rest);
            } else if (!path.startsWith(folder) || !key.startsWith(folder)) {
                return "";
            }
        }
        return folder == null ? "" : folder;
    }

    /** The key begins with the folder, and so does the path, as far as what the pattern goes on with. */
    private static String folderOf(String path, String key, AssetPattern rest) {
        for (int slash = key.indexOf('/'); slash >= 0; slash = key.indexOf('/', slash + 1)) {
            String begun = key.substring(0, slash + 1);
            if (path.startsWith(begun)
                    && rest.named(path.substring(begun.length())).isPresent()) {
                return begun;
            }
        }
        return "";
    }

    private static String common(String one, String other) {
        int end = 0;
        int most = Math.min(one.length(), other.length());
        for (int i = 0; i < most && one.charAt(i) == other.charAt(i); i++) {
            if (one.charAt(i) == '/') {
                end = i + 1;
            }
        }
        return one.substring(0, end);
    }

    /**
     * What each path says, in the order of the paths; empty for one that is made like none of the patterns. A path without a language is that of the source
     * where others of its name have one.
     */
    public static List<Optional<Named>> read(List<String> paths, List<AssetPattern> patterns, LanguageTag source) {
        List<Optional<Named>> read = new ArrayList<>();
        Set<String> keys = new HashSet<>();
        for (String path : paths) {
            ScaleMark scale = ScaleMark.ofPath(path);
            List<LanguagePart> parts = LanguagePart.of(scale.without());
            Optional<Named> named = patterns.stream()
                    .map(pattern -> pattern.named(scale, parts))
                    .flatMap(Optional::stream)
                    .findFirst();
            named.ifPresent(one -> keys.add(one.key()));
            read.add(named);
        }
        for (int i = 0; i < read.size(); i++) {
            if (read.get(i).isEmpty()) {
                String path = paths.get(i);
                read.set(
                        i,
                        patterns.stream()
                                .map(pattern -> pattern.without(path))
                                .flatMap(Optional::stream)
                                .filter(keys::contains)
                                .findFirst()
                                .map(key -> new Named(key, source)));
            }
        }
        return read;
    }
}
