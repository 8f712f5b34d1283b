package mellow.core.set;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Predicate;
import mellow.core.format.LanguagePart;
import mellow.core.language.LanguageTag;
import mellow.core.set.Apart.Why;
import mellow.core.set.FileSet.Member;
import org.jspecify.annotations.Nullable;

/**
 * Finds the sets among files that came together: files of one format whose paths differ in a language only and whose keys overlap. Every path is seen with
 * each language that it may name; the pattern that most languages share wins, so that "no", "it" and "is" are words where nothing beside them is a language.
 * Then the file without a language, or a template, joins as the base. Cost: a few looks at each path, and one comparison of keys for each file.
 */
public final class FileSets {

    /** A file belongs to a set when at least this share of its keys is there too. */
    private static final double SHARED = 0.25;

    /** Stands for any name in the pattern of files that say their language inside only. */
    private static final String ANY = "*";

    private final Map<String, FileFacts> files = new TreeMap<>();
    private final Map<String, List<KnownFile>> known = new HashMap<>();
    private final Belonging belonging;
    private final Map<String, List<KnownFile>> knownPatterns = new HashMap<>();
    private final List<Apart> apart = new ArrayList<>();
    private final Map<String, Group> groups = new LinkedHashMap<>();
    private final Set<String> placed = new HashSet<>();

    /** Files of one pattern, by language. */
    private static final class Group {
        final String pattern;
        final Map<LanguageTag, LanguagePart> parts = new TreeMap<>();
        final Map<LanguageTag, FileFacts> files = new TreeMap<>();

        @Nullable
        FileFacts base;

        Group(String pattern) {
            this.pattern = pattern;
        }

        FileFacts reference() {
            return base != null && base.prints().size() > 0
                    ? base
                    : files.values().stream()
                            .max(Comparator.comparingInt(file -> file.prints().size()))
                            .orElseThrow();
        }
    }

    private FileSets(Collection<FileFacts> dropped, Collection<KnownFile> before, Belonging belonging) {
        this.belonging = belonging;
        dropped.forEach(file -> files.put(file.path(), file));
        for (KnownFile file : before) {
            known.computeIfAbsent(file.path(), any -> new ArrayList<>()).add(file);
            file.language().ifPresent(tag -> LanguagePart.of(file.path()).stream()
                    .filter(part -> part.tag().equals(tag))
                    .findFirst()
                    .ifPresent(part -> knownPatterns
                            .computeIfAbsent(part.pattern(), any -> new ArrayList<>())
                            .add(file)));
        }
    }

    /**
     * What files were sorted into.
     *
     * @param sets the sets, by their patterns
     * @param apart files of no set, by their paths
     */
    public record Sorted(List<FileSet> sets, List<Apart> apart) {}

    /**
     * Sorts files into sets.
     *
     * @param dropped the files that came together
     * @param before the files that tables were fed from
     * @param belonging asked before a file is said to be a table's
     */
    public static Sorted of(Collection<FileFacts> dropped, Collection<KnownFile> before, Belonging belonging) {
        return new FileSets(dropped, before, belonging).sorted();
    }

    /** Tells whether a table has the keys of a file, so that a path of the same name in another product is not taken for it. */
    @FunctionalInterface
    public interface Belonging {

        /** Whether the file at {@code path} may be one that {@code table} is fed from. */
        boolean test(String path, long table);
    }

    private Sorted sorted() {
        group(file -> file.readable() && file.prints().size() > 0);
        keepOverlapping();
        group(file -> true);
        joinBases();
        leaveLone();
        splitFormats();
        List<FileSet> sets = new ArrayList<>();
        for (Group group : groups.values()) {
            sets.add(set(group));
        }
        for (FileFacts file : files.values()) {
            if (!placed.contains(file.path())) {
                single(file).ifPresent(sets::add);
            }
        }
        sets.sort(Comparator.comparing(FileSet::pattern));
        apart.sort(Comparator.comparing(Apart::path));
        return new Sorted(SetNames.named(sets), List.copyOf(apart));
    }

    /** Puts every file that is in no group yet under the pattern that most languages share. */
    private void group(Predicate<FileFacts> wanted) {
        Map<String, Set<LanguageTag>> languages = new HashMap<>();
        Map<FileFacts, List<LanguagePart>> ways = new LinkedHashMap<>();
        groups.forEach((pattern, group) -> languages.put(pattern, new HashSet<>(group.files.keySet())));
        knownPatterns.forEach((pattern, ones) -> ones.forEach(one -> languages
                .computeIfAbsent(pattern, any -> new HashSet<>())
                .add(one.language().orElseThrow())));
        for (FileFacts file : files.values()) {
            if (!placed.contains(file.path())
                    && wanted.test(file)
                    && file.languages().size() <= 1
                    && !file.template()) {
                List<LanguagePart> parts = ways(file);
                ways.put(file, parts);
                parts.forEach(part -> languages
                        .computeIfAbsent(part.pattern(), any -> new HashSet<>())
                        .add(part.tag()));
            }
        }
        Map<String, List<FileFacts>> rivals = new TreeMap<>();
        ways.forEach((file, parts) -> best(file, parts, languages).ifPresent(part -> {
            Group group = groups.computeIfAbsent(part.pattern(), Group::new);
            if (group.files.putIfAbsent(part.tag(), file) == null) {
                group.parts.put(part.tag(), part);
                placed.add(file.path());
            } else {
                rivals.computeIfAbsent(part.pattern(), any -> new ArrayList<>()).add(file);
            }
        }));
        rivals.forEach((pattern, ones) -> ones.forEach(file -> setApart(file, Why.SAME_LANGUAGE, pattern)));
    }

    private static List<LanguagePart> ways(FileFacts file) {
        List<LanguagePart> parts = new ArrayList<>(LanguagePart.of(file.path()));
        if (parts.isEmpty() && file.languages().size() == 1 && file.bilingual()) {
            String path = file.path();
            int name = path.lastIndexOf('/') + 1;
            int dot = Math.max(path.lastIndexOf('.'), name);
            parts.add(new LanguagePart(
                    path.substring(0, name) + ANY + path.substring(dot),
                    file.languages().get(0),
                    "",
                    false));
        }
        return parts;
    }

    /** What fewer than two files share has to be sure of itself. */
    private static Optional<LanguagePart> best(
            FileFacts file, List<LanguagePart> parts, Map<String, Set<LanguageTag>> languages) {
        LanguagePart best = null;
        int most = 0;
        for (LanguagePart part : parts) {
            int shared = languages.getOrDefault(part.pattern(), Set.of()).size();
            boolean stated = file.languages().contains(part.tag());
            int weight = 2 * shared + (stated ? 1 : 0);
            if ((shared > 1 || part.sure()) && weight > most) {
                best = part;
                most = weight;
            }
        }
        return Optional.ofNullable(best);
    }

    /** Without company a language has to stand in the file's own name; a folder called "io" or "id" is one only beside others, but English is where products begin. */
    private static boolean alone(LanguagePart part) {
        boolean own = part.pattern().indexOf(LanguagePart.PLACE, part.pattern().lastIndexOf('/') + 1) >= 0;
        String language = part.tag().language();
        return part.sure() && language.length() == 2 && (own || language.equals("en"));
    }

    /** Files that share a pattern and no keys are no set: {@code de.json} and {@code it.json} may be languages, {@code id.json} beside them a list of numbers. */
    private void keepOverlapping() {
        for (Group group : List.copyOf(groups.values())) {
            FileFacts reference = group.reference();
            for (Map.Entry<LanguageTag, FileFacts> one : new TreeMap<>(group.files).entrySet()) {
                if (!overlap(one.getValue(), reference)) {
                    group.files.remove(one.getKey());
                    group.parts.remove(one.getKey());
                    setApart(one.getValue(), Why.OTHER_KEYS, group.pattern);
                }
            }
        }
    }

    private static boolean overlap(FileFacts file, FileFacts reference) {
        int own = file.prints().size();
        return own == 0 || file == reference || file.prints().common(reference.prints()) >= SHARED * own;
    }

    private void setApart(FileFacts file, Why why, @Nullable String of) {
        placed.add(file.path());
        apart.add(new Apart(file.path(), why, of));
    }

    private void leaveLone() {
        groups.values().removeIf(group -> {
            boolean lone = group.files.size() == 1
                    && group.base == null
                    && !knownPatterns.containsKey(group.pattern)
                    && group.parts.values().stream().noneMatch(FileSets::alone);
            if (lone) {
                group.files.values().forEach(file -> placed.remove(file.path()));
            }
            return lone;
        });
    }

    private void joinBases() {
        for (Group group : groups.values()) {
            for (String path : bases(group.pattern)) {
                FileFacts file = files.get(path);
                if (file != null
                        && !placed.contains(path)
                        && file.languages().size() <= 1
                        && overlap(file, group.reference())) {
                    group.base = file;
                    placed.add(path);
                    break;
                }
            }
            if (group.base == null) {
                template(group).ifPresent(file -> {
                    group.base = file;
                    placed.add(file.path());
                });
            }
        }
    }

    /** What the path of a base may be: the pattern without its language, or with a word that says that it is one. */
    static List<String> bases(String pattern) {
        List<String> bases = new ArrayList<>();
        String place = "\\{}";
        bases.add(pattern.replaceAll("[._-]" + place, "").replaceAll(place + "[._-]?", ""));
        bases.add(pattern.replaceAll("(?<=^|/)" + place + "/", "")
                .replaceAll("[._-]" + place, "")
                .replaceAll(place + "[._-]?", ""));
        for (String word : List.of("default", "base", "Base", "source", "template", "root")) {
            bases.add(pattern.replace(LanguagePart.PLACE, word));
        }
        return bases;
    }

    /** A template beside catalogues, or in one of the folders above them; the one of their name before any other. */
    private Optional<FileFacts> template(Group group) {
        String folder = group.pattern.substring(
                0,
                group.pattern.indexOf(LanguagePart.PLACE) < 0
                        ? group.pattern.lastIndexOf('/') + 1
                        : group.pattern.lastIndexOf('/', group.pattern.indexOf(LanguagePart.PLACE)) + 1);
        FileFacts reference = group.reference();
        String name =
                group.pattern.substring(group.pattern.lastIndexOf('/') + 1).replaceAll("\\.[a-z]+$", "");
        return files.values().stream()
                .filter(file -> file.template() && !placed.contains(file.path()))
                .filter(file -> file.format().equals(reference.format()))
                .filter(file ->
                        folder.startsWith(file.path().substring(0, file.path().lastIndexOf('/') + 1)))
                .filter(file -> overlap(reference, file))
                .max(Comparator.comparing((FileFacts file) -> file.path().endsWith("/" + name + ".pot")
                                || file.path().equals(name + ".pot"))
                        .thenComparing(file -> file.path().lastIndexOf('/'))
                        .thenComparing(FileFacts::path, Comparator.reverseOrder()));
    }

    /** A few files of another format beside many of the same name are no table of their own. */
    private void splitFormats() {
        Map<String, List<Group>> stems = new TreeMap<>();
        groups.values().forEach(group -> stems.computeIfAbsent(
                        group.pattern.replaceAll("\\.[A-Za-z0-9]+$", ""), any -> new ArrayList<>())
                .add(group));
        for (List<Group> same : stems.values()) {
            Group largest = same.stream()
                    .max(Comparator.comparingInt(group -> group.files.size()))
                    .orElseThrow();
            Optional<Group> catalogues = same.stream()
                    .filter(group -> group.reference().format().equals("po"))
                    .findFirst();
            for (Group group : same) {
                boolean few =
                        group != largest && 4 * group.files.size() <= largest.files.size() && largest.files.size() > 2;
                // Compiled catalogues lie beside what they were compiled from.
                boolean compiled = group.reference().format().equals("mo") && catalogues.isPresent();
                if (few || compiled) {
                    groups.remove(group.pattern);
                    group.files
                            .values()
                            .forEach(file -> setApart(
                                    file, Why.OTHER_FORMAT, compiled ? catalogues.get().pattern : largest.pattern));
                    if (group.base != null) {
                        setApart(group.base, Why.OTHER_FORMAT, compiled ? catalogues.get().pattern : largest.pattern);
                    }
                }
            }
        }
        for (Group group : groups.values()) {
            String format = group.reference().format();
            for (Map.Entry<LanguageTag, FileFacts> one : new TreeMap<>(group.files).entrySet()) {
                if (one.getValue().readable() && !one.getValue().format().equals(format)) {
                    group.files.remove(one.getKey());
                    group.parts.remove(one.getKey());
                    setApart(one.getValue(), Why.OTHER_FORMAT, group.pattern);
                }
            }
        }
        groups.values()
                .removeIf(group -> group.files.values().stream().noneMatch(FileFacts::readable)
                        && (group.base == null || !group.base.readable())
                        && leaveUnreadable(group));
    }

    private boolean leaveUnreadable(Group group) {
        group.files.values().forEach(file -> apart.add(new Apart(file.path(), Why.UNREADABLE, null)));
        if (group.base != null) {
            apart.add(new Apart(group.base.path(), Why.UNREADABLE, null));
        }
        return true;
    }

    private FileSet set(Group group) {
        List<Member> members = new ArrayList<>();
        group.files.forEach((tag, file) -> members.add(new Member(
                file.path(),
                Optional.of(tag),
                Objects.requireNonNull(group.parts.get(tag)).spelled())));
        Optional<KnownFile> before = tableOf(group);
        FileSet.Source source = before.map(file -> ofTable(group, file.source()))
                .orElseGet(() -> SourceFinder.of(group.files, Optional.ofNullable(group.base)));
        FileFacts base = group.base;
        if (base != null) {
            // A base whose language nothing tells waits for somebody to say it.
            Optional<LanguageTag> language = Optional.of(source.language())
                    .filter(tag -> !tag.equals(LanguageTag.UNDETERMINED)
                            && source.path().filter(base.path()::equals).isPresent());
            members.add(new Member(base.path(), language, ""));
        }
        members.sort(Comparator.comparing((Member one) -> !source.path().equals(Optional.of(one.path())))
                .thenComparing(one -> one.language().map(LanguageTag::value).orElse(""))
                .thenComparing(Member::path));
        return new FileSet(
                group.pattern, "", members, source, before.map(KnownFile::table).orElse(null));
    }

    /** The table that one of the files was taken into, else one that was fed from files of the same pattern; the last such table that has their keys. */
    private Optional<KnownFile> tableOf(Group group) {
        String reference = group.reference().path();
        List<FileFacts> all = new ArrayList<>(group.files.values());
        if (group.base != null) {
            all.add(group.base);
        }
        List<KnownFile> candidates = new ArrayList<>(knownPatterns.getOrDefault(group.pattern, List.of()));
        all.forEach(file -> candidates.addAll(known.getOrDefault(file.path(), List.of())));
        return belonging(candidates, reference);
    }

    private Optional<KnownFile> belonging(List<KnownFile> candidates, String path) {
        Map<Long, Boolean> asked = new HashMap<>();
        for (int i = candidates.size() - 1; i >= 0; i--) {
            KnownFile candidate = candidates.get(i);
            if (asked.computeIfAbsent(candidate.table(), table -> belonging.test(path, table))) {
                return Optional.of(candidate);
            }
        }
        return Optional.empty();
    }

    private static FileSet.Source ofTable(Group group, LanguageTag language) {
        Optional<String> file = Optional.ofNullable(group.base)
                .map(FileFacts::path)
                .or(() -> SourceFinder.leading(group.files, language));
        return new FileSet.Source(language, file, FileSet.Evidence.TABLE);
    }

    /** A file in no set: by itself when something tells that it is a table, else apart. */
    private Optional<FileSet> single(FileFacts file) {
        boolean only = files.values().stream().filter(FileFacts::readable).count() == 1;
        KnownFile before = belonging(known.getOrDefault(file.path(), List.of()), file.path())
                .orElse(null);
        if (!file.readable()) {
            setApart(file, Why.UNREADABLE, null);
            return Optional.empty();
        }
        boolean says = file.languages().size() > 1
                || file.bilingual()
                || file.format().equals("android")
                || before != null
                || only;
        if (file.prints().size() == 0 && before == null) {
            setApart(file, Why.NO_TEXTS, null);
            return Optional.empty();
        }
        if (!says) {
            setApart(file, Why.ALONE, null);
            return Optional.empty();
        }
        boolean several = file.languages().size() > 1;
        FileSet.Source source = before == null
                ? SourceFinder.ofOne(file)
                : new FileSet.Source(before.source(), Optional.of(file.path()), FileSet.Evidence.TABLE);
        Optional<LanguageTag> language =
                several || file.bilingual() ? Optional.<LanguageTag>empty() : Optional.of(source.language());
        return Optional.of(new FileSet(
                file.path(),
                "",
                List.of(new Member(file.path(), before == null ? language : before.language(), "")),
                source,
                before == null ? null : before.table()));
    }
}
