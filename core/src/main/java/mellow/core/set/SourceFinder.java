package mellow.core.set;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import mellow.core.language.LanguageTag;
import mellow.core.set.FileSet.Evidence;
import mellow.core.set.FileSet.Source;

/** Tells what a set is translated from, by evidence. */
final class SourceFinder {

    private static final LanguageTag ENGLISH = new LanguageTag("en");

    /** So many keys of each file are compared; a share of them is known to a percent. */
    private static final int SAMPLE = 2_000;

    /** Texts that a file shares with another language by accident: "OK", names, units; and words of near languages, Spanish and Galician for one. */
    private static final double BY_ACCIDENT = 0.12;

    private static final int FEW = 3;

    /** A base says what this share of another file says: it is in that language. */
    private static final double SAME_LANGUAGE = 0.6;

    private static final Set<String> CATALOGUES = Set.of("po", "mo");

    private SourceFinder() {}

    /**
     * The source of files by language.
     *
     * @param files one per language
     * @param base the file that has no language in its name
     */
    static Source of(Map<LanguageTag, FileFacts> files, Optional<FileFacts> base) {
        if (base.isPresent()) {
            FileFacts file = base.get();
            return new Source(
                    languageOf(file, files),
                    Optional.of(file.path()),
                    file.template() ? Evidence.TEMPLATE : Evidence.BASE);
        }
        return translatedFrom(files)
                .or(() -> untranslated(files))
                .or(() -> english(files))
                .orElseGet(() -> fullest(files));
    }

    /** The source of one file that stands alone. */
    static Source ofOne(FileFacts file) {
        LanguageTag language = file.from()
                .or(() ->
                        file.languages().stream().filter(SourceFinder::english).findFirst())
                .or(() -> file.languages().stream().findFirst())
                .orElse(ENGLISH);
        return new Source(language, Optional.of(file.path()), Evidence.ALONE);
    }

    private static boolean english(LanguageTag tag) {
        return tag.language().equals("en");
    }

    /** The language of a base: as it says, else of the file that says the same, else English unless a file of its own says otherwise, else unknown. */
    private static LanguageTag languageOf(FileFacts base, Map<LanguageTag, FileFacts> files) {
        Optional<LanguageTag> said =
                base.from().or(() -> base.languages().stream().findFirst());
        if (said.isPresent()) {
            return said.get();
        }
        LanguageTag closest = null;
        double most = SAME_LANGUAGE;
        for (Map.Entry<LanguageTag, FileFacts> one : files.entrySet()) {
            int texts = one.getValue().prints().texts();
            double share = texts == 0 ? 0 : (double) one.getValue().prints().same(base.prints()) / texts;
            if (share > most) {
                closest = one.getKey();
                most = share;
            }
        }
        if (closest != null) {
            // What a region says like the base it took over; where nobody speaks for the language itself, the base
            // does.
            LanguageTag bare = new LanguageTag(closest.language());
            return files.containsKey(bare) ? closest : bare;
        }
        FileFacts english = files.get(ENGLISH);
        return english == null || english.prints().texts() == 0 ? ENGLISH : LanguageTag.UNDETERMINED;
    }

    private static Optional<Source> translatedFrom(Map<LanguageTag, FileFacts> files) {
        Map<LanguageTag, Integer> said = new HashMap<>();
        files.values().forEach(file -> file.from().ifPresent(tag -> said.merge(tag, 1, Integer::sum)));
        return said.entrySet().stream()
                .max(Map.Entry.<LanguageTag, Integer>comparingByValue().thenComparing(Map.Entry.comparingByKey()))
                .map(Map.Entry::getKey)
                .map(tag -> new Source(tag, leading(files, tag), Evidence.TRANSLATED_FROM));
    }

    /**
     * The file that says which entries there are: in most formats the one from the source language to itself. Catalogues bring their sources each, and grow
     * old by themselves, so that one whose messages most of the others have leads.
     */
    static Optional<String> leading(Map<LanguageTag, FileFacts> files, LanguageTag source) {
        boolean catalogues = files.values().stream().allMatch(file -> CATALOGUES.contains(file.format()));
        if (!catalogues) {
            return Optional.ofNullable(files.get(source)).map(FileFacts::path);
        }
        int largest = files.values().stream()
                .mapToInt(file -> file.prints().size())
                .max()
                .orElse(0);
        Map<FileFacts, Prints> prints = new LinkedHashMap<>();
        files.values().forEach(file -> prints.put(file, file.prints().sample(SAMPLE, largest)));
        return files.values().stream()
                .max(Comparator.comparing(
                                (FileFacts file) -> shared(Objects.requireNonNull(prints.get(file)), prints.values()))
                        .thenComparing(file -> file.prints().texts())
                        .thenComparing(FileFacts::path, Comparator.reverseOrder()))
                .map(FileFacts::path);
    }

    /** What a file has in common with the others, less what it has alone: of two that share as much, the one without a past. */
    private static long shared(Prints one, Collection<Prints> all) {
        long shared = 0;
        for (Prints other : all) {
            shared += 2L * one.common(other) - one.size();
        }
        return shared;
    }

    /**
     * What is untranslated in a file says what its source says. The file that others share most with, and enough of them more than near languages share by
     * accident, is what they were translated from: what two translations have in common that way, the source has too.
     */
    private static Optional<Source> untranslated(Map<LanguageTag, FileFacts> files) {
        int largest = files.values().stream()
                .mapToInt(file -> file.prints().size())
                .max()
                .orElse(0);
        List<LanguageTag> tags = new ArrayList<>(files.keySet());
        List<Prints> prints = tags.stream()
                .map(tag -> Objects.requireNonNull(files.get(tag)).prints().sample(SAMPLE, largest))
                .toList();
        double[] shares = new double[tags.size()];
        int[] sharing = new int[tags.size()];
        for (int i = 0; i < tags.size(); i++) {
            int texts = prints.get(i).texts();
            for (int j = 0; j < tags.size(); j++) {
                boolean other = !tags.get(i).language().equals(tags.get(j).language());
                int same = other ? prints.get(i).same(prints.get(j)) : 0;
                if (same >= FEW && same > BY_ACCIDENT * texts) {
                    sharing[j]++;
                    shares[j] += (double) same / texts;
                }
            }
        }
        int most = 0;
        for (int i = 1; i < shares.length; i++) {
            most = shares[i] > shares[most] ? i : most;
        }
        for (int i = 0; i < shares.length; i++) {
            if (i != most && shares[i] == shares[most]) {
                return Optional.empty();
            }
        }
        boolean enough = sharing[most] >= Math.max(2, tags.size() / 3);
        return enough ? Optional.of(source(tags.get(most), files, Evidence.UNTRANSLATED)) : Optional.empty();
    }

    private static Optional<Source> english(Map<LanguageTag, FileFacts> files) {
        return files.keySet().stream()
                .filter(SourceFinder::english)
                // "en" before "en-GB".
                .min(Comparator.comparing((LanguageTag tag) -> tag.value().length())
                        .thenComparing(tag -> tag))
                .map(tag -> source(tag, files, files.size() == 1 ? Evidence.ALONE : Evidence.ENGLISH));
    }

    private static Source fullest(Map<LanguageTag, FileFacts> files) {
        LanguageTag tag = files.keySet().stream()
                .max(Comparator.comparing((LanguageTag one) ->
                                Objects.requireNonNull(files.get(one)).prints().texts())
                        .thenComparing(Comparator.reverseOrder()))
                .orElseThrow();
        return source(tag, files, files.size() == 1 ? Evidence.ALONE : Evidence.FULLEST);
    }

    private static Source source(LanguageTag tag, Map<LanguageTag, FileFacts> files, Evidence evidence) {
        return new Source(
                tag, Optional.of(Objects.requireNonNull(files.get(tag)).path()), evidence);
    }
}
