package mellow.server.asset;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import mellow.core.asset.AssetNames;
import mellow.core.asset.AssetPattern;
import mellow.core.asset.AssetPattern.Named;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;
import mellow.core.text.Text;
import mellow.server.asset.AssetSetRows.FileRow;
import org.jspecify.annotations.Nullable;

/** The files of a set, each for an entry and a language as its name says or somebody said, and what stands against that. */
final class NamedAssets {

    private final List<One> files = new ArrayList<>();
    private final LanguageTag source;

    /**
     * A file.
     *
     * @param key null when nothing tells it
     * @param language null when nothing tells it
     * @param leftOut whether it stays out: because somebody said so, because it cannot go in, or because its name tells no language
     * @param why one sentence about what stands against it, null for nothing
     * @param blocks whether nothing goes in before that is corrected
     */
    record One(
            FileRow row,
            @Nullable String key,
            @Nullable LanguageTag language,
            boolean leftOut,
            @Nullable String why,
            boolean blocks) {}

    NamedAssets(List<FileRow> rows, List<AssetPattern> patterns, LanguageTag source) {
        this.source = source;
        List<Optional<Named>> named =
                AssetNames.read(rows.stream().map(FileRow::path).toList(), patterns, source);
        Map<String, String> taken = new HashMap<>();
        for (int i = 0; i < rows.size(); i++) {
            files.add(one(rows.get(i), named.get(i), taken));
        }
    }

    private static One one(FileRow row, Optional<Named> named, Map<String, String> taken) {
        String key = row.key() != null ? row.key() : named.map(Named::key).orElse(null);
        LanguageTag language = row.language() != null
                ? new LanguageTag(row.language())
                : named.map(Named::language).orElse(null);
        if (row.problem() != null) {
            return new One(row, key, language, true, row.problem(), false);
        }
        boolean told = key != null && language != null;
        boolean leftOut = row.leftOut() != null ? row.leftOut() : !told;
        if (leftOut) {
            return new One(row, key, language, true, told ? null : "Its name tells no language.", false);
        }
        if (!told) {
            String lacking = key == null ? "its entry" : "its language";
            return new One(
                    row, key, language, false, row.path() + " goes in, and nothing tells " + lacking + ".", true);
        }
        String other = taken.putIfAbsent(key + "\0" + language, row.path());
        return other == null
                ? new One(row, key, language, false, null, false)
                : new One(
                        row,
                        key,
                        language,
                        false,
                        row.path() + " and " + other + " are both for “" + key + "” in " + language
                                + "; leave one out, or give it another key.",
                        true);
    }

    List<One> files() {
        return files;
    }

    /** The files that go in, by key and then by language. */
    Map<String, Map<LanguageTag, One>> entries() {
        Map<String, Map<LanguageTag, One>> entries = new LinkedHashMap<>();
        for (One one : files) {
            if (!one.leftOut && one.key != null && one.language != null) {
                entries.computeIfAbsent(one.key, any -> new LinkedHashMap<>()).putIfAbsent(one.language, one);
            }
        }
        return entries;
    }

    /** The languages of files that go in, the source first. */
    Set<LanguageTag> languages() {
        Set<LanguageTag> languages = new LinkedHashSet<>(List.of(source));
        entries().values().forEach(one -> languages.addAll(one.keySet()));
        return languages;
    }

    /** What stands against comparing them with a table. */
    Optional<String> blocked() {
        return files.stream().filter(One::blocks).map(One::why).findFirst();
    }

    /** The same as entries of shape asset. */
    EntryList list() {
        List<LanguageTag> languages = List.copyOf(languages());
        List<FileEntry> entries = new ArrayList<>();
        entries()
                .forEach((key, byLanguage) -> entries.add(FileEntry.of(key)
                        .shape(Shape.ASSET)
                        .texts(languages.stream()
                                .map(tag -> text(byLanguage.get(tag)))
                                .toList())
                        .build()));
        return EntryList.of(Optional.of(source), languages, entries);
    }

    private static FileText text(@Nullable One one) {
        if (one == null) {
            return FileText.NONE;
        }
        SortedMap<String, String> forms = new TreeMap<>();
        String path = one.row.path();
        forms.put(Text.OTHER, path.substring(path.lastIndexOf('/') + 1));
        forms.put(Shape.FILE, Objects.requireNonNull(one.row.file()).toString());
        return FileText.of(forms);
    }
}
