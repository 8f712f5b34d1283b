package mellow.core.set;

import com.ibm.icu.util.ULocale;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import mellow.core.format.LanguagePart;
import mellow.core.language.LanguageTag;

/**
 * The files of a set that a table was fed from, and what a file of another language would be called among them.
 *
 * @param pattern their paths with {@value LanguagePart#PLACE} where the language stands
 * @param paths the path of each language's file
 * @param spellings how paths spell their languages
 * @param source the path of the file that holds the sources, absent when none does
 */
public record SetPaths(
        String pattern, Map<LanguageTag, String> paths, Map<LanguageTag, String> spellings, Optional<String> source) {

    /** The sets among the files of one table, the largest first. */
    public static List<SetPaths> of(Collection<KnownFile> files) {
        Map<String, Set<String>> shared = new HashMap<>();
        for (KnownFile file : files) {
            parts(file).forEach(part -> shared.computeIfAbsent(part.pattern(), any -> new HashSet<>())
                    .add(file.path()));
        }
        Map<String, Map<KnownFile, LanguagePart>> groups = new TreeMap<>();
        for (KnownFile file : files) {
            parts(file).stream()
                    .max(Comparator.comparing(part ->
                            Objects.requireNonNull(shared.get(part.pattern())).size()))
                    .ifPresent(part -> groups.computeIfAbsent(part.pattern(), any -> new LinkedHashMap<>())
                            .put(file, part));
        }
        List<SetPaths> sets = new ArrayList<>();
        groups.forEach((pattern, group) -> set(pattern, group, files).ifPresent(sets::add));
        sets.sort(Comparator.comparing((SetPaths set) -> -set.paths.size()).thenComparing(SetPaths::pattern));
        return sets;
    }

    /** What the path may mean for the language that its texts are known to be in; somebody may have corrected a region. */
    private static List<LanguagePart> parts(KnownFile file) {
        List<LanguagePart> all = LanguagePart.of(file.path());
        List<LanguagePart> exact = all.stream()
                .filter(part -> file.language().equals(Optional.of(part.tag())))
                .toList();
        return !exact.isEmpty()
                ? exact
                : all.stream()
                        .filter(part -> file.language()
                                .filter(tag -> tag.language().equals(part.tag().language()))
                                .isPresent())
                        .toList();
    }

    private static Optional<SetPaths> set(
            String pattern, Map<KnownFile, LanguagePart> group, Collection<KnownFile> files) {
        Map<LanguageTag, String> paths = new TreeMap<>();
        Map<LanguageTag, String> spellings = new TreeMap<>();
        LanguageTag source = files.iterator().next().source();
        group.forEach((file, part) -> {
            LanguageTag tag = file.language().orElse(part.tag());
            paths.put(tag, file.path());
            spellings.put(tag, part.spelled());
        });
        List<String> bases = FileSets.bases(pattern);
        Optional<String> base = files.stream()
                .map(KnownFile::path)
                .filter(path -> bases.contains(path) || path.endsWith(".pot"))
                .min(Comparator.comparing((String path) -> bases.indexOf(path) < 0)
                        .thenComparing(Comparator.naturalOrder()));
        Optional<String> leads = base.or(() -> Optional.ofNullable(paths.get(source)));
        return paths.size() > 1 || base.isPresent()
                ? Optional.of(new SetPaths(pattern, paths, spellings, leads))
                : Optional.empty();
    }

    /** How the path of a file in {@code tag} spells it, after the habits of the others. */
    public String spelling(LanguageTag tag) {
        ULocale locale = ULocale.forLanguageTag(tag.value());
        boolean regions = spellings.size() > 1
                && spellings.keySet().stream()
                        .allMatch(known -> known.value().matches("[a-z]+-([A-Za-z]{4}-)?([A-Z]{2}|[0-9]{3})"));
        if (regions && locale.getCountry().isEmpty()) {
            locale = ULocale.forLanguageTag(
                    tag.value() + "-" + ULocale.addLikelySubtags(locale).getCountry());
        }
        String language = locale.getLanguage();
        String script = locale.getScript();
        String region = locale.getCountry();
        if (pattern.contains("values-" + LanguagePart.PLACE)) {
            return script.isEmpty()
                    ? language + (region.isEmpty() ? "" : "-r" + region)
                    : "b+" + language + "+" + script + (region.isEmpty() ? "" : "+" + region);
        }
        String separator = separator();
        if (spellings.values().stream().anyMatch(one -> one.indexOf('@') > 0) && !script.isEmpty()) {
            String modifier = Map.of("Latn", "latin", "Cyrl", "cyrillic", "Arab", "arabic", "Deva", "devanagari")
                    .get(script);
            if (modifier != null) {
                return language + (region.isEmpty() ? "" : separator + region) + "@" + modifier;
            }
        }
        String spelled =
                language + (script.isEmpty() ? "" : separator + script) + (region.isEmpty() ? "" : separator + region);
        return lower() ? spelled.toLowerCase(Locale.ROOT) : spelled;
    }

    /** As the first that shows it; catalogues and bundles of Java take the underscore. */
    private String separator() {
        return spellings.values().stream()
                .filter(one -> one.indexOf('_') > 0 || one.indexOf('-') > 0)
                .findFirst()
                .map(one -> one.indexOf('_') > 0 ? "_" : "-")
                .orElse(pattern.matches(".*\\.(po|mo|properties)$") ? "_" : "-");
    }

    private boolean lower() {
        List<String> regional = spellings.values().stream()
                .filter(one -> one.matches("[A-Za-z]+[-_][A-Za-z]{2,4}"))
                .toList();
        return !regional.isEmpty() && regional.stream().allMatch(one -> one.equals(one.toLowerCase(Locale.ROOT)));
    }

    /** The path of a new file in {@code tag}. */
    public String path(LanguageTag tag) {
        return pattern.replace(LanguagePart.PLACE, spelling(tag));
    }
}
