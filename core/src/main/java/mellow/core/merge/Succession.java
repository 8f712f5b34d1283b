package mellow.core.merge;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.IntPredicate;
import java.util.function.Predicate;
import mellow.core.format.EntryId;
import mellow.core.format.FileEntry;
import mellow.core.format.FileReading;
import mellow.core.format.FileText;
import mellow.core.language.LanguageTag;
import mellow.core.memory.Similarity;
import org.jspecify.annotations.Nullable;

/**
 * Which entries that a file lost live on in which of its new ones. From the surest sign to the weakest: the same source and context; the file says from
 * which source the new one was made; in bilingual files, whose keys are sources or numbers, also: the same context or the same key; the same place with
 * a source that is alike. Where a sign fits two, it is no
 * sign: every entry has one heir at most and is the heir of one at most. Cost: one pass over both files, and for places the product of
 * what stands in them, within {@value #MOST_SYMBOLS} compared symbols.
 */
final class Succession {

    /** What two sources at the same place must have in common, in percent. */
    private static final int ALIKE = 50;

    /** Enough for thousands of rewritten sentences; a file without anything in common with what it was is not guessed about. */
    private static final long MOST_SYMBOLS = 400_000_000L;

    private static final long MOST_IN_PLACE = 2_500;

    /** Nothing succeeds anything. */
    static final Succession NONE = new Succession();

    private final Map<EntryId, Integer> heirs = new HashMap<>();
    private final Map<Integer, Integer> formers = new HashMap<>();

    private record Said(String context, FileText source) {}

    private record Between(@Nullable EntryId before, @Nullable EntryId after) {}

    /** An entry of one side that the other lacks, with its neighbours that both have. */
    private record Loose(int at, FileEntry entry, FileText source, Between place) {}

    private Succession() {}

    /**
     * Finds them.
     *
     * @param base what the file held last time
     * @param there whether an entry of the base, by index, was lost
     * @param fresh whether an entry of the file, by index, is new
     * @param source the table's source language; without a column of it in both files nothing is found
     */
    static Succession of(
            FileReading base, FileReading file, IntPredicate there, IntPredicate fresh, LanguageTag source) {
        int baseColumn = base.sourceColumn(source);
        int column = file.sourceColumn(source);
        if (baseColumn < 0 || column < 0) {
            return NONE;
        }
        List<Loose> gone = loose(base, there, baseColumn);
        List<Loose> come = gone.isEmpty() ? List.of() : loose(file, fresh, column);
        Succession found = new Succession();
        if (!come.isEmpty()) {
            Set<String> shared = new HashSet<>(Set.of(""));
            for (int i = 0; i < file.size(); i++) {
                if (!fresh.test(i)) {
                    shared.add(file.id(i).context());
                }
            }
            found.find(gone, come, shared, base.bilingual() && file.bilingual());
        }
        return found;
    }

    private static List<Loose> loose(FileReading file, IntPredicate wanted, int column) {
        List<Loose> found = new ArrayList<>();
        EntryId before = null;
        int waiting = 0;
        for (int i = 0; i < file.size(); i++) {
            if (wanted.test(i)) {
                FileEntry entry = file.entry(i);
                FileText text = FileText.of(entry.texts().get(column).forms());
                found.add(new Loose(i, entry, text, new Between(before, null)));
            } else {
                before = file.id(i);
                for (; waiting < found.size(); waiting++) {
                    Loose one = found.get(waiting);
                    found.set(waiting, new Loose(one.at, one.entry, one.source, new Between(one.place.before, before)));
                }
            }
        }
        return found;
    }

    /** {@code shared}: contexts that tell nothing, because entries that both files have stand in them too. */
    private void find(List<Loose> gone, List<Loose> come, Set<String> shared, boolean bilingual) {
        unique(gone, come, one -> one.source.isEmpty() ? null : new Said(one.entry.context(), one.source));
        unique(
                gone,
                come,
                one -> new EntryId(one.entry.key(), one.entry.context()),
                one -> one.entry.former().isEmpty() ? null : new EntryId(one.entry.former(), one.entry.context()));
        if (!bilingual) {
            // Their keys are names that somebody gave; another name is another thing.
            return;
        }
        unique(gone, come, one -> shared.contains(one.entry.context()) ? null : one.entry.context());
        unique(gone, come, one -> one.entry.key());
        long[] left = {MOST_SYMBOLS};
        alike(gone, come, one -> one.place, left);
        alike(gone, come, one -> one.place.before, left);
        alike(gone, come, one -> one.place.after, left);
    }

    private void unique(List<Loose> gone, List<Loose> come, Function<Loose, @Nullable Object> sign) {
        unique(gone, come, sign, sign);
    }

    /** Joins those that alone have a sign among the gone and among the new. */
    private void unique(
            List<Loose> gone,
            List<Loose> come,
            Function<Loose, @Nullable Object> ofGone,
            Function<Loose, @Nullable Object> ofNew) {
        Map<Object, Loose> signs = bySign(gone, ofGone, one -> heirs.containsKey(one.entry.id()));
        Map<Object, Loose> fresh = bySign(come, ofNew, one -> formers.containsKey(one.at));
        fresh.forEach((sign, one) -> {
            Loose former = signs.get(sign);
            if (former != null && former != AMBIGUOUS && one != AMBIGUOUS) {
                join(former, one);
            }
        });
    }

    private static final Loose AMBIGUOUS =
            new Loose(-1, FileEntry.of("").build(), FileText.NONE, new Between(null, null));

    private static Map<Object, Loose> bySign(
            List<Loose> all, Function<Loose, @Nullable Object> sign, Predicate<Loose> settled) {
        Map<Object, Loose> found = new HashMap<>();
        for (Loose one : all) {
            Object its = settled.test(one) ? null : sign.apply(one);
            if (its != null) {
                found.merge(its, one, (a, b) -> AMBIGUOUS);
            }
        }
        return found;
    }

    /** Joins within a place the pairs whose sources are most alike, the best first. */
    private void alike(List<Loose> gone, List<Loose> come, Function<Loose, @Nullable Object> place, long[] left) {
        Map<Object, List<Loose>> lost = byPlace(gone, place, one -> heirs.containsKey(one.entry.id()));
        Map<Object, List<Loose>> fresh = byPlace(come, place, one -> formers.containsKey(one.at));
        lost.forEach((where, formers) -> pair(formers, fresh.getOrDefault(where, List.of()), left));
    }

    private static Map<Object, List<Loose>> byPlace(
            List<Loose> all, Function<Loose, @Nullable Object> place, Predicate<Loose> settled) {
        Map<Object, List<Loose>> found = new HashMap<>();
        for (Loose one : all) {
            Object where = settled.test(one) || one.source.isEmpty() ? null : place.apply(one);
            if (where != null) {
                found.computeIfAbsent(where, any -> new ArrayList<>()).add(one);
            }
        }
        return found;
    }

    private record Claim(boolean gone, int at, int percent) {}

    private record Pair(Loose gone, Loose come, int percent) {

        Claim ofGone() {
            return new Claim(true, gone.at, percent);
        }

        Claim ofNew() {
            return new Claim(false, come.at, percent);
        }
    }

    private void pair(List<Loose> gone, List<Loose> come, long[] left) {
        // In a place with more the order tells: what was rewritten kept its turn.
        boolean all = (long) gone.size() * come.size() <= MOST_IN_PLACE;
        if (!all && gone.size() != come.size()) {
            return;
        }
        List<Pair> pairs = new ArrayList<>();
        for (int i = 0; i < gone.size(); i++) {
            Loose former = gone.get(i);
            Similarity similarity = null;
            for (Loose one : all ? come : List.of(come.get(i))) {
                String mine = former.source.main();
                String theirs = one.source.main();
                long cost = Math.min(mine.length(), Similarity.LONGEST)
                        * (long) Math.min(theirs.length(), Similarity.LONGEST);
                // Lengths alone rule most out.
                boolean possible = 100L * Math.min(mine.length(), theirs.length())
                        >= (long) ALIKE * Math.max(mine.length(), theirs.length());
                if (possible && former.entry.shape() == one.entry.shape() && (left[0] -= cost) >= 0) {
                    similarity = similarity == null ? Similarity.to(mine) : similarity;
                    int percent = similarity.percent(theirs);
                    if (percent >= ALIKE) {
                        pairs.add(new Pair(former, one, percent));
                    }
                }
            }
        }
        pairs.sort((a, b) -> b.percent - a.percent);
        Map<Object, Integer> claims = new HashMap<>();
        for (Pair pair : pairs) {
            claims.merge(pair.ofGone(), 1, Integer::sum);
            claims.merge(pair.ofNew(), 1, Integer::sum);
        }
        for (Pair pair : pairs) {
            boolean open = !heirs.containsKey(pair.gone.entry.id()) && !formers.containsKey(pair.come.at);
            // Where two are equally alike, neither can be told to be the one.
            if (open && only(claims.get(pair.ofGone())) && only(claims.get(pair.ofNew()))) {
                join(pair.gone, pair.come);
            }
        }
    }

    private static boolean only(@Nullable Integer claims) {
        return claims != null && claims == 1;
    }

    private void join(Loose gone, Loose come) {
        if (gone.entry.shape() == come.entry.shape()) {
            heirs.put(gone.entry.id(), come.at);
            formers.put(come.at, gone.at);
        }
    }

    /** The index in the file of what {@code gone} became; null for nothing. */
    @Nullable
    Integer heirOf(EntryId gone) {
        return heirs.get(gone);
    }

    /** The index in the base of what the file's entry at {@code index} was; null for nothing. */
    @Nullable
    Integer formerOf(int index) {
        return formers.get(index);
    }
}
