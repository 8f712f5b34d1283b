package mellow.core.format.registry;

import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collections;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import mellow.core.format.Aspect;
import mellow.core.format.EntryList;
import mellow.core.format.FileEntry;
import mellow.core.format.FileFormat;
import mellow.core.format.FileState;
import mellow.core.format.FileText;
import mellow.core.format.UnwritableTextException;
import mellow.core.language.LanguageTag;
import mellow.core.text.Shape;

/**
 * What fresh files of a format would not hold of some entries, told before they are written; of a format with a file per language, all its files.
 *
 * @param counts how many are concerned: entries, or texts where it is about texts; what is not lost is absent
 * @param refused the keys of entries that the format cannot hold at all, the first {@value #NAMED} of them
 * @param refusedCount how many there are
 * @param why the sentence about the first of them; empty when there is none
 */
public record Losses(Map<Aspect, Integer> counts, List<String> refused, int refusedCount, String why) {

    /** So many keys are named. */
    public static final int NAMED = 100;

    /** Looks at all entries once. */
    public static Losses of(FileFormat format, EntryList entries) {
        Set<Aspect> kept = format.keeps();
        Map<Aspect, Integer> counts = new EnumMap<>(Aspect.class);
        int source = entries.sourceLanguage().map(entries.languages()::indexOf).orElse(-1);
        for (int i = 0; i < entries.size(); i++) {
            FileEntry entry = entries.entry(i);
            for (Aspect aspect : Aspect.values()) {
                int concerned = kept.contains(aspect) ? 0 : concerned(aspect, entry, source);
                if (concerned > 0) {
                    counts.merge(aspect, concerned, Integer::sum);
                }
            }
            int forms = homeless(format, entry, entries.languages(), source);
            if (forms > 0) {
                counts.merge(Aspect.PLURAL_FORMS, forms, Integer::sum);
            }
        }
        Refused refused = Refused.of(format, entries);
        return new Losses(Collections.unmodifiableMap(counts), List.copyOf(refused.keys), refused.count, refused.why);
    }

    private static int concerned(Aspect aspect, FileEntry entry, int source) {
        return switch (aspect) {
            case CONTEXT -> entry.context().isEmpty() ? 0 : 1;
            case NOTE -> entry.note().isEmpty() ? 0 : 1;
            case REFERENCE -> entry.reference().isEmpty() ? 0 : 1;
            case SECTION -> entry.section().isEmpty() ? 0 : 1;
            case LIMIT -> entry.maxLength() == 0 ? 0 : 1;
            case NOT_FOR_TRANSLATION -> entry.translatable() ? 0 : 1;
            case STATE, UNSETTLED_TEXT -> count(entry, source, Losses::unsettled);
            case UNTRANSLATED -> count(entry, source, FileText::isEmpty);
            case LINE_BREAKS ->
                count(entry, -1, text -> text.forms().values().stream().anyMatch(one -> one.indexOf('\r') >= 0));
            case PLURAL_FORMS -> 0;
        };
    }

    private static boolean unsettled(FileText text) {
        return !text.isEmpty()
                && text.state()
                        .filter(state -> state == FileState.PENCILLED || state == FileState.OFFERED)
                        .isPresent();
    }

    private static int count(FileEntry entry, int without, Predicate<FileText> what) {
        int count = 0;
        for (int i = 0; i < entry.texts().size(); i++) {
            count += i != without && what.test(entry.texts().get(i)) ? 1 : 0;
        }
        return count;
    }

    /** Texts with a form that the format has no place for. */
    private static int homeless(FileFormat format, FileEntry entry, List<LanguageTag> languages, int source) {
        if (entry.shape() != Shape.PLURAL) {
            return 0;
        }
        int homeless = 0;
        for (int i = 0; i < languages.size(); i++) {
            Optional<Set<String>> held = format.forms(languages.get(i), i == source);
            Set<String> forms = entry.texts().get(i).forms().keySet();
            homeless += held.filter(known -> !known.containsAll(forms)).isPresent() ? 1 : 0;
        }
        return homeless;
    }

    /** The entries that a format can hold; the others are {@link #refused}. */
    public static EntryList writable(FileFormat format, EntryList entries) {
        BitSet refused = new BitSet();
        Refused.find(format, entries, 0, entries.size(), refused);
        return refused.isEmpty() ? entries : range(entries, 0, entries.size(), refused);
    }

    private static EntryList range(EntryList entries, int from, int to, BitSet without) {
        List<FileEntry> some = new ArrayList<>(to - from);
        for (int i = without.nextClearBit(from); i < to; i = without.nextClearBit(i + 1)) {
            some.add(entries.entry(i));
        }
        return EntryList.of(entries.sourceLanguage(), entries.languages(), some);
    }

    /**
     * Writes a file, and when it cannot be written names every entry that stands against it.
     *
     * @throws UnwritableTextException naming them, the first {@value #NAMED}, and how many there are
     */
    public static void write(FileFormat format, EntryList entries, OutputStream out) throws IOException {
        write(format, entries, () -> format.write(entries, out));
    }

    /** The writing of a file, in a way of the caller's own. */
    @FunctionalInterface
    public interface Writing {

        /** Writes it all. */
        void write() throws IOException;
    }

    /** The same, written as {@code writing} does. */
    public static void write(FileFormat format, EntryList entries, Writing writing) throws IOException {
        try {
            writing.write();
        } catch (UnwritableTextException one) {
            Refused refused = Refused.of(format, entries);
            throw refused.count < 2 ? one : new UnwritableTextException(refused.sentence());
        }
    }

    /** The entries that cannot be written. */
    private record Refused(List<String> keys, int count, String why) {

        static Refused of(FileFormat format, EntryList entries) {
            BitSet refused = new BitSet();
            find(format, entries, 0, entries.size(), refused);
            List<String> keys = refused.stream()
                    .limit(NAMED)
                    .mapToObj(i -> entries.entry(i).key())
                    .toList();
            String why = refused.isEmpty()
                    ? ""
                    : against(format, entries.entry(refused.nextSetBit(0)), entries)
                            .orElse("");
            return new Refused(keys, refused.cardinality(), why);
        }

        /** By halves: what can be written together is written once, and only what stands against it is sought. */
        static void find(FileFormat format, EntryList entries, int from, int to, BitSet refused) {
            if (to - from < 2) {
                if (to > from && against(format, entries.entry(from), entries).isPresent()) {
                    refused.set(from);
                }
            } else if (!written(format, range(entries, from, to, new BitSet()))) {
                int middle = (from + to) / 2;
                find(format, entries, from, middle, refused);
                find(format, entries, middle, to, refused);
            }
        }

        private static boolean written(FileFormat format, EntryList entries) {
            try {
                for (EntryList file : files(format, entries)) {
                    format.write(file, OutputStream.nullOutputStream());
                }
                return true;
            } catch (UnwritableTextException refused) {
                return false;
            } catch (IOException impossible) {
                throw new UncheckedIOException(impossible);
            }
        }

        private static Optional<String> against(FileFormat format, FileEntry entry, EntryList all) {
            EntryList only = EntryList.of(all.sourceLanguage(), all.languages(), List.of(entry));
            return files(format, only).stream()
                    .flatMap(file -> format.against(file.entry(0), file).stream())
                    .findFirst();
        }

        /** The files that it takes: languages that have files of their own are each beside the source. */
        private static List<EntryList> files(FileFormat format, EntryList all) {
            int source = all.sourceLanguage().map(all.languages()::indexOf).orElse(-1);
            if (!format.apart() || source < 0 || all.languages().size() < 3) {
                return List.of(all);
            }
            List<EntryList> files = new ArrayList<>();
            for (int i = 0; i < all.languages().size(); i++) {
                if (i != source) {
                    List<FileEntry> entries = new ArrayList<>(all.size());
                    for (int at = 0; at < all.size(); at++) {
                        List<FileText> texts = all.entry(at).texts();
                        entries.add(all.entry(at).with(List.of(texts.get(source), texts.get(i))));
                    }
                    files.add(EntryList.of(
                            all.sourceLanguage(),
                            List.of(all.languages().get(source), all.languages().get(i)),
                            entries));
                }
            }
            return files;
        }

        String sentence() {
            return why + " The same holds for " + (count - 1) + " more: "
                    + String.join(", ", keys.subList(1, keys.size()))
                    + (count > keys.size() ? " and " + (count - keys.size()) + " others." : ".");
        }
    }
}
