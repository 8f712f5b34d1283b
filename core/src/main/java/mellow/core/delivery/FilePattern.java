package mellow.core.delivery;

import java.nio.charset.StandardCharsets;
import java.text.Normalizer;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mellow.core.asset.ScaleMark;
import mellow.core.language.LanguageTag;
import org.jspecify.annotations.Nullable;

/**
 * How files are named: words and places such as {@code {table}/{tag_}.json}. Names are checked for what common file systems take.
 *
 * @param pattern as it was written
 */
public record FilePattern(String pattern) {

    /** Places that a pattern may have. */
    public static final Set<String> PLACES = Set.of(
            "product",
            "table",
            "section",
            "tag",
            "tag_",
            "tag-r",
            "language",
            "selector",
            "number",
            "key",
            "folder",
            "name",
            "path",
            "ext");

    private static final Pattern PLACE = Pattern.compile("\\{([^{}]*)\\}");
    private static final Pattern ILLEGAL = Pattern.compile("[\\\\:*?\"<>|\\x00-\\x1f\\x7f]");
    private static final Pattern DEVICE = Pattern.compile("(?i)(con|prn|aux|nul|com[0-9]|lpt[0-9])(\\..*)?");
    /** An empty name, and dots and spaces at the end of one, before a slash. */
    private static final Pattern NO_FOLDER = Pattern.compile("(?:^|(?<=/)|[. ]+)/");

    private static final int LONGEST_PART = 255;
    private static final int LONGEST = 1_000;
    /** Names of resource folders keep three codes that were given up elsewhere. */
    private static final Map<String, String> FORMER = Map.of("he", "iw", "id", "in", "yi", "ji");

    /**
     * What fills the places of a name.
     *
     * @param language null for a file of several languages
     * @param number of the delivery
     * @param key of an entry, empty for a file of many; its slashes are folders, and the mark of a picture for finer screens ({@code @2x}) goes before the ending
     * @param path where a file lay when it came, with its folders; empty for a new one
     */
    public record Fill(
            String product,
            String table,
            String section,
            @Nullable LanguageTag language,
            @Nullable Integer selector,
            int number,
            String key,
            String path,
            String ext) {}

    /**
     * A name.
     *
     * @throws UndeliverableException when the pattern has a place that there is not, or the name is none that every common file system takes
     */
    public String name(Fill fill) {
        ScaleMark scale = ScaleMark.ofKey(fill.key);
        String key = scale.without();
        StringBuilder name = new StringBuilder();
        Matcher place = PLACE.matcher(key.indexOf('/') < 0 ? withoutFolder() : pattern);
        while (place.find()) {
            place.appendReplacement(name, Matcher.quoteReplacement(value(place.group(1), key, fill)));
        }
        place.appendTail(name);
        String whole = scale.in(name.toString());
        require(whole);
        return whole;
    }

    /** The pattern for keys without a folder, whose place goes with the sign that sets it off. */
    private String withoutFolder() {
        return pattern.replaceAll("(^|/)\\{folder\\}/", "$1").replaceAll("[-_.]?\\{folder\\}", "");
    }

    private String value(String place, String key, Fill fill) {
        if (place.equals("path")) {
            // Its folders stay; what would lead out of them is refused with the whole name.
            return ILLEGAL.matcher(fill.path).replaceAll("-");
        } else if (place.equals("key")) {
            return inFolders(key);
        } else if (place.equals("folder")) {
            String folder = inFolders(key.substring(0, key.lastIndexOf('/') + 1));
            return folder.substring(0, folder.length() - 1);
        }
        LanguageTag tag = fill.language;
        String value =
                switch (place) {
                    case "product" -> fill.product;
                    case "table" -> fill.table;
                    case "section" -> fill.section;
                    case "name" -> key.substring(key.lastIndexOf('/') + 1);
                    case "ext" -> fill.ext;
                    case "number" -> Integer.toString(fill.number);
                    case "tag" -> tag == null ? null : tag.value();
                    case "tag_" -> tag == null ? null : tag.value().replace('-', '_');
                    case "tag-r" -> tag == null ? null : resource(tag);
                    case "language" -> tag == null ? null : tag.language();
                    case "selector" -> fill.selector == null ? null : Integer.toString(fill.selector);
                    default ->
                        throw new UndeliverableException(
                                "unknown-place",
                                "The name “{pattern}” has a place {place}, and there is none of that name.",
                                Map.of("pattern", pattern, "place", "{" + place + "}"));
                };
        if (value == null) {
            throw new UndeliverableException(
                    "empty-place",
                    place.equals("selector") && tag != null
                            ? "The name “{pattern}” has a place {place}, and {language} has no number."
                            : "The name “{pattern}” has a place {place}, and the file is of several languages.",
                    Map.of("pattern", pattern, "place", "{" + place + "}", "language", tag == null ? "" : tag.value()));
        }
        // A value is a part of a name and never a way out of its folder.
        return value.replaceAll("[\\\\/:*?\"<>|\\x00-\\x1f\\x7f]", "-");
    }

    /** A key with its slashes as folders; what no folder is called, or leads out of one, becomes a hyphen. */
    private static String inFolders(String key) {
        return ILLEGAL.matcher(NO_FOLDER.matcher(key).replaceAll("-/")).replaceAll("-");
    }

    /** As resource folders are named: {@code pt-rBR}, {@code b+sr+Latn}, {@code iw}. */
    private static String resource(LanguageTag tag) {
        String[] parts = tag.value().split("-");
        String language = FORMER.getOrDefault(parts[0], parts[0]);
        if (parts.length == 1) {
            return language;
        }
        return parts.length == 2 && parts[1].length() == 2
                ? language + "-r" + parts[1]
                : "b+" + String.join("+", tag.value().split("-"));
    }

    private void require(String name) {
        String wrong = null;
        if (name.isEmpty()
                || name.length() > LONGEST
                || name.startsWith("/")
                || ILLEGAL.matcher(name).find()) {
            wrong = name;
        } else {
            for (String part : name.split("/", -1)) {
                boolean sound = !part.isEmpty()
                        && !part.equals(".")
                        && !part.equals("..")
                        && !part.endsWith(".")
                        && !part.endsWith(" ")
                        && !DEVICE.matcher(part).matches()
                        && part.getBytes(StandardCharsets.UTF_8).length <= LONGEST_PART;
                if (!sound) {
                    wrong = part;
                    break;
                }
            }
        }
        if (wrong != null) {
            throw new UndeliverableException(
                    "bad-file-name",
                    "By “{pattern}” a file would be called “{name}”, which not every file system takes.",
                    Map.of("pattern", pattern, "name", wrong));
        }
    }

    /** Collects names and refuses two that are one where case and spelling of letters make no difference, and a file that is a folder as well. */
    public static final class Names {

        private final Map<String, String> taken = new HashMap<>();
        private final Set<String> folders = new HashSet<>();

        /** Takes a name. */
        public void take(String name) {
            String folded = Normalizer.normalize(name, Normalizer.Form.NFC).toLowerCase(Locale.ROOT);
            String other = taken.get(folded);
            if (other != null) {
                throw new UndeliverableException(
                        "same-file-name",
                        other.equals(name)
                                ? "Two files would be called “{name}”; give the name a place that tells them apart, such as {place}."
                                : "“{name}” and “{other}” are one name where case makes no difference.",
                        Map.of("name", name, "other", other, "place", "{tag}"));
            }
            List<String> within = new ArrayList<>();
            for (int slash = folded.indexOf('/'); slash >= 0; slash = folded.indexOf('/', slash + 1)) {
                within.add(folded.substring(0, slash));
            }
            if (folders.contains(folded) || within.stream().anyMatch(taken::containsKey)) {
                throw new UndeliverableException(
                        "file-and-folder",
                        "By “{name}” there would be a file and a folder of the same name; give files an ending, such as {place}.",
                        Map.of("name", name, "place", ".{ext}"));
            }
            folders.addAll(within);
            taken.put(folded, name);
        }
    }
}
